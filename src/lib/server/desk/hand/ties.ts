import { z } from 'zod';
import type { User } from '../../access/user';
import { contact, type ContactRow } from '../../db/models/roster';
import type { Db } from '../../db/open';
import type { Said } from '../../said';
import { byHand, notTheirs, personSeen, yesOrNo, type Hand } from './by-hand';
import { flag, idSchema, tieFields } from './fields';

/** What an adult is to a student, as an office says it. */
export const tieSchema = z.object({ studentId: idSchema, personId: idSchema, ...tieFields });
export type TieInput = z.infer<typeof tieSchema>;

/** The fields of a tie that are written down when they change. */
const fields = ['relation', 'guardian', 'custody', 'correspondence', 'emergency'] as const;
type Fields = Pick<ContactRow, (typeof fields)[number]>;

const fieldsOf = (input: Omit<TieInput, 'studentId' | 'personId'>): Fields => ({
	relation: input.relation,
	guardian: flag(input.guardian),
	custody: input.custody === 'unsaid' ? null : flag(input.custody),
	correspondence: flag(input.correspondence),
	emergency: flag(input.emergency)
});
const text = (value: string | number | null): string | null =>
	typeof value === 'string' ? value : yesOrNo(value);

/** Whether somebody is written to as a guardian by the usual duty. */
const duty = (d: Pick<Fields, 'custody' | 'correspondence' | 'guardian'>) =>
	d.custody === 1 && d.correspondence === 1 && d.guardian === 1;

const noTie = {
	ok: false,
	why: 'There is no such tie, or the school office looks after it.'
} as const;

async function tieOf(
	hand: Hand,
	studentId: number,
	personId: number
): Promise<ContactRow | undefined> {
	if (!(await personSeen(hand, studentId))) return undefined;
	return hand.tx.rows(contact).one({ studentId, personId });
}

/**
 * Corrects what an adult is to a student: an office for its own, the district office for all. Copies
 * that wait and may no longer be theirs are taken out at once.
 */
export async function correctTie(db: Db, user: User, input: TieInput): Promise<Said> {
	const { studentId, personId } = input;
	return byHand(db, user, async (hand): Promise<Said> => {
		const before = await tieOf(hand, studentId, personId);
		if (!before || before.goneAt !== null) return noTie;
		const after = fieldsOf(input);
		const changed = fields.filter((field) => before[field] !== after[field]);
		if (changed.length === 0) return { ok: true };
		await hand.tx.rows(contact).change({ studentId, personId }, after);
		for (const field of changed)
			hand.wrote({
				personId,
				field,
				aboutId: studentId,
				before: text(before[field]),
				after: text(after[field])
			});
		if (duty(before) && !duty(after)) hand.lost({ studentId, personId, custodyOnly: true });
		return { ok: true };
	});
}

/** Writes down, inside work by hand, that an adult is something to a student; again where it had ended. */
export async function putTie(
	hand: Hand,
	{ studentId, personId, ...said }: TieInput
): Promise<Said> {
	const before = await hand.tx.rows(contact).one({ studentId, personId });
	if (before && before.goneAt === null)
		return { ok: false, why: `They are on file as ${before.relation} already: correct that.` };
	const row = { ...fieldsOf(said), since: hand.at, goneAt: null };
	if (before) await hand.tx.rows(contact).change({ studentId, personId }, row);
	else await hand.tx.rows(contact).add({ studentId, personId, ...row });
	hand.wrote({ personId, field: 'relation', aboutId: studentId, after: said.relation });
	return { ok: true };
}

/** Ties somebody who is on file to a student. */
export async function addTie(db: Db, user: User, input: TieInput): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		if (input.studentId === input.personId)
			return { ok: false, why: 'Nobody is a contact of themselves. Choose somebody else.' };
		const student = await personSeen(hand, input.studentId);
		const adult = await personSeen(hand, input.personId);
		if (student?.kind !== 'student' || !adult || adult.goneAt !== null) return notTheirs;
		return putTie(hand, input);
	});
}

/** Ends what an adult is to a student. Their log and evidence stay. */
export async function endTie(
	db: Db,
	user: User,
	{ studentId, personId }: Pick<TieInput, 'studentId' | 'personId'>
): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		const before = await tieOf(hand, studentId, personId);
		if (!before) return noTie;
		if (before.goneAt !== null) return { ok: true };
		await hand.tx.rows(contact).change({ studentId, personId }, { goneAt: hand.at });
		hand.wrote({ personId, field: 'relation', aboutId: studentId, before: before.relation });
		hand.lost({ studentId, personId, custodyOnly: false });
		return { ok: true };
	});
}
