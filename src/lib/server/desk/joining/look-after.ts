import { z } from 'zod';
import { dutyReason, reasonText } from '../../../core/audience/reasons';
import type { User } from '../../access/user';
import { joining, type JoiningRow } from '../../db/models/joining';
import type { Db } from '../../db/open';
import { rosterChanged } from '../../db/roster';
import type { Said } from '../../said';
import { giveUp, groupOfMine, noSuchGroup } from '../groups/change-group';
import { byHand, personSeen, type Hand } from '../hand/by-hand';
import { idSchema } from '../hand/fields';
import { endJoinings } from './join';
import { joiningsWhere } from './rows';

export const joinerIdSchema = z.object({ id: idSchema });
export const claimSchema = z.object({
	id: idSchema,
	/** The student it is; empty where the office says no. */
	studentId: z.literal('').or(idSchema)
});

/** Somebody of a group that the user looks after. */
async function joinerOf(hand: Hand, groupId: number, id: number): Promise<JoiningRow | null> {
	if ((await groupOfMine(hand, groupId)) === undefined) return null;
	const row = await hand.tx.rows(joining).one({ id });
	return row && row.groupId === groupId ? row : null;
}

/** Takes somebody out: the same address does not come in again by itself. */
export async function takeJoinerOut(
	db: Db,
	user: User,
	groupId: number,
	id: number
): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		const row = await joinerOf(hand, groupId, id);
		if (!row) return noSuchGroup;
		await endJoinings(hand.tx, [row], { state: 'removed', byId: user.personId }, hand.at);
		hand.did({
			...{ act: 'joining-changed', to: ['group', groupId] },
			after: { what: 'removed' }
		});
		return { ok: true };
	});
}

/** Lets an address that was taken out ask again. */
export async function letAskAgain(db: Db, user: User, groupId: number, id: number): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		const row = await joinerOf(hand, groupId, id);
		if (!row) return noSuchGroup;
		if (row.state === 'removed')
			await hand.tx.rows(joining).change({ id }, { state: 'left', byId: user.personId });
		hand.did({
			...{ act: 'joining-changed', to: ['group', groupId] },
			after: { what: 'let-ask' }
		});
		return { ok: true };
	});
}

/** Says whether somebody is there for the student they named: then letters to the group speak to them of that student. */
export async function answerClaim(
	db: Db,
	user: User,
	groupId: number,
	{ id, studentId }: z.infer<typeof claimSchema>
): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		const { tx } = hand;
		const row = await joinerOf(hand, groupId, id);
		if (!row || row.state !== 'in' || row.personId === null) return noSuchGroup;
		if (studentId === '') {
			await tx.rows(joining).change({ id }, { studentId: null, claimRefused: 1 });
			await rosterChanged(tx);
			return { ok: true };
		}
		const student = await personSeen(hand, studentId);
		if (student?.kind !== 'student' || student.goneAt !== null)
			return { ok: false, why: 'There is no such student, or another office looks after them.' };
		const tie = await tx.one<{ guardian: number; custody: number | null; correspondence: number }>(
			`SELECT guardian, custody, correspondence FROM contact_now
			WHERE student_id = $studentId AND person_id = $personId`,
			{ studentId, personId: row.personId }
		);
		const duty =
			tie &&
			dutyReason({
				...{ studentId, personId: row.personId, relation: '', emergency: false },
				guardian: tie.guardian === 1,
				custody: tie.custody === null ? null : tie.custody === 1,
				correspondence: tie.correspondence === 1
			});
		if (duty)
			return {
				ok: false,
				why: `${reasonText(duty)}: that stands on file. Change it there first, if it is no longer so.`
			};
		await tx.rows(joining).change({ id }, { studentId, claimRefused: 0 });
		hand.wrote({
			...{ personId: row.personId, aboutId: studentId, field: 'group' },
			after: 'there for this student'
		});
		return { ok: true };
	});
}

/** Gives a group up: it is in no list any more, and whoever joined it is in it no longer; what was sent to it stays. */
export async function giveUpGroup(db: Db, user: User, id: number): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		const done = await giveUp(hand, id);
		if (!done.ok) return done;
		const rows = await joiningsWhere(
			hand.tx,
			`group_id = $id AND state IN ('in', 'asked', 'invited')`,
			{
				id
			}
		);
		await endJoinings(hand.tx, rows, { state: 'left', byId: user.personId }, hand.at);
		return done;
	});
}
