import { error, fail, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { workZone } from '$lib/server/access/work-clock';
import { endStanding, tryAgain } from '$lib/server/desk/send/standing';
import { standingView } from '$lib/server/desk/week/standing';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);

export const load: PageServerLoad = async ({ locals, params }) => {
	const { db } = await services();
	const id = idSchema.safeParse(params.id);
	const standing = id.success ? await standingView(db, locals.user!, id.data) : null;
	if (!standing) error(404, 'There is no such sheet of yours.');
	return { standing, zone: await workZone(db, locals.user!) };
};

async function act(event: RequestEvent, work: typeof endStanding, said: string) {
	await readForm(event.request);
	const id = idSchema.safeParse(event.params.id);
	if (!id.success) return fail(404, { why: 'Load the page again.' });
	const { db } = await services();
	const done = await work(db, event.locals.user!, id.data);
	return done.ok ? { said } : fail(403, { why: done.why });
}

export const actions: Actions = {
	end: (event) => act(event, endStanding, 'Ended. What has left stays.'),
	again: (event) => act(event, tryAgain, 'It is worked out once more.')
};
