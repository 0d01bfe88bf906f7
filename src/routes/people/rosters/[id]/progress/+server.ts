import { error, json } from '@sveltejs/kit';
import { z } from 'zod';
import { isAllowed } from '$lib/server/access/may';
import { stateOf } from '$lib/server/desk/roster/views';
import { progressOf } from '$lib/server/http/roster-work';
import { services } from '$lib/server/services';

/** How far a file is. */
export const GET = async ({ params, locals }) => {
	const id = z.coerce.number().int().positive().safeParse(params.id);
	if (!id.success || !isAllowed(locals.user!, 'bring-roster'))
		error(404, 'There is no such roster.');
	const { db } = await services();
	const state = await stateOf(db, id.data);
	if (state === null) error(404, 'There is no such roster.');
	const progress = progressOf(id.data);
	return json({ state, underWay: progress !== undefined, ...(progress ?? { done: 0, what: '' }) });
};
