import { json } from '@sveltejs/kit';
import { z } from 'zod';
import { isAllowed } from '$lib/server/access/may';
import { codeRefused } from '$lib/server/desk/joining/open-group';
import { groupIdOf } from '$lib/server/http/joining';
import { services } from '$lib/server/services';

const codeSchema = z.string().max(60).catch('');

/** Says of a code that is being typed why it cannot be taken; null where it can. */
export const GET = async ({ params, locals, url }) => {
	if (!isAllowed(locals.user!, 'correct-people')) return json({ why: 'Ask the school office.' });
	const code = codeSchema.parse(url.searchParams.get('code'));
	const { db } = await services();
	return json({ why: await codeRefused(db, code, groupIdOf(params)) });
};
