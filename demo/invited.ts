import { DateTime } from 'luxon';
import { setClock } from '../src/lib/server/clock';
import { partyOf } from '../src/lib/server/db/coming';
import type { Db } from '../src/lib/server/db/open';
import { answer } from '../src/lib/server/desk/invitations/answer';
import { askedBy } from '../src/lib/server/desk/sheet/asked';
import type { Asking } from '../src/lib/core/talk/invitation-schema';
import { random } from './random';
import type { PastDispatch } from './wordings';

const hourMs = 3_600_000;

/** What an invitation of the past asks: times on one day, each with its places, until the afternoon three days before. */
export function askingOf(
	{ daysOn, times, places }: NonNullable<PastDispatch['asks']>,
	leavesAt: number,
	zone: string
): Asking {
	const day = DateTime.fromMillis(leavesAt, { zone }).startOf('day').plus({ days: daysOn });
	return {
		...{ kind: 'asks', places: null, most: 4, anybody: true },
		until: day.minus({ days: 3 }).set({ hour: 17 }).toMillis(),
		slots: times.map((time, i) => {
			const [hour, minute] = time.split(':').map(Number) as [number, number];
			return { id: i + 1, at: day.set({ hour, minute }).toMillis(), words: '', places };
		})
	};
}

/** Three of four families that were invited have answered since, most of them for the times after work; some stand in line. */
export async function sayWhoComes(db: Db, until: number): Promise<void> {
	const { chance, int, weighted } = random(73);
	const sent = await db.all<{ id: number; leftAt: number }>(
		`SELECT id, leaves_at AS leftAt FROM dispatch WHERE state != 'draft' AND invitation ->> '$.kind' = 'asks' ORDER BY id`
	);
	for (const { id, leftAt } of sent) {
		const asked = await askedBy(db, id);
		const people = await db.all<{ personId: number; way: string }>(
			`SELECT person_id AS personId, max(way) AS way FROM delivery WHERE dispatch_id = $id AND left_at IS NOT NULL
			GROUP BY person_id ORDER BY person_id`,
			{ id }
		);
		const said = new Set<string>();
		const answers = people
			.filter(() => chance(0.6))
			.map((p) => ({ ...p, at: leftAt + hourMs + int(0, until - leftAt - 2 * hourMs) }))
			.sort((a, b) => a.at - b.at);
		for (const { personId, way, at } of answers) {
			const party = await partyOf(db, id, personId);
			const key = `${party.kind} ${party.id}`;
			if (!asked || said.has(key)) continue;
			said.add(key);
			await setClock(db, at);
			const comes = chance(0.88);
			const slot = weighted({ 1: 1, 2: 1, 3: 3, 4: 3, 5: 4, 6: 2 });
			const adults = comes ? int(1, 2) : 0;
			await db.write((tx) =>
				answer(
					tx,
					{ ...asked, open: true },
					party,
					{
						...{ comes, people: adults, students: comes ? 0 : null },
						slot: comes ? Math.min(Number(slot), asked.asking.slots.length) : 0
					},
					{ personId, how: way === 'text' && chance(0.2) ? 'text' : 'page' }
				)
			);
		}
	}
}
