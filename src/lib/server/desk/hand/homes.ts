import { z } from 'zod';
import type { User } from '../../access/user';
import { household, householdMember } from '../../db/models/roster';
import type { Db } from '../../db/open';
import type { Said } from '../../said';
import { byHand, notTheirs, personSeen, type Hand } from './by-hand';
import { idSchema } from './fields';

const nameOf = async ({ tx }: Hand, id: number) =>
	(await tx.one<{ name: string; family: string }>(
		`SELECT given_name || ' ' || family_name AS name, family_name AS family FROM person WHERE id = $id`,
		{ id }
	))!;

/** Puts a person into the homes of another; into a new one with them where they have none. Inside work by hand. */
export async function moveIn(hand: Hand, personId: number, withId: number): Promise<void> {
	const { tx } = hand;
	const homes = await tx.all<{ id: number }>(
		`SELECT id FROM household_now JOIN household_member ON household_id = id WHERE person_id = $withId ORDER BY id`,
		{ withId }
	);
	const other = await nameOf(hand, withId);
	if (homes.length === 0) {
		const id = await tx.rows(household).add({ name: other.family, since: hand.at, goneAt: null });
		await tx.rows(householdMember).add({ householdId: id, personId: withId });
		homes.push({ id });
	}
	await tx.rows(householdMember).addMany(
		homes.map(({ id }) => ({ householdId: id, personId })),
		'keep'
	);
	hand.wrote({ personId, field: 'household', aboutId: withId, after: other.name });
}

export const homeSchema = z.object({ personId: idSchema, withId: idSchema });

/** Writes down that a person lives with another. */
export async function livesWith(
	db: Db,
	user: User,
	{ personId, withId }: z.infer<typeof homeSchema>
): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		const [one, other] = [await personSeen(hand, personId), await personSeen(hand, withId)];
		if (!one || !other || one.goneAt !== null || other.goneAt !== null) return notTheirs;
		if (personId === withId)
			return { ok: false, why: 'Choose somebody else: everybody lives with themselves.' };
		const together = await hand.tx.one(
			`SELECT 1 FROM household_member AS a JOIN household_member AS b USING (household_id)
			WHERE a.person_id = $personId AND b.person_id = $withId`,
			{ personId, withId }
		);
		if (!together) await moveIn(hand, personId, withId);
		return { ok: true };
	});
}

export const moveOutSchema = z.object({ personId: idSchema, householdId: idSchema });

/** Writes down that a person no longer lives in a household. */
export async function moveOut(
	db: Db,
	user: User,
	{ personId, householdId }: z.infer<typeof moveOutSchema>
): Promise<Said> {
	return byHand(db, user, async (hand): Promise<Said> => {
		if (!(await personSeen(hand, personId))) return notTheirs;
		const home = await hand.tx.rows(household).one({ id: householdId });
		const left = await hand.tx.rows(householdMember).remove({ personId, householdId });
		if (left > 0) hand.wrote({ personId, field: 'household', before: home?.name || 'a household' });
		return { ok: true };
	});
}
