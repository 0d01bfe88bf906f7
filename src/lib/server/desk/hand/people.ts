import { z } from 'zod';
import { isLanguageTag } from '../../../core/copy/language';
import { gradeLevelOf } from '../../../core/roster/grade';
import { isAllowed, scope } from '../../access/may';
import type { User } from '../../access/user';
import { person, school, staff, type PersonRow } from '../../db/models/roster';
import type { Db, Query } from '../../db/open';
import type { Said } from '../../said';
import { byHand, notTheirs, personOfMine, personSeen, yesOrNo, type Hand } from './by-hand';
import { putNewAddresses, readNewAddresses } from './addresses';
import { flag, idSchema, line, namePart, relationSchema, tieFields, yesNo } from './fields';
import { moveIn } from './homes';
import { alike } from './alike';
import type { Alike } from './types';
import { putTie } from './ties';

/** What a person is called and reads; students their school and grade. */
const personFields = {
	givenName: namePart('The given name'),
	familyName: line('The family name', 200),
	language: z.string().refine(isLanguageTag, 'This is no language. Choose one from the list.'),
	hasInbox: yesNo,
	/** Empty where the district has none. */
	identifier: line('The district number', 100),
	/** Empty for an adult. */
	schoolId: z.literal('').or(idSchema),
	gradeLevel: line('The grade', 60)
};
export const correctSchema = z.object({ id: idSchema, ...personFields });

type Columns = Pick<
	PersonRow,
	'givenName' | 'familyName' | 'language' | 'hasInbox' | 'identifier' | 'schoolId' | 'gradeLevel'
>;
const fields = [
	'givenName',
	'familyName',
	'language',
	'identifier',
	'gradeLevel'
] as const satisfies readonly (keyof Columns)[];

const columnsOf = (
	input: z.infer<z.ZodObject<typeof personFields>>,
	kind: 'student' | 'adult'
): Columns => ({
	givenName: input.givenName,
	familyName: input.familyName,
	language: input.language,
	hasInbox: flag(input.hasInbox),
	identifier: input.identifier === '' ? null : input.identifier,
	schoolId: kind === 'student' && input.schoolId !== '' ? input.schoolId : null,
	gradeLevel: kind === 'student' ? gradeLevelOf(input.gradeLevel) : null
});

/** Why a student cannot be at a school, or a number cannot be theirs; null where they can. */
async function whyNot(
	{ tx, user }: Hand,
	{ schoolId, identifier }: Pick<Columns, 'schoolId' | 'identifier'>,
	kind: 'student' | 'adult',
	id: number | null
): Promise<string | null> {
	if (kind === 'student') {
		if (schoolId === null || !(await tx.rows(school).one({ id: schoolId })))
			return 'A student is at a school: choose which.';
		if (!isAllowed(user, 'look-after', schoolId))
			return 'Your office puts students into its own school only. Ask the district office.';
	}
	if (identifier !== null) {
		const other = await tx.one<{ name: string }>(
			`SELECT given_name || ' ' || family_name AS name FROM person_now
			WHERE identifier = $identifier AND id != $id LIMIT 1`,
			{ identifier, id: id ?? 0 }
		);
		if (other)
			return `${identifier} is the district’s number of ${other.name}. Two people have no number in common.`;
	}
	return null;
}

/** Corrects what a person is called, reads, and where they are. */
export async function correctPerson(
	db: Db,
	user: User,
	input: z.infer<typeof correctSchema>
): Promise<Said> {
	const { id } = input;
	return byHand(db, user, async (hand): Promise<Said> => {
		const found = await personOfMine(hand, id);
		if (!found || found.goneAt !== null) return notTheirs;
		const before = (await hand.tx.rows(person).one({ id }))!;
		const columns = columnsOf(input, found.kind);
		const after = found.kind === 'adult' ? { ...columns, schoolId: before.schoolId } : columns;
		const sameSchool = before.schoolId === after.schoolId;
		const why = await whyNot(hand, after, sameSchool ? 'adult' : found.kind, id);
		if (why !== null) return { ok: false, why };
		for (const field of fields)
			if (before[field] !== after[field])
				hand.wrote({ personId: id, field, before: before[field], after: after[field] });
		if (before.hasInbox !== after.hasInbox)
			hand.wrote({
				...{ personId: id, field: 'hasInbox' },
				before: yesOrNo(before.hasInbox),
				after: yesOrNo(after.hasInbox)
			});
		if (!sameSchool) {
			const name = async (of: number | null) =>
				of === null ? null : ((await hand.tx.rows(school).one({ id: of }))?.name ?? null);
			hand.wrote({
				...{ personId: id, field: 'school' },
				before: await name(before.schoolId),
				after: await name(after.schoolId)
			});
		}
		await hand.tx.rows(person).change({ id }, after);
		return { ok: true };
	});
}

/** A new person: a student; a contact of one, with what they are to them; or a member of the staff. */
export const newPersonSchema = z
	.discriminatedUnion('as', [
		z.object({ as: z.literal('student'), ...personFields }),
		z.object({ as: z.literal('contact'), studentId: idSchema, ...personFields, ...tieFields }),
		z.object({
			as: z.literal('staff'),
			...personFields,
			role: relationSchema,
			/** Empty for the whole district. */
			staffSchoolId: z.literal('').or(idSchema)
		})
	])
	.and(
		z.object({
			email: line('The email address', 320).default(''),
			number: line('The number', 40).default(''),
			/** Where the number may be sent texts: who said so, and on which paper. */
			consentSaid: line('What was said of texts', 200).default(''),
			/** Lives with the student. */
			livesThere: yesNo.default('no'),
			/** Those who look the same have been seen, and are others. */
			another: yesNo.default('no')
		})
	);
