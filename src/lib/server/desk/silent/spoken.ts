import { z } from 'zod';
import { writeDown } from '../../access/log';
import { isAllowed, scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { spokenTo } from '../../db/models/talk';
import type { Db, Query } from '../../db/open';
import type { Said } from '../../said';

const idSchema = z.coerce.number().int().positive();

/** That somebody spoke to a family: of a household, or of a student who lives in none. */
export const spokenSchema = z
	.object({
		householdId: idSchema.optional(),
		studentId: idSchema.optional(),
		words: z.string().trim().max(500, 'Say it in at most 500 characters.').default('')
	})
	.refine((s) => (s.householdId === undefined) !== (s.studentId === undefined), {
		message: 'Say which family: load the page again.'
	});

const noFamily = 'There is no such family among those you look after. Load the page again.';

/** A student of a family whom a user sees; undefined where there is none. */
function studentSeen(
	tx: Query,
	user: User,
	{ householdId, studentId }: z.infer<typeof spokenSchema>
): Promise<{ id: number; schoolId: number | null } | undefined> {
	const seen = scope(user).people('person.id');
	const which =
		householdId === undefined
			? 'person.id = $home'
			: 'person.id IN (SELECT person_id FROM household_member WHERE household_id = $home)';
	return tx.one(
		`SELECT id, school_id AS schoolId FROM person_now AS person
		WHERE kind = 'student' AND ${which} AND ${seen.sql} ORDER BY id LIMIT 1`,
		{ ...seen.bind, home: (householdId ?? studentId)! }
	);
}

/** Within so long, ms, the same person saying the same again is a second press of a button. */
const slipMs = 60_000;

/** What a user put down of a family last. */
const lastOf = (
	tx: Query,
	user: User,
	{ householdId, studentId }: z.infer<typeof spokenSchema>
): Promise<{ id: number; at: number; words: string } | undefined> =>
	tx.one(
		`SELECT id, at, words FROM spoken_to WHERE by_id = $me AND
			${householdId === undefined ? 'student_id' : 'household_id'} = $home ORDER BY id DESC LIMIT 1`,
		{ me: user.personId, home: (householdId ?? studentId)! }
	);

/** Puts down that somebody spoke to a family: for a while it is none that nothing reaches. */
export const putSpoken = (
	db: Db,
	user: User,
	said: z.infer<typeof spokenSchema>
): Promise<Said<{ readonly id: number }>> =>
	db.write(async (tx) => {
		const student = isAllowed(user, 'answer') ? await studentSeen(tx, user, said) : undefined;
		if (!student) return { ok: false, why: noFamily };
		const at = Math.round(await now(tx));
		const before = await lastOf(tx, user, said);
		// Pressed twice is said once; what was typed last holds.
		if (before && at - before.at < slipMs) {
			await tx.rows(spokenTo).change({ id: before.id }, { words: said.words || before.words });
			return { ok: true, id: before.id };
		}
		const id = await tx.rows(spokenTo).add({
			...{ householdId: said.householdId ?? null, studentId: said.studentId ?? null },
			...{ at, byId: user.personId, words: said.words }
		});
		await writeDown(tx, {
			...{ act: 'spoken-to', by: user, to: ['person', student.id] },
			schoolId: student.schoolId
		});
		return { ok: true, id };
	});

/** Takes back what one put down of a family last, where that was a slip. */
export const takeBackSpoken = (
	db: Db,
	user: User,
	said: z.infer<typeof spokenSchema>
): Promise<Said<object>> =>
	db.write(async (tx) => {
		const student = await studentSeen(tx, user, said);
		if (!student) return { ok: false, why: noFamily };
		const row = await lastOf(tx, user, said);
		if (!row) return { ok: false, why: 'You have put nothing down of this family.' };
		await tx.run('DELETE FROM spoken_to WHERE id = $id', { id: row.id });
		await writeDown(tx, {
			...{ act: 'not-spoken-to', by: user, to: ['person', student.id] },
			schoolId: student.schoolId
		});
		return { ok: true };
	});
