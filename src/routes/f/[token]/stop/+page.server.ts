import { error } from '@sveltejs/kit';
import { z } from 'zod';
import { hasStopped, kindOfDispatch, setStopped } from '$lib/server/desk/family/own-choices';
import { openedLink } from '$lib/server/http/open-link';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';
import { readForm } from '$lib/server/http/read-form';

const wantedSchema = z.enum(['stop', 'again']);

async function asked(token: string) {
	const s = await services();
	const link = await openedLink(s, token);
	const kind = await kindOfDispatch(s.db, link.dispatchId);
	if (!kind) error(404, 'This link belongs to no letter. Use the one at the end of a letter.');
	return { db: s.db, personId: link.personId, kind };
}

export const load: PageServerLoad = async ({ params }) => {
	const { db, personId, kind } = await asked(params.token);
	return { kind, stopped: await hasStopped(db, personId, kind) };
};

export const actions: Actions = {
	default: async ({ params, request }) => {
		const { db, personId, kind } = await asked(params.token);
		const wanted = wantedSchema.safeParse((await readForm(request)).wanted);
		if (!wanted.success) error(400, 'Say whether to stop or to begin again.');
		await setStopped(db, personId, kind, wanted.data === 'stop');
	}
};
