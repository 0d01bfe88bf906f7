import { error, fail, redirect, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import { isAllowed, may } from '$lib/server/access/may';
import { putIntoGroup, takeOutOfGroup } from '$lib/server/desk/groups/change-group';
import type { FoundStudents } from '$lib/server/desk/groups/types';
import { giveUpGroup } from '$lib/server/desk/joining/look-after';
import { readForm } from '$lib/server/http/read-form';
import { workOutAhead } from '$lib/server/http/roster-work';
import { ask } from '$lib/server/planner/planner';
import type { Said } from '$lib/server/said';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
const memberSchema = z.object({ studentId: idSchema });
const manySchema = z.object({
	ids: z
		.string()
		.max(400_000)
		.regex(/^\d+(,\d+)*$/)
		.transform((text) => text.split(',').map(Number))
});

export const load: PageServerLoad = async ({ params, locals }) => {
	const id = idSchema.safeParse(params.id);
	const group = id.success ? await ask('groupView', locals.user!, id.data) : null;
	if (!group) error(404, 'There is no such group, or another office looks after it.');
	return { group, mayCorrect: may(locals.user!, 'correct-people') };
};

/** What an act on a group came to, all in one shape for the page. */
interface Answer {
	readonly said?: string;
	readonly why?: string;
	/** Students whom a list names, to be put in. */
	readonly seen?: FoundStudents | null;
}
const said = (text: string): Answer => ({ said: text, why: '', seen: null });
const refused = (why: string, status = 400) =>
	fail(status, { said: '', why, seen: null } satisfies Answer);
const again = 'Load the page again and try once more.';

/** Does something to the group of the page, and works out again whatever is scheduled for it. */
async function change(
	event: RequestEvent,
	work: (id: number) => Promise<Said<{ readonly count?: number }>>,
	words: (count: number) => string
) {
	const id = idSchema.safeParse(event.params.id);
	if (!id.success) return refused(again, 404);
	const done = await work(id.data);
	if (!done.ok) return refused(done.why, 403);
	workOutAhead();
	return said(words(done.count ?? 1));
}
const cameIn = (count: number) =>
	count === 0
		? 'Nobody came in: all of them are in it already.'
		: `${count} ${count === 1 ? 'student' : 'students'} came in, written down with your name.`;

export const actions: Actions = {
	putIn: async (event) => {
		const parsed = memberSchema.safeParse(await readForm(event.request));
		if (!parsed.success) return refused(again);
		const { db } = await services();
		const user = event.locals.user!;
		return change(
			event,
			(id) => putIntoGroup(db, user, id, [parsed.data.studentId], 'hand'),
			cameIn
		);
	},
	takeOut: async (event) => {
		const parsed = memberSchema.safeParse(await readForm(event.request));
		if (!parsed.success) return refused(again);
		const { db } = await services();
		return change(
			event,
			(id) => takeOutOfGroup(db, event.locals.user!, id, parsed.data.studentId),
			() => 'Taken out, and written down with your name.'
		);
	},
	fromAudience: async (event) => {
		const parsed = z.object({ keptId: idSchema }).safeParse(await readForm(event.request));
		if (!parsed.success) return refused('Choose a kept audience.');
		const { db } = await services();
		const user = event.locals.user!;
		const students = await ask('studentsOfKept', user, parsed.data.keptId);
		if (!students) return refused('There is no such kept audience of yours any more.', 404);
		return change(event, (id) => putIntoGroup(db, user, id, students, 'audience'), cameIn);
	},
	/** Looks at a list first: nothing is changed by it. */
	lookAtList: async (event) => {
		const form = await readForm(event.request);
		const id = idSchema.safeParse(event.params.id);
		const file = form.list;
		if (!id.success || !(file instanceof File) || file.size === 0)
			return refused('Choose a file: one line for each student.');
		if (!isAllowed(event.locals.user!, 'correct-people'))
			return refused('Ask the school office.', 403);
		const content = new Uint8Array(await file.arrayBuffer());
		const seen = await ask('studentsInTable', event.locals.user!, id.data, content);
		return seen.ok ? { said: '', why: '', seen } : refused(seen.why);
	},
	putInMany: async (event) => {
		const parsed = manySchema.safeParse(await readForm(event.request));
		if (!parsed.success) return refused(again);
		const { db } = await services();
		const user = event.locals.user!;
		return change(event, (id) => putIntoGroup(db, user, id, parsed.data.ids, 'list'), cameIn);
	},
	giveUp: async (event) => {
		await readForm(event.request);
		const { db } = await services();
		const id = idSchema.safeParse(event.params.id);
		const done = id.success
			? await giveUpGroup(db, event.locals.user!, id.data)
			: { ok: false as const, why: again };
		if (!done.ok) return refused(done.why, 403);
		workOutAhead();
		redirect(303, '/people/groups');
	}
};
