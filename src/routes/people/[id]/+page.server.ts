import { error, fail, type RequestEvent } from '@sveltejs/kit';
import { z } from 'zod';
import type { User } from '$lib/server/access/user';
import type { Db } from '$lib/server/db/open';
import {
	addAddress,
	addAddressSchema,
	changeAddress,
	changeAddressSchema,
	takeAddress
} from '$lib/server/desk/hand/addresses';
import { formLists } from '$lib/server/desk/hand/form-lists';
import { homeSchema, livesWith, moveOut, moveOutSchema } from '$lib/server/desk/hand/homes';
import { bringBack, correctPerson, correctSchema, endPerson } from '$lib/server/desk/hand/people';
import { makeTwo } from '$lib/server/desk/hand/make-one';
import { addTie, correctTie, endTie, tieSchema } from '$lib/server/desk/hand/ties';
import { marksOfStudent } from '$lib/server/desk/markers/of-student';
import { mendAddress, mendSchema } from '$lib/server/desk/people/mend';
import { copyFilter } from '$lib/server/desk/track/copy-filter';
import { readForm } from '$lib/server/http/read-form';
import { workOutAhead } from '$lib/server/http/roster-work';
import { ask } from '$lib/server/planner/planner';
import type { Said } from '$lib/server/said';
import { services } from '$lib/server/services';
import type { Actions, PageServerLoad } from './$types';

const idSchema = z.coerce.number().int().positive().max(Number.MAX_SAFE_INTEGER);
const ofId = z.object({ id: idSchema });
const filterSchema = copyFilter('left-out').extend({
	mine: z
		.enum(['0', '1'])
		.catch('0')
		.transform((v) => v === '1')
});

export const load: PageServerLoad = async ({ params, url, locals }) => {
	const id = idSchema.safeParse(params.id);
	const filter = filterSchema.parse(Object.fromEntries(url.searchParams));
	const person = id.success ? await ask('person', locals.user!, id.data, filter) : null;
	if (!person) error(404, 'There is nobody at this address, or not among those you look after.');
	const { db } = await services();
	return {
		person,
		filter,
		marks: await marksOfStudent(db, locals.user!, id.data!),
		lists: person.own ? await formLists(db, locals.user!) : null
	};
};

/** The place on the page that a refusal belongs to, and which of several things there. */
type Place<T> = (input: Partial<T> | undefined, pageId: number) => { at: string; id?: number };

/** Something that is done to the person of this page; `theirs` says whether what was sent is about them at all. */
function act<S extends z.ZodType>(
	schema: S,
	place: Place<z.infer<S>>,
	theirs: (db: Db, pageId: number, input: z.infer<S>) => boolean | Promise<boolean>,
	run: (db: Db, user: User, input: z.infer<S>) => Promise<Said<{ readonly said?: string }>>
) {
	return async ({ request, locals, params }: RequestEvent) => {
		const pageId = Number(params.id);
		const form = await readForm(request);
		const parsed = schema.safeParse(form);
		const refuse = (why: string, status: 400 | 403 | 404) =>
			fail(status, {
				id: 0,
				...place(parsed.success ? parsed.data : (form as Partial<z.infer<S>>), pageId),
				why
			});
		if (!parsed.success) return refuse(parsed.error.issues.map((i) => i.message).join(' '), 400);
		const { db } = await services();
		if (!(await theirs(db, pageId, parsed.data)))
			return refuse('This is not theirs. Load the page again.', 404);
		const done = await run(db, locals.user!, parsed.data);
		if (!done.ok) return refuse(done.why, 403);
		workOutAhead();
		return { said: done.said ?? 'Done, and written down with your name.' };
	};
}

const hasAddress = async (db: Db, personId: number, { id }: { readonly id: number }) =>
	(await db.one('SELECT 1 FROM address WHERE id = $id AND person_id = $personId', {
		...{ id, personId }
	})) !== undefined;
const isMadeOne = async (db: Db, pageId: number, { id }: { readonly id: number }) =>
	(await db.one('SELECT 1 FROM made_one WHERE id = $id AND $pageId IN (kept_id, other_id)', {
		...{ id, pageId }
	})) !== undefined;
const isTie = (
	_db: Db,
	pageId: number,
	tie: { readonly studentId: number; readonly personId: number }
) => pageId === tie.studentId || pageId === tie.personId;
const isPage = (_db: Db, pageId: number, { id }: { readonly id: number }) => id === pageId;
const isOf = (_db: Db, pageId: number, { personId }: { readonly personId: number }) =>
	personId === pageId;

const atTie: Place<{ studentId: number; personId: number }> = (tie, pageId) => ({
	at: 'tie',
	id: Number(tie?.studentId) === pageId ? Number(tie?.personId) : Number(tie?.studentId ?? 0)
});
const atAddress: Place<{ id: number }> = (address) => ({
	...{ at: 'address', id: Number(address?.id ?? 0) }
});
const tieOnly = tieSchema.pick({ studentId: true, personId: true });

export const actions: Actions = {
	correct: act(correctSchema, () => ({ at: 'correct' }), isPage, correctPerson),
	end: act(
		ofId,
		() => ({ at: 'end' }),
		isPage,
		(db, user, { id }) => endPerson(db, user, id)
	),
	back: act(
		ofId,
		() => ({ at: 'back' }),
		isPage,
		(db, user, { id }) => bringBack(db, user, id)
	),
	two: act(
		ofId,
		() => ({ at: 'two' }),
		isMadeOne,
		(db, user, { id }) => makeTwo(db, user, id)
	),
	tie: act(tieSchema, atTie, isTie, correctTie),
	endTie: act(tieOnly, atTie, isTie, endTie),
	addTie: act(tieSchema, () => ({ at: 'addTie' }), isTie, addTie),
	addAddress: act(addAddressSchema, () => ({ at: 'address' }), isOf, addAddress),
	changeAddress: act(changeAddressSchema, atAddress, hasAddress, changeAddress),
	takeAddress: act(ofId, atAddress, hasAddress, (db, user, { id }) => takeAddress(db, user, id)),
	livesWith: act(homeSchema, () => ({ at: 'home' }), isOf, livesWith),
	moveOut: act(moveOutSchema, () => ({ at: 'home' }), isOf, moveOut),
	mend: act(mendSchema, (a) => ({ at: 'mend', id: Number(a?.id ?? 0) }), hasAddress, mendAddress)
};
