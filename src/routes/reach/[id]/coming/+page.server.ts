import { error, fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { comingStates } from '$lib/core/audience/audience';
import { may } from '$lib/server/access/may';
import {
	changeInvitation,
	changeSchema,
	openToAnybody,
	putDown
} from '$lib/server/desk/invitations/change';
import { followInvitation } from '$lib/server/desk/invitations/follow';
import { comingList, shownStates } from '$lib/server/desk/invitations/list';
import { invitationReach } from '$lib/server/desk/invitations/reach';
import { comingFormSchema } from '$lib/server/http/coming-form';
import { readForm } from '$lib/server/http/read-form';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
/** What makes no sense shows everybody. */
const filterSchema = z.object({
	state: z.enum(shownStates).catch('all'),
	slot: z.coerce.number().int().min(0).max(1e6).catch(0),
	search: z.string().trim().max(100).catch(''),
	page: z.coerce.number().int().min(1).max(10_000).catch(1)
});
const keySchema = z.string().max(40);
const followSchema = z.object({ is: z.enum(comingStates) });

const notThere = 'There is no such invitation, or it is not yours to see.';

export const load: PageServerLoad = async ({ params, url, locals, depends }) => {
	depends('live:dispatch');
	const id = idSchema.safeParse(params.id);
	if (!id.success) error(404, notThere);
	const filter = filterSchema.parse(Object.fromEntries(url.searchParams));
	const { db, key, settings } = await services();
	const invitation = await invitationReach(
		db,
		{ key, publicUrl: settings.publicUrl },
		locals.user!,
		id.data
	);
	const list = await comingList(db, locals.user!, id.data, filter);
	if (!invitation || !list) error(404, notThere);
	return { invitation, list, filter, mayWrite: may(locals.user!, 'write') };
};

export const actions: Actions = {
	put: async ({ params, request, locals }) => {
		const form = await readForm(request);
		const id = idSchema.safeParse(params.id);
		const key = keySchema.safeParse(form.key);
		const said = comingFormSchema.safeParse(form);
		if (!id.success || !key.success || !said.success)
			return fail(400, {
				why: 'Say whether they come, and how many: a number of adults, of students.'
			});
		const { db } = await services();
		const done = await putDown(db, locals.user!, id.data, key.data, said.data);
		return done.ok ? { done: 'Put down.' } : fail(409, { why: done.why });
	},
	change: async ({ params, request, locals }) => {
		const form = await readForm(request);
		const id = idSchema.safeParse(params.id);
		const slotPlaces: Record<string, unknown> = {};
		for (const [name, value] of Object.entries(form)) {
			const slot = /^slot-(\d{1,6})$/.exec(name)?.[1];
			if (slot !== undefined) slotPlaces[slot] = value;
		}
		const typed = changeSchema.safeParse({ ...form, slotPlaces });
		if (!id.success || !typed.success)
			return fail(400, {
				why: 'Places are a number from 1 on, or empty for as many as come; together come 1 to 20. Nothing was changed.'
			});
		const { db } = await services();
		const done = await changeInvitation(db, locals.user!, id.data, typed.data);
		return done.ok ? { done: 'Changed.' } : fail(409, { why: done.why });
	},
	open: async ({ params, request, locals }) => {
		const open = z.enum(['0', '1']).safeParse((await readForm(request)).open);
		const id = idSchema.safeParse(params.id);
		if (!id.success || !open.success) return fail(400, { why: notThere });
		const { db } = await services();
		const done = await openToAnybody(db, locals.user!, id.data, open.data === '1');
		return done.ok
			? { done: open.data === '1' ? 'Anybody with the link can answer now.' : 'The link is ended.' }
			: fail(409, { why: done.why });
	},
	follow: async ({ params, request, locals }) => {
		const is = followSchema.safeParse(await readForm(request));
		const id = idSchema.safeParse(params.id);
		const { db } = await services();
		const draft =
			id.success && is.success
				? await followInvitation(db, locals.user!, id.data, is.data.is)
				: null;
		if (draft === null) error(404, notThere);
		redirect(303, `/write?draft=${draft}`);
	}
};
