import { haveGained, whoHaveIt } from '../../../core/audience/gained';
import { studentsAllowed } from '../../access/allowed';
import { userById } from '../../access/user';
import { now } from '../../clock';
import { standing, type StandingRow } from '../../db/models/dispatch';
import type { Db, Query } from '../../db/open';
import { sentenceOf } from '../audience/sentence';
import { sheetSchema, type Sheet } from '../sheet/sheet';
import { makeLetGo, marksStillSo, putLetGo } from './let-go';
import { dateKey } from './rounds';

/** Students at a time: a list that brings a marker to a whole district is let go in parts. */
const mostStudents = 5_000;

const due = `standing.ended_at IS NULL AND standing.waits IS NULL AND done_at IS NULL
	AND at + hold_minutes * 60000`;

/** The next sheet that is to leave, since somebody has gained what it waits for and the hold is over; null where there is none. */
export async function nextToRelease(db: Query): Promise<number | null> {
	const row = await db.one<{ id: number }>(
		`SELECT standing.id FROM gained JOIN standing ON standing.id = standing_id WHERE ${due} <= $now
		ORDER BY at LIMIT 1`,
		{ now: await now(db) }
	);
	return row?.id ?? null;
}

/** When there is next something to let go (job's clock, ms); null where nobody is held. */
export async function nextRelease(db: Query): Promise<number | null> {
	const row = await db.one<{ at: number | null }>(
		`SELECT min(at + hold_minutes * 60000) AS at FROM gained JOIN standing ON standing.id = standing_id
		WHERE ${due} IS NOT NULL`
	);
	return row?.at ?? null;
}

/** Holds a sheet up that waits for a marker, until whoever made it has answered. */
export const holdUpStanding = (db: Db, id: number, why: string): Promise<unknown> =>
	db.rows(standing).change({ id }, { waits: why });

/** Those whose hold is over and who have the marker still; whoever has lost it meanwhile may gain it again. */
async function toRelease(tx: Query, { id, markerId, holdMinutes }: StandingRow): Promise<number[]> {
	await tx.run(
		`DELETE FROM gained WHERE standing_id = $id AND done_at IS NULL AND student_id NOT IN
			(SELECT student_id FROM marked WHERE marker_id = $markerId AND value IS NOT NULL)`,
		{ id, markerId }
	);
	const rows = await tx.all<{ id: number }>(
		`SELECT student_id AS id FROM gained WHERE standing_id = $id AND done_at IS NULL AND at <= $until
		ORDER BY at, student_id LIMIT ${mostStudents}`,
		{ id, until: (await now(tx)) - holdMinutes * 60_000 }
	);
	return rows.map((r) => r.id);
}

/** Writes down what became of students who have gained a marker. */
const done = (
	tx: Query,
	id: number,
	students: readonly number[],
	{
		at,
		dispatchId = null,
		why = null
	}: { at: number; dispatchId?: number | null; why?: string | null }
): Promise<unknown> =>
	tx.run(
		`UPDATE gained SET done_at = $at, dispatch_id = $dispatchId, why = $why
		WHERE standing_id = $id AND student_id IN (SELECT value FROM json_each($students))`,
		{ id, at: Math.round(at), dispatchId, why, students: JSON.stringify(students) }
	);

/** The sheet as it leaves for some students. */
const sheetFor = (sheet: Sheet, markerId: number, students: readonly number[]): Sheet => ({
	...sheet,
	sheetKey: dateKey(sheet.sheetKey, `gained ${students.join(' ')}`),
	audience: haveGained(sheet.audience, markerId, students),
	// It was held while anybody could still take the marker off.
	timing: { ...sheet.timing, when: { kind: 'now' } },
	holdMinutes: 0
});

/**
 * Lets a sheet go for the students who have gained its marker: a dispatch of its own, planned now, each student
 * once. What can no longer be sent as it stands waits, with the reason, for whoever made it.
 */
export async function release(db: Db, key: Buffer, standingId: number): Promise<void> {
	const row = await db.rows(standing).one({ id: standingId });
	if (!row || row.endedAt !== null || row.waits !== null || row.markerId === null) return;
	const { markerId } = row;
	const holdUp = (why: string) => holdUpStanding(db, standingId, why);
	const user = await userById(db, row.madeBy);
	if (!user) return void (await holdUp('Whoever made it can no longer sign in.'));
	const students = await db.write((tx) => toRelease(tx, row));
	if (students.length === 0) return;
	// Of a student of somebody else's it knows nothing: that they gained it stops nobody's sheet.
	const allowed = await studentsAllowed(db, user);
	const own = allowed === null ? null : new Set(allowed);
	const mine = students.filter((s) => own?.has(s) ?? true);
	const said = sheetSchema.parse(JSON.parse(row.sheet));
	const sheet = sheetFor(said, markerId, mine);
	const one = await makeLetGo(db, key, user, sheet, { onBoards: false });
	const about = new Set(one.planned.manifest.students);
	const others = students.filter((s) => !about.has(s));
	if (one.reaches && one.blocked !== null) return void (await holdUp(one.blocked));
	const words = await sentenceOf(db, user, whoHaveIt(said.audience, markerId));
	await db.write(async (tx) => {
		const still = await tx.rows(standing).one({ id: standingId });
		const held = new Set(still?.endedAt === null ? await toRelease(tx, row) : []);
		// Ended, taken off again or changed meanwhile: it is worked out anew, if at all.
		if (!students.every((s) => held.has(s)) || !(await marksStillSo(tx, one))) return;
		const at = await now(tx);
		await done(tx, standingId, others, { at, why: 'not in its audience' });
		const ours = students.filter((s) => about.has(s));
		if (!one.reaches)
			return void (await done(tx, standingId, ours, { at, why: 'nobody could be reached' }));
		const dispatchId = await putLetGo(tx, one, words);
		await done(tx, standingId, ours, { at, dispatchId });
	});
}
