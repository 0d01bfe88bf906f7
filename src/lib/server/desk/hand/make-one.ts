import { z } from 'zod';
import type { User } from '../../access/user';
import { free } from '../../db/copy-state';
import { madeOne, person } from '../../db/models/roster';
import type { Value } from '../../db/many';
import type { Db, Query } from '../../db/open';
import type { Said } from '../../said';
import { putDown } from '../roster/put-down';
import { columnsOfTable, rowsWhere, type AnyRow, type RowTable } from '../roster/row-tables';
import { noWork, rowMark, undoing, type Work } from '../roster/work';
import { byHand, notTheirs, personOfMine, type Hand } from './by-hand';
import { idSchema } from './fields';

export const makeOneSchema = z.object({ keepId: idSchema, otherId: idSchema });

/**
 * Makes two people on file one: ties, addresses with their consent, households, what they do and what
 * they chose, and the names by which rosters know them go to the one that stays. The other has gone,
 * and is the same: their log is shown with the one that stays. It can be taken back.
 */
export async function makeOne(
	db: Db,
	user: User,
	{ keepId, otherId }: z.infer<typeof makeOneSchema>
): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		if (keepId === otherId)
			return { ok: false, why: 'They are one already: choose somebody else.' };
		const [keep, other] = [await personOfMine(hand, keepId), await personOfMine(hand, otherId)];
		if (!keep || !other || keep.goneAt !== null || other.goneAt !== null) return notTheirs;
		if (keep.kind !== other.kind)
			return { ok: false, why: 'A student and an adult are never one person.' };
		if (other.works)
			return { ok: false, why: 'The other one signs in here: keep that one, and not this.' };
		const together = await hand.tx.one(
			`SELECT 1 FROM contact_now WHERE (student_id = $keepId AND person_id = $otherId)
				OR (student_id = $otherId AND person_id = $keepId)`,
			{ keepId, otherId }
		);
		if (together) return { ok: false, why: 'One is a contact of the other: they are two people.' };
		const work = await workOf(hand, keepId, otherId);
		await putDown(hand.tx, work);
		await hand.tx.rows(person).change({ id: otherId }, { sameAs: keepId });
		await hand.tx.rows(madeOne).add({
			...{ keptId: keepId, otherId, at: hand.at, byId: user.personId },
			work: JSON.stringify(work)
		});
		await copiesFollow(hand.tx, keepId, otherId);
		hand.wrote({ personId: keepId, field: 'madeOne', aboutId: otherId, after: 'the same' });
		hand.wrote({ personId: otherId, field: 'madeOne', aboutId: keepId, after: 'the same' });
		hand.left(otherId);
		return { ok: true };
	});
}

/** Takes it back: both are what they were. What somebody has changed since stays as they have it. */
export async function makeTwo(db: Db, user: User, id: number): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		const row = await hand.tx.rows(madeOne).one({ id });
		const mine = row && (await personOfMine(hand, row.keptId));
		if (!row || !mine) return notTheirs;
		if (row.backAt !== null) return { ok: true };
		const newer = await hand.tx.one(
			`SELECT 1 FROM made_one WHERE id > $id AND back_at IS NULL AND (kept_id = $kept OR other_id = $kept)`,
			{ id, kept: row.keptId }
		);
		if (newer)
			return {
				ok: false,
				why: 'They were made one with somebody else after that: take that back first.'
			};
		await putDown(hand.tx, undoing({ ...noWork(), ...(JSON.parse(row.work) as Work) }));
		await hand.tx.rows(person).change({ id: row.otherId }, { sameAs: null });
		await hand.tx.rows(madeOne).change({ id }, { backAt: hand.at, backBy: user.personId });
		hand.wrote({
			personId: row.keptId,
			field: 'madeOne',
			aboutId: row.otherId,
			before: 'the same'
		});
		hand.wrote({
			personId: row.otherId,
			field: 'madeOne',
			aboutId: row.keptId,
			before: 'the same'
		});
		return { ok: true };
	});
}

/** Tables of ties, the column that names a person in each, and whether a tie that ends stays with the time. */
const tied: readonly {
	readonly table: RowTable;
	readonly column: string;
	readonly stays: boolean;
}[] = [
	{ table: 'contact', column: 'person_id', stays: true },
	{ table: 'contact', column: 'student_id', stays: true },
	{ table: 'enrolment', column: 'student_id', stays: true },
	{ table: 'household_member', column: 'person_id', stays: false },
	{ table: 'section_staff', column: 'person_id', stays: false },
	{ table: 'staff', column: 'person_id', stays: false },
	{ table: 'group_member', column: 'person_id', stays: false },
	{ table: 'marked', column: 'student_id', stays: false },
	{ table: 'declined', column: 'person_id', stays: false },
	{ table: 'own_time', column: 'person_id', stays: false }
];

