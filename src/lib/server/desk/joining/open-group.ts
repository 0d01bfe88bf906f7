import { randomInt } from 'node:crypto';
import { z } from 'zod';
import { codeKey, newCode, readCode } from '../../../core/talk/group-code';
import type { User } from '../../access/user';
import { districtDay } from '../../db/district';
import { schoolGroup } from '../../db/models/roster';
import type { Db, Query } from '../../db/open';
import type { Said } from '../../said';
import { groupOfMine, noSuchGroup } from '../groups/change-group';
import { byHand } from '../hand/by-hand';

export const openSchema = z.object({
	/** Empty for one that is given. */
	code: z.string().max(60).catch(''),
	/** The last day; empty where it stays open. */
	until: z.literal('').or(z.iso.date('The last day is no day.'))
});

/** Why a code cannot be a group's; null where it can. Said while it is typed, and asked again when it is taken. */
export async function codeRefused(
	db: Query,
	typed: string,
	groupId: number
): Promise<string | null> {
	const read = readCode(typed);
	if (!read.ok) return read.why;
	const other = await db.one<{ code: string }>(
		'SELECT code FROM school_group_now WHERE code_key = $key AND id != $groupId',
		{ key: codeKey(read.code), groupId }
	);
	if (!other) return null;
	return other.code === read.code
		? `“${read.code}” is taken by another group. Choose another code.`
		: `“${read.code}” looks like “${other.code}”, which is taken by another group. Choose another code.`;
}

/** A code that no group has. */
async function freeCode(tx: Query): Promise<string> {
	for (;;) {
		const code = newCode(randomInt);
		const taken = await tx.one('SELECT 1 FROM school_group_now WHERE code_key = $key', {
			key: codeKey(code)
		});
		if (!taken) return code;
	}
}

/** Opens a group: whoever has its code can join until its last day. Opened again, its code and day are changed. */
export async function openGroup(
	db: Db,
	user: User,
	groupId: number,
	{ code: typed, until }: z.infer<typeof openSchema>
): Promise<Said<{ readonly code: string }>> {
	return byHand(db, user, async (hand): Promise<Said<{ readonly code: string }>> => {
		const { tx } = hand;
		if ((await groupOfMine(hand, groupId)) === undefined) return noSuchGroup;
		if (until !== '' && until < (await districtDay(tx)))
			return { ok: false, why: 'The last day is past. Choose one that is still to come.' };
		const before = (await tx.rows(schoolGroup).one({ id: groupId }, ['code']))!.code;
		const refused = typed.trim() === '' ? null : await codeRefused(tx, typed, groupId);
		if (refused !== null) return { ok: false, why: refused };
		const read = readCode(typed);
		const code = read.ok ? read.code : (before ?? (await freeCode(tx)));
		await tx
			.rows(schoolGroup)
			.change(
				{ id: groupId },
				{ code, codeKey: codeKey(code), openUntil: until === '' ? null : until }
			);
		hand.did({ act: 'joining-changed', to: ['group', groupId], after: { what: 'opened' } });
		return { ok: true, code };
	});
}

/** Closes a group: its code lets nobody in any more; who is in stays in. */
export async function closeGroup(db: Db, user: User, groupId: number): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		if ((await groupOfMine(hand, groupId)) === undefined) return noSuchGroup;
		await hand.tx
			.rows(schoolGroup)
			.change({ id: groupId }, { code: null, codeKey: null, openUntil: null });
		hand.did({ act: 'joining-changed', to: ['group', groupId], after: { what: 'closed' } });
		return { ok: true };
	});
}
