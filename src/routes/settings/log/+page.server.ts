import { error } from '@sveltejs/kit';
import { has } from '$lib/server/access/rights';
import { logFilterSchema, logPage } from '$lib/server/desk/log/log';
import { logKinds, type LogKind } from '$lib/server/desk/log/types';
import { services } from '$lib/server/services';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, url }) => {
	const user = locals.user!;
	if (!has(user, 'log')) error(403, 'Whoever looks after the district reads what was done.');
	const filter = logFilterSchema.parse(Object.fromEntries(url.searchParams));
	const { db } = await services();
	return {
		log: await logPage(db, user, filter),
		filter,
		kinds: Object.entries(logKinds).map(([value, text]) => ({ value: value as LogKind, text }))
	};
};