/** What making them one does to rows. */
async function workOf({ tx, at }: Hand, keepId: number, otherId: number): Promise<Work> {
	const work = noWork();
	for (const { table, column, stays } of tied) {
		const of = (id: number) => rowsWhere(tx, table, `${column} = $id`, { id }) as Promise<AnyRow[]>;
		const kept = new Map((await of(keepId)).map((row) => [rowMark(table, row), row]));
		for (const row of await of(otherId)) {
			if (row.gone_at !== undefined && row.gone_at !== null) continue;
			const theirs: AnyRow = { ...row, [column]: keepId };
			const before = kept.get(rowMark(table, theirs));
			if (!before) work[table].put.push(theirs);
			// A tie that had ended for the one, and not for the other, has not ended.
			else if (before.gone_at !== undefined && before.gone_at !== null)
				work[table].change.push({ before, after: theirs });
			if (stays) work[table].change.push({ before: row, after: { ...row, gone_at: at } });
			else work[table].take.push(row);
		}
	}
	await addresses(tx, work, keepId, otherId);
	for (const row of await rowsWhere(tx, 'known_as', `kind = 'person' AND row_id = $id`, {
		id: otherId
	}))
		work.known_as.change.push({ before: row, after: { ...row, row_id: keepId } });
	for (const column of ['person_id', 'student_id'] as const)
		for (const row of await rowsWhere(tx, 'joining', `${column} = $id`, { id: otherId }))
			work.joining.change.push({
				before: row,
				// They are on file for more than having joined.
				after: { ...row, [column]: keepId, ...(column === 'person_id' ? { made_person: 0 } : {}) }
			});
	const people = await rowsWhere(tx, 'person', 'id IN ($keepId, $otherId)', { keepId, otherId });
	const [keep, other] = [keepId, otherId].map((id) => people.find((p) => p.id === id)!);
	work.person.change.push({ before: other!, after: { ...other!, gone_at: at } });
	const filled: Record<string, Value> = { ...keep! };
	for (const column of ['identifier', 'grade_level'])
		if (filled[column] === null) filled[column] = other![column as 'identifier'];
	if (other!.has_inbox === 1) filled.has_inbox = 1;
	if (columnsOfTable('person').some((column) => filled[column] !== keep![column as 'id']))
		work.person.change.push({ before: keep!, after: filled });
	return work;
}

/** Addresses go over; of one that both have, whatever was said of consent goes over, a no before a yes. */
async function addresses(tx: Query, work: Work, keepId: number, otherId: number): Promise<void> {
	const own = await rowsWhere(tx, 'address', 'person_id = $id', { id: keepId });
	const sign = (row: AnyRow) => `${String(row.way)} ${String(row.value).toLowerCase()}`;
	const kept = new Map(own.map((row) => [sign(row), row]));
	const weight = { unknown: 0, in: 1, out: 2 };
	for (const row of await rowsWhere(tx, 'address', 'person_id = $id', { id: otherId })) {
		const same = kept.get(sign(row));
		if (!same) {
			work.address.change.push({ before: row, after: { ...row, person_id: keepId, slot: null } });
			continue;
		}
		work.address.take.push(row);
		const consent = (r: AnyRow) => weight[r.consent as keyof typeof weight];
		if (consent(row) <= consent(same)) continue;
		const { consent: said, consent_at, consent_how, consent_said } = row;
		const after = { ...same, consent: said, consent_at, consent_how, consent_said };
		work.address.change.push({ before: same, after });
	}
}

/** Copies that wait for the one go to the other, where they have none of the same dispatch by the same way. */
async function copiesFollow(tx: Query, keepId: number, otherId: number): Promise<void> {
	await tx.run(
		`UPDATE delivery SET person_id = $keepId WHERE person_id = $otherId AND ${free}
			AND NOT EXISTS (SELECT 1 FROM delivery AS theirs WHERE theirs.dispatch_id = delivery.dispatch_id
				AND theirs.way = delivery.way AND (theirs.person_id = $keepId
					OR theirs.id IN (SELECT delivery_id FROM delivery_also WHERE person_id = $keepId)))`,
		{ keepId, otherId }
	);
}
