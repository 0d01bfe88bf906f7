import { error, fail, redirect } from '@sveltejs/kit';
import { z } from 'zod';
import { tabs, whats } from '$lib/core/roster/counts';
import { isAllowed } from '$lib/server/access/may';
import type { User } from '$lib/server/access/user';
import {
	askForLook,
	custodyAnswerSchema,
	sameAnswerSchema,
	sayCustody,
	saySame
} from '$lib/server/desk/roster/answers';
import { askColumns, columnsInputSchema, sayColumns } from '$lib/server/desk/roster/columns';
import { giveUp } from '$lib/server/desk/roster/files';
import { endedInTheMiddle } from '$lib/server/desk/roster/left-behind';
import { mayTake } from '$lib/server/desk/roster/take-in';
import {
	changeLines,
	fileView,
	linesOnPage,
	openQuestions,
	wrongLines
} from '$lib/server/desk/roster/views';
import { readForm } from '$lib/server/http/read-form';
import { beginLook, beginTake, progressOf, workOutAhead } from '$lib/server/http/roster-work';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive();
const filterSchema = z.object({
	what: z.enum([...whats, 'wrong']).catch('new'),
	tab: z.enum(tabs).catch('people'),
	q: z.string().max(200).catch(''),
	page: z.coerce.number().int().min(1).max(100_000).catch(1)
});

const noSuch = 'There is no such roster.';

/** The file that an address names, for somebody who may bring rosters. */
async function asked(user: User, id: string) {
	const parsed = idSchema.safeParse(id);
	if (!isAllowed(user, 'bring-roster')) error(403, 'Rosters are the district office’s.');
	if (!parsed.success) error(404, noSuch);
	const house = await services();
	const view = await fileView(house.db, parsed.data);
	if (!view) error(404, noSuch);
	return { ...house, view, id: parsed.data };
}

export const load: PageServerLoad = async ({ params, locals, url }) => {
	const found = await asked(locals.user!, params.id);
	const { db, settings, id } = found;
	// What a process had in hand that is no more; the night's is the courier's.
	if (found.view.state === 'taking' && found.view.by !== null && !progressOf(id))
		await endedInTheMiddle(db, found.view);
	const view = found.view.state === 'taking' ? (await fileView(db, id))! : found.view;
	const filter = filterSchema.parse({
		what: url.searchParams.get('what') ?? undefined,
		tab: url.searchParams.get('tab') ?? undefined,
		q: url.searchParams.get('q') ?? '',
		page: url.searchParams.get('page') ?? 1
	});
	if (view.state === 'looking' && view.by !== null) beginLook(id);
	const { what, q: search, page } = filter;
	const shown = view.state !== 'looking' && view.looked !== null;
	return {
		view,
		filter,
		linesOnPage,
		progress: progressOf(id) ?? null,
		changes:
			shown && what !== 'wrong'
				? await changeLines(settings.dataFolder, id, { what, tab: filter.tab, search, page })
				: null,
		wrong:
			shown && what === 'wrong'
				? await wrongLines(settings.dataFolder, id, { search, page })
				: null,
		questions: shown ? await openQuestions(settings.dataFolder, id) : null
	};
};

/** Answers a form that has the file looked at again. */
function thenLook(id: number, said: { readonly ok: boolean; readonly why?: string }) {
	if (!said.ok) return fail(409, { why: said.why ?? '' });
	beginLook(id);
	return { why: '' };
}

export const actions: Actions = {
	look: async ({ params, locals }) => {
		const { db, id } = await asked(locals.user!, params.id);
		return thenLook(id, await askForLook(db, locals.user!, id));
	},
	take: async ({ params, locals, request }) => {
		const { id, view } = await asked(locals.user!, params.id);
		const typed = z
			.union([z.literal('').transform(() => null), z.coerce.number().int()])
			.safeParse(String((await readForm(request)).typed ?? '').replace(/[\s,]/g, ''));
		if (!typed.success) return fail(400, { why: 'Type the number of changes in digits.' });
		const taker = { user: locals.user!, typed: typed.data };
		const fits = view.looked && mayTake(view.looked, taker);
		if (view.state !== 'looked' || !fits)
			return fail(409, { why: 'This file has come in already, or was given up.' });
		if (!fits.ok) return fail(409, { why: fits.why });
		beginTake(id, taker);
		return { why: '' };
	},
	back: async ({ params, locals }) => {
		const { id } = await asked(locals.user!, params.id);
		const back = await ask('takeRosterBack', locals.user!, id);
		if (!back.ok) return fail(409, { why: back.why });
		workOutAhead();
		return { why: '' };
	},
	giveUp: async ({ params, locals }) => {
		const { db, settings, id } = await asked(locals.user!, params.id);
		const given = await giveUp(db, settings.dataFolder, locals.user!, id);
		if (!given.ok) return fail(409, { why: given.why });
		redirect(303, '/people/rosters');
	},
	custody: async ({ params, locals, request }) => {
		const { db, id } = await asked(locals.user!, params.id);
		const form = await readForm(request);
		const said = Object.fromEntries(
			Object.entries(form).flatMap(([key, value]) =>
				key.startsWith('of ') ? [[key.slice(3), value]] : []
			)
		);
		const answer = custodyAnswerSchema.safeParse({ said, always: form.always === '1' });
		if (!answer.success) return fail(400, { why: 'Say yes, no or not yet for each relation.' });
		return thenLook(id, await sayCustody(db, locals.user!, id, answer.data));
	},
	columns: async ({ params, locals, request }) => {
		const { db, id, view } = await asked(locals.user!, params.id);
		const form = await readForm(request);
		const said = columnsInputSchema.safeParse({
			columns: (view.columns?.heading ?? []).map((_, i) => form[`column ${i}`] ?? ''),
			complete: form.complete === 'yes'
		});
		if (!said.success) return fail(400, { why: 'Say of each column what it is.' });
		return thenLook(id, await sayColumns(db, locals.user!, id, said.data));
	},
	askColumns: async ({ params, locals }) => {
		const { db, id } = await asked(locals.user!, params.id);
		const said = await askColumns(db, locals.user!, id);
		return said.ok ? { why: '' } : fail(409, { why: said.why });
	},
	/** All who are contacts of the same student under the same name are the same. */
	sameTies: async ({ params, locals }) => {
		const { db, settings, id } = await asked(locals.user!, params.id);
		const ties = (await openQuestions(settings.dataFolder, id, 'tie')) ?? [];
		const answers = ties.map(({ key, here }) => ({ key, personId: here.personId, same: true }));
		return thenLook(id, await saySame(db, locals.user!, id, answers));
	},
	same: async ({ params, locals, request }) => {
		const { db, id } = await asked(locals.user!, params.id);
		const form = await readForm(request);
		const answers = sameAnswerSchema.safeParse(
			Object.entries(form).flatMap(([name, value]) => {
				const [, personId, key] = /^is (\d+) (.+)$/s.exec(name) ?? [];
				return key === undefined || (value !== 'same' && value !== 'other')
					? []
					: [{ key, personId: Number(personId), same: value === 'same' }];
			})
		);
		if (!answers.success || answers.data.length === 0)
			return fail(400, { why: 'Say of at least one whether they are the same.' });
		return thenLook(id, await saySame(db, locals.user!, id, answers.data));
	}
};
