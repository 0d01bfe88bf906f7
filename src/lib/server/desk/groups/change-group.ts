import { z } from 'zod';
import { isAllowed, scope } from '../../access/may';
import type { User } from '../../access/user';
import { groupMember, school, schoolGroup, type GroupHow } from '../../db/models/roster';
import type { Db } from '../../db/open';
import { rosterChanged } from '../../db/roster';
import type { Said } from '../../said';
import { byHand, notTheirs, personSeen, type Hand } from '../hand/by-hand';
import { idSchema, line, namePart } from '../hand/fields';

export const groupSchema = z.object({
	name: namePart('The name'),
	kind: line('What kind of group it is', 60).min(
		1,
		'Say what kind of group it is: team, choir, ferry run.'
	),
	/** Empty for the whole district. */
	schoolId: z.literal('').or(idSchema)
});

export const noSuchGroup = {
	ok: false,
	why: 'There is no such group, or another office looks after it. Load the page again.'
} as const;

/** Makes a group with nobody in it yet: an office for its school, the district office for any or all. */
export async function makeGroup(
	db: Db,
	user: User,
	group: z.infer<typeof groupSchema>
): Promise<Said<{ readonly id: number }>> {
	return byHand(db, user, (hand) => putGroup(hand, group));
}

/** Makes a group, inside work by hand. */
export async function putGroup(
	{ tx, at: madeAt, user, did }: Hand,
	{ name, kind, schoolId: at }: z.infer<typeof groupSchema>
): Promise<Said<{ readonly id: number }>> {
	const schoolId = at === '' ? null : at;
	if (!isAllowed(user, 'look-after', schoolId))
		return { ok: false, why: 'Your office makes groups of its own school only.' };
	if (schoolId !== null && !(await tx.rows(school).one({ id: schoolId })))
		return { ok: false, why: 'There is no such school. Load the page again.' };
	const same = await tx.one(
		`SELECT 1 FROM school_group_now WHERE name = $name COLLATE NOCASE AND school_id IS $schoolId`,
		{ name, schoolId }
	);
	if (same)
		return { ok: false, why: `There is a group “${name}” already. Give this one another name.` };
	const id = await tx
		.rows(schoolGroup)
		.add({ name, kind, schoolId, madeBy: user.personId, madeAt });
	await rosterChanged(tx);
	did({ act: 'group-changed', to: ['group', id], schoolId, after: { what: 'made' } });
	return { ok: true, id };
}

/** The name of a group that the user may change; undefined where there is none. */
export async function groupOfMine({ tx, user }: Hand, id: number): Promise<string | undefined> {
	const { sql, bind } = scope(user).groups;
	const row = await tx.one<{ name: string }>(
		`SELECT name FROM school_group_now AS school_group WHERE id = $id AND ${sql}`,
		{ id, ...bind }
	);
	return row?.name;
}

/** Puts students into a group; who is in it already stays as they came. Resolves to how many came in. */
export async function putIntoGroup(
	db: Db,
	user: User,
	groupId: number,
	studentIds: readonly number[],
	how: GroupHow
): Promise<Said<{ readonly count: number }>> {
	return byHand(db, user, async (hand): Promise<Said<{ readonly count: number }>> => {
		const name = await groupOfMine(hand, groupId);
		if (name === undefined) return noSuchGroup;
		const { tx, at } = hand;
		const seen = scope(user).people('person.id', 'look-after');
		const rows = await tx.all<{ id: number }>(
			`SELECT id FROM person_now AS person WHERE kind = 'student' AND id IN (SELECT value FROM json_each($ids))
				AND id NOT IN (SELECT person_id FROM group_member WHERE group_id = $groupId) AND ${seen.sql}`,
			{ ids: JSON.stringify(studentIds), groupId, ...seen.bind }
		);
		await tx
			.rows(groupMember)
			.addMany(
				rows.map(({ id }) => ({ groupId, personId: id, how, since: at, byId: user.personId }))
			);
		for (const { id } of rows) hand.wrote({ personId: id, field: 'group', after: name });
		return { ok: true, count: rows.length };
	});
}

/** Takes a student out of a group. */
export async function takeOutOfGroup(
	db: Db,
	user: User,
	groupId: number,
	personId: number
): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		const name = await groupOfMine(hand, groupId);
		if (name === undefined) return noSuchGroup;
		if (!(await personSeen(hand, personId))) return notTheirs;
		const out = await hand.tx.rows(groupMember).remove({ groupId, personId });
		if (out > 0) hand.wrote({ personId, field: 'group', before: name });
		return { ok: true };
	});
}

/** Gives a group up, inside work by hand: it is in no list any more; what was sent to it stays. */
export async function giveUp(hand: Hand, id: number): Promise<Said> {
	if ((await groupOfMine(hand, id)) === undefined) return noSuchGroup;
	await hand.tx.rows(schoolGroup).change({ id }, { goneAt: hand.at });
	await rosterChanged(hand.tx);
	return { ok: true };
}
