import { ways as allWays, type Way } from '../../../core/roster/way';
import type { DeliveryState } from '../../../core/track/evidence';
import { bestHabitWords } from '../../../core/track/habit';
import { shareOf } from '../../../core/track/share';
import { waits } from '../../db/copy-state';
import type { Query } from '../../db/open';
import type { CountedDispatch } from '../track/coverage';
import { deliveryPage, type DeliveryFilter } from '../track/listed-copies';
import { habitsOf } from '../expect/habits';
import type { CopyFigures, LinkLine, ReachCopies } from './types';

/** Where the copies of a dispatch stand. `chosen` are the dispatch's own ways. */
export async function copyFigures(
	db: Query,
	id: number,
	counted: CountedDispatch,
	chosen: readonly Way[]
): Promise<CopyFigures> {
	const { counts, firstLeft, weak, unsure } = counted.counts;
	const pending = (await db.one<ReachCopies['pending']>(
		`SELECT count(*) AS copies, coalesce(sum(attempts = 0), 0) AS untried, min(due_at) AS firstAt, max(due_at) AS lastAt FROM delivery
		WHERE dispatch_id = $id AND ${waits}`,
		{ id }
	))!;
	// Copies for information and ways chosen by hand may go by another way than the dispatch's.
	const ways = allWays.filter((w) => chosen.includes(w) || counts.some((c) => c.way === w));
	const byWay = ways.map((way) => {
		const mine = counts.filter((c) => c.way === way);
		return {
			way,
			states: Object.fromEntries(mine.map((c) => [c.state, c.n])) as Partial<
				Record<DeliveryState, number>
			>,
			copies: mine.reduce((all, c) => all + c.n, 0)
		};
	});
	return {
		all: byWay.reduce((all, w) => all + w.copies, 0),
		firstLeft,
		pending,
		byWay,
		byWayRead: byWay
			.map(({ way, states }) => {
				const read = (states.read ?? 0) + (states.answered ?? 0);
				// What failed before it was handed over never left.
				const left = counts.reduce((all, c) => all + (c.way === way ? c.left : 0), 0);
				return { name: way, ...shareOf(Math.min(read, left), left) };
			})
			.filter((s) => s.of > 0),
		...{ weak, unsure },
		links: await linkLines(db, counted)
	};
}

/** The page of a dispatch's copies that fits a filter. */
export async function copiesPage(
	db: Query,
	id: number,
	counted: CountedDispatch,
	filter: DeliveryFilter
): Promise<Omit<ReachCopies, keyof CopyFigures>> {
	const page = await deliveryPage(db, id, counted, filter);
	const habits = await habitsOf(db, [...new Set(page.deliveries.map((d) => d.personId))]);
	return {
		...page,
		habits: Object.fromEntries(
			[...habits].map(([person, known]) => [person, bestHabitWords(Object.values(known))])
		)
	};
}

/** So many of those who followed a link are named. */
const mostNames = 200;

/** The links of the words, the one most people followed first. */
async function linkLines(db: Query, { links }: CountedDispatch): Promise<LinkLine[]> {
	const lines: LinkLine[] = [];
	for (const { href, people, machines } of links.links) {
		const names = await db.all<{ name: string }>(
			`SELECT given_name || ' ' || family_name AS name FROM person WHERE id IN (SELECT value FROM json_each($ids))
			ORDER BY family_name, given_name LIMIT ${mostNames}`,
			{ ids: JSON.stringify(people) }
		);
		lines.push({ href, people: people.length, machines, names: names.map((n) => n.name) });
	}
	return lines.sort((a, b) => b.people - a.people);
}