export type NewPerson = z.infer<typeof newPersonSchema>;

/** What came of adding somebody: their number, or those who may be the same, to be looked at first. */
export type Added =
	| Said<{ readonly id: number }>
	| { readonly ok: false; readonly why: string; readonly alike: readonly Alike[] };

/** Adds a person by hand. Somebody with the same name and the same address, number or school is asked about first, never added silently. */
export async function addPerson(db: Db, user: User, input: NewPerson): Promise<Added> {
	let found: readonly Alike[] = [];
	const done = await byHand(db, user, async (hand): Promise<Said<{ readonly id: number }>> => {
		const { tx } = hand;
		const kind = input.as === 'student' ? 'student' : 'adult';
		const columns = columnsOf(input, kind);
		const why = (await whyNot(hand, columns, kind, null)) ?? (await whyNotThere(hand, input));
		if (why !== null) return { ok: false, why };
		const read = await readNewAddresses(hand, [
			{ way: 'email', value: input.email, said: '' },
			{ way: 'text', value: input.number, said: input.consentSaid }
		]);
		if (!read.ok) return read;
		if (input.another === 'no') {
			found = await alike(hand, { ...columns, kind, email: input.email, number: input.number });
			if (found.length > 0)
				return { ok: false, why: 'Somebody like this is on file already: look first.' };
		}
		const id = await tx.rows(person).add({ kind, ...columns, since: hand.at, goneAt: null });
		await putNewAddresses(hand, id, read.addresses);
		hand.wrote({
			personId: id,
			field: 'added',
			after: `${input.givenName} ${input.familyName}`.trim()
		});
		if (input.as === 'contact') {
			await putTie(hand, { ...input, personId: id });
			if (input.livesThere === 'yes') await moveIn(hand, id, input.studentId);
		}
		if (input.as === 'staff')
			await tx.rows(staff).add({
				personId: id,
				schoolId: input.staffSchoolId === '' ? null : input.staffSchoolId,
				role: input.role
			});
		return { ok: true, id };
	});
	return done.ok || found.length === 0 ? done : { ...done, alike: found };
}
/** Why somebody new cannot be what they are to be; null where they can. */
async function whyNotThere(hand: Hand, input: NewPerson): Promise<string | null> {
	if (input.as === 'contact') {
		const student = await personSeen(hand, input.studentId);
		if (student?.kind !== 'student' || student.goneAt !== null)
			return 'There is no such student, or another office looks after them.';
	}
	if (input.as === 'staff') {
		const at = input.staffSchoolId === '' ? null : input.staffSchoolId;
		if (!isAllowed(hand.user, 'look-after', at))
			return 'Your office adds staff of its own school only. Ask the district office.';
		if (at !== null && !(await hand.tx.rows(school).one({ id: at })))
			return 'There is no such school. Load the page again.';
	}
	return null;
}

/** Ends a person: they leave audiences and lists from now on; log, evidence and what was chosen stay. */
export async function endPerson(db: Db, user: User, id: number): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		const found = await personOfMine(hand, id);
		if (!found) return notTheirs;
		if (id === user.personId)
			return { ok: false, why: 'You cannot end yourself. Another coordinator can.' };
		if (found.goneAt !== null) return { ok: true };
		await hand.tx.rows(person).change({ id }, { goneAt: hand.at });
		hand.wrote({ personId: id, field: 'gone' });
		hand.left(id);
		if (found.kind === 'student')
			for (const { personId } of await hand.tx.all<{ personId: number }>(
				'SELECT person_id AS personId FROM contact_now WHERE student_id = $id',
				{ id }
			))
				hand.lost({ studentId: id, personId, custodyOnly: false });
		return { ok: true };
	});
}

/** Takes back that a person has ended: their ties are as they were. */
export async function bringBack(db: Db, user: User, id: number): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		const found = await personOfMine(hand, id);
		if (!found) return notTheirs;
		if (found.goneAt === null) return { ok: true };
		if ((await hand.tx.rows(person).one({ id }, ['sameAs']))!.sameAs !== null)
			return { ok: false, why: 'They were made one with somebody: take that back first.' };
		await hand.tx.rows(person).change({ id }, { goneAt: null, since: hand.at });
		hand.wrote({ personId: id, field: 'back' });
		return { ok: true };
	});
}

/** A student whose contact is about to be added; null where the user may not. */
export async function studentForNew(
	db: Query,
	user: User,
	id: number
): Promise<
	(Pick<PersonRow, 'id' | 'givenName' | 'familyName' | 'language'> & { name: string }) | null
> {
	const seen = scope(user).people('id');
	const row = await db.one<Pick<PersonRow, 'id' | 'givenName' | 'familyName' | 'language'>>(
		`SELECT id, given_name AS givenName, family_name AS familyName, language FROM person_now
		WHERE id = $id AND kind = 'student' AND ${seen.sql}`,
		{ id, ...seen.bind }
	);
	return row ? { ...row, name: `${row.givenName} ${row.familyName}`.trim() } : null;
}
