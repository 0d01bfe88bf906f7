import { now } from '$lib/server/clock';
import { may } from '$lib/server/access/may';
import { error, fail } from '@sveltejs/kit';
import { z } from 'zod';
import { callBack } from '$lib/server/desk/send/call-back';
import { takeOff } from '$lib/server/desk/boards/change-post';
import { invitationReach } from '$lib/server/desk/invitations/reach';
import { onBoards } from '$lib/server/desk/boards/on-boards';
import { copyFilter } from '$lib/server/desk/track/copy-filter';
import { courierStatus } from '$lib/server/desk/office/courier-status';
import { stopRest } from '$lib/server/desk/send/stop';
import { answeredByPerson } from '$lib/server/desk/replies/answer-by-person';
import { talksAbout } from '$lib/server/desk/replies/shelf-counts';
import { sendOnceMore } from '$lib/server/desk/send/once-more';
import { readForm } from '$lib/server/http/read-form';
import { ask } from '$lib/server/planner/planner';
import { logOfThing } from '$lib/server/desk/log/log';
import { services } from '$lib/server/services';
import { redirect } from '@sveltejs/kit';
import type { Actions, PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
const filterSchema = copyFilter('not-covered', 'weak', 'unsure').extend({
	section: z.coerce.number().int().min(0).catch(0),
	search: z.string().trim().max(100).catch('')
});

export const load: PageServerLoad = async ({ params, url, locals, depends }) => {
	depends('live:dispatch');
	const id = idSchema.safeParse(params.id);
	if (!id.success) error(404, 'There is no dispatch at this address.');
	const filter = filterSchema.parse(Object.fromEntries(url.searchParams));
	const { db, key, settings } = await services();
	const reach = await ask('reach', locals.user!, id.data, filter);
	if (!reach) error(404, 'There is no such dispatch, or it is not yours to see.');
	return {
		reach,
		filter,
		talks: await talksAbout(db, locals.user!, id.data, Math.round(await now(db))),
		boards: await onBoards(db, locals.user!, id.data),
		invitation: await invitationReach(
			db,
			{ key, publicUrl: settings.publicUrl },
			locals.user!,
			id.data
		),
		mayWrite: may(locals.user!, 'write'),
		log: await logOfThing(db, ['dispatch', id.data]),
		mine: may(locals.user!, 'handle', reach.dispatch.senderId),
		courier: await courierStatus(db)
	};
};

export const actions: Actions = {
	callback: async ({ params, locals }) => {
		const id = idSchema.safeParse(params.id);
		if (!id.success) error(404, 'There is no dispatch at this address.');
		const { db } = await services();
		const result = await callBack(db, locals.user!, id.data);
		if (!result.ok) return fail(409, { why: result.why });
		redirect(303, `/write?draft=${id.data}`);
	},
	stop: async ({ params, locals }) => {
		const id = idSchema.safeParse(params.id);
		if (!id.success) error(404, 'There is no dispatch at this address.');
		const { db } = await services();
		const result = await stopRest(db, locals.user!, id.data);
		if (!result.ok) return fail(409, { why: result.why });
		return {
			stopped: `${result.stopped} ${result.stopped === 1 ? 'copy was' : 'copies were'} stopped; ${result.left} had left.`
		};
	},
	/** Those that may have arrived, once a person has looked at them. */
	onceMore: async ({ params, locals }) => {
		const id = idSchema.safeParse(params.id);
		if (!id.success) error(404, 'There is no dispatch at this address.');
		const { db } = await services();
		const result = await sendOnceMore(db, locals.user!, id.data);
		if (!result.ok) return fail(409, { why: result.why });
		return {
			stopped: `${result.copies} ${result.copies === 1 ? 'copy leaves' : 'copies leave'} once more.`
		};
	},
	byPerson: async ({ request, locals }) => {
		const answer = idSchema.safeParse((await readForm(request)).answer);
		const { db } = await services();
		const found = answer.success && (await answeredByPerson(db, locals.user!, answer.data));
		return found
			? { stopped: 'It counts as an answer now.' }
			: fail(404, {
					why: 'There is no such answer of yours that is in doubt. Load the page again.'
				});
	},
	chase: async ({ params, locals }) => {
		const id = idSchema.safeParse(params.id);
		const draft = id.success ? await ask('makeChase', locals.user!, id.data) : null;
		if (draft === null) error(404, 'There is no such dispatch, or it is not yours to see.');
		redirect(303, `/write?draft=${draft}`);
	},
	takeOff: async ({ params, locals }) => {
		const id = idSchema.safeParse(params.id);
		if (!id.success) error(404, 'There is no dispatch at this address.');
		const { db } = await services();
		const done = await takeOff(db, locals.user!, id.data);
		return done.ok ? { stopped: 'It stands on no board any more.' } : fail(409, { why: done.why });
	},
	resume: async ({ params, locals }) => {
		const id = idSchema.safeParse(params.id);
		if (!id.success) error(404, 'There is no dispatch at this address.');
		const result = await ask('resume', locals.user!, id.data);
		if (!result.ok) return fail(409, { why: result.why });
		return { stopped: '' };
	}
};
