import { error, fail, redirect, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { localTimeSchema } from '$lib/core/time/timing';
import { callBack } from '../desk/send/call-back';
import { leaveOut, leaveRestOut } from '../desk/calendar/round-view';
import { ask } from '../planner/planner';
import { services } from '../services';
import { readForm, type Form } from './read-form';

const idSchema = z.coerce.number().int().positive();
/** Reads the form of a page whose event or round is there; on one that is not, nothing is done. */
async function form(event: RequestEvent): Promise<Form> {
	const { db } = await services();
	const id = idSchema.safeParse(event.params.id);
	const ofEvent = event.route.id?.includes('/events/');
	const there =
		id.success &&
		(ofEvent
			? (await db.one('SELECT 1 FROM school_event WHERE id = $id', { id: id.data })) !== undefined
			: (await ask('roundViews', event.locals.user!, { roundId: id.data })).length > 0);
	if (!there) error(404, 'There is no such event or round. Load the page again.');
	return readForm(event.request);
}
const wrong = fail(400, { why: 'That cannot be read. Load the page again and try once more.' });

/** What can be done with one date of a round or one reminder of an event; the pages of both offer the same. */
export const dateActions = {
	move: async (event: RequestEvent) => {
		const parsed = z
			.object({ id: idSchema, to: localTimeSchema, base: z.coerce.number() })
			.safeParse(await form(event));
		if (!parsed.success) return wrong;
		const { id, to, base } = parsed.data;
		const moved = await ask('move', event.locals.user!, id, to, base);
		return moved.ok ? { done: 'Moved.' } : fail(409, { why: moved.why });
	},
	leaveOut: async (event: RequestEvent) => {
		const id = idSchema.safeParse((await form(event)).id);
		if (!id.success) return wrong;
		const { db } = await services();
		const out = await leaveOut(db, event.locals.user!, id.data);
		return out.ok ? { done: 'Left out.' } : fail(409, { why: out.why });
	},
	leaveRest: async (event: RequestEvent) => {
		const id = idSchema.safeParse((await form(event)).round);
		if (!id.success) return wrong;
		const { db } = await services();
		const n = await leaveRestOut(db, event.locals.user!, id.data);
		return { done: `${n} left out.` };
	},
	resume: async (event: RequestEvent) => {
		const id = idSchema.safeParse((await form(event)).id);
		if (!id.success) return wrong;
		const resumed = await ask('resume', event.locals.user!, id.data);
		return resumed.ok ? { done: 'It goes at its time.' } : fail(409, { why: resumed.why });
	},
	open: async (event: RequestEvent) => {
		const id = idSchema.safeParse((await form(event)).id);
		if (!id.success) return wrong;
		const { db } = await services();
		const back = await callBack(db, event.locals.user!, id.data);
		if (!back.ok) return fail(409, { why: back.why });
		redirect(303, `/write?draft=${id.data}`);
	}
};
