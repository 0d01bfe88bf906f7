import { error, fail, redirect, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { giveUpMarker, marksSchema, setMarks } from '$lib/server/desk/markers/change-marker';
import { takeMarks, takeMarksSchema } from '$lib/server/desk/markers/list-marks';
import type { SeenMarks } from '$lib/server/desk/markers/types';
import { readForm } from '$lib/server/http/read-form';
import { workOutAhead } from '$lib/server/http/roster-work';
import { ask } from '$lib/server/planner/planner';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
const askedSchema = z.object({
	section: idSchema.nullable().catch(null),
	find: z.string().max(200).catch('')
});

export const load: PageServerLoad = async ({ params, locals, url }) => {
	const id = idSchema.safeParse(params.id);
	const asked = askedSchema.parse({
		section: url.searchParams.get('section'),
		find: url.searchParams.get('find') ?? ''
	});
	const marker = id.success
		? await ask('markerView', locals.user!, id.data, {
				sectionId: asked.section,
				find: asked.find
			})
		: null;
	if (!marker) error(404, 'There is no such marker, or another school looks after it.');
	if (asked.section !== null && marker.section === null)
		error(404, 'There is no such section of yours.');
	return { marker, find: asked.find };
};

/** What an act on a marker came to, all in one shape for the page. */
interface Answer {
	readonly said: string;
	readonly why: string;
	readonly seen: SeenMarks | null;
}
const said = (text: string): Answer => ({ said: text, why: '', seen: null });
const refused = (why: string, status = 400) =>
	fail(status, { said: '', why, seen: null } satisfies Answer);
const again = 'Load the page again and try once more.';

const count = (n: number, one: string, many: string) =>
	`${n.toLocaleString('en')} ${n === 1 ? one : many}`;

/** The entries of a section's list: "was-12" and "now-12" for student 12; a box that is not ticked sends nothing. */
function entriesOf(form: Readonly<Record<string, unknown>>): unknown[] {
	return Object.entries(form).flatMap(([name, was]) => {
		const id = /^was-(\d{1,15})$/.exec(name)?.[1];
		return id === undefined ? [] : { studentId: Number(id), was, value: form[`now-${id}`] ?? '' };
	});
}

const of = (event: RequestEvent) => idSchema.safeParse(event.params.id);

export const actions: Actions = {
	set: async (event) => {
		const id = of(event);
		const entries = marksSchema.safeParse(entriesOf(await readForm(event.request)));
		if (!id.success || !entries.success) return refused(again);
		const { db } = await services();
		const done = await setMarks(db, event.locals.user!, id.data, entries.data);
		if (!done.ok) return refused(done.why, 409);
		if (done.put > 0) workOutAhead();
		const left =
			done.meanwhile.length === 0
				? ''
				: ` Set by somebody else while this was open, and left as they have it: ${done.meanwhile.join(', ')}.`;
		return said(
			(done.put === 0
				? 'Nothing was changed.'
				: `Set for ${count(done.put, 'student', 'students')}, written down with your name.`) + left
		);
	},
	/** Looks at a list first: nothing is changed by it. */
	lookAtList: async (event) => {
		const id = of(event);
		const file = (await readForm(event.request)).list;
		if (!id.success || !(file instanceof File) || file.size === 0)
			return refused('Choose a file: one line for each student.');
		const content = new Uint8Array(await file.arrayBuffer());
		const seen = await ask('lookAtMarks', event.locals.user!, id.data, content);
		return seen.ok ? ({ said: '', why: '', seen } satisfies Answer) : refused(seen.why);
	},
	takeList: async (event) => {
		const id = of(event);
		const parsed = takeMarksSchema.safeParse(await readForm(event.request));
		if (!id.success || !parsed.success) return refused(again);
		const { db } = await services();
		const done = await takeMarks(db, event.locals.user!, id.data, parsed.data);
		if (!done.ok) return refused(done.why, 409);
		if (done.put > 0) workOutAhead();
		return said(
			`Changed for ${count(done.put, 'student', 'students')}, written down with your name.` +
				(done.stays > 0
					? ` For ${count(done.stays, 'student', 'students')} what was set by hand stays.`
					: '')
		);
	},
	giveUp: async (event) => {
		await readForm(event.request);
		const id = of(event);
		if (!id.success) return refused(again, 404);
		const { db } = await services();
		const done = await giveUpMarker(db, event.locals.user!, id.data);
		if (!done.ok) return refused(done.why, 403);
		workOutAhead();
		redirect(303, '/people/markers');
	}
};
