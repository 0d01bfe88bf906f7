import { copiesSchema } from '../sheet/sheet';
import type { DispatchRow } from '../../db/models/dispatch';
import type { Query } from '../../db/open';
import { remembering } from '../../db/remember';
import { peopleVersion } from '../../db/roster';
import { askingDispatches, type Asked } from '../sheet/asked';

/**
 * Whoever is asked, each with the number in whose name they answer: their household’s, or theirs with a minus where they
 * live in none. `$dispatch` is the invitation, `$informed` a JSON list of those whose copy is for information only.
 */
export const partiesSql = `asked AS (
		SELECT person_id FROM delivery WHERE dispatch_id IN ${askingDispatches}
			AND (person_id NOT IN (SELECT value FROM json_each($informed)) OR id IN (SELECT delivery_id FROM delivery_student))
		UNION SELECT delivery_also.person_id FROM delivery_also JOIN delivery ON delivery.id = delivery_id
			WHERE dispatch_id IN ${askingDispatches}),
	party AS (SELECT person_id, coalesce((SELECT min(household_id) FROM household_member JOIN household_now ON household_now.id = household_id
			WHERE household_member.person_id = asked.person_id), -person_id) AS party FROM asked)`;

/** The number of a row of `coming` among the parties. */
export const partyOfComing = 'coalesce(household_id, -coming.person_id)';

/** Who has a copy of an invitation for information, and is not asked: a JSON list. */
export async function informedBy(db: Query, { id }: Pick<Asked, 'id'>): Promise<string> {
	const rows = await db.all<Pick<DispatchRow, 'handling' | 'senderId'>>(
		'SELECT handling, sender_id AS senderId FROM dispatch WHERE id = $id OR about_id = $id',
		{ id }
	);
	return JSON.stringify(
		rows.flatMap(({ handling, senderId }) => {
			const { toColleagues, toSender } = copiesSchema.parse(JSON.parse(handling));
			return [...toColleagues, ...(toSender ? [senderId] : [])];
		})
	);
}

const kept = remembering<ReadonlySet<number>>(30);

/** The households and people that are asked, by the number in whose name they answer; read again when copies or people have changed. */
export async function askedParties(db: Query, asked: Asked): Promise<ReadonlySet<number>> {
	const plans = await db.one<object>(
		'SELECT sum(plan) AS plans, count(*) AS n FROM dispatch WHERE id = $id OR about_id = $id',
		{ id: asked.id }
	);
	const mark = JSON.stringify([asked.id, plans, await peopleVersion(db)]);
	return kept.get(db, mark, async () => {
		const rows = await db.all<{ party: number }>(
			`WITH ${partiesSql} SELECT DISTINCT party FROM party`,
			{ dispatch: asked.id, informed: await informedBy(db, asked) }
		);
		return new Set(rows.map((r) => r.party));
	});
}
