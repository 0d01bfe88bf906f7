import { groupBy } from '../../../core/group-by';
import { ways as allWays, type Way } from '../../../core/roster/way';
import type { DeliveryState } from '../../../core/track/evidence';
import { bestHabitWords } from '../../../core/track/habit';
import { shareOf } from '../../../core/track/share';
import { isUnsure, waits } from '../../db/copy-state';
import type { DeliveryRow } from '../../db/models/delivery';
import type { Query } from '../../db/open';
import { deliveryPage, type DeliveryFilter } from '../track/delivery-lines';
import { habitsOf } from '../expect/habits';
import type { LinkLine, ReachCopies } from './types';

/**
 * Where the copies of a dispatch stand, with the page of them that fits a filter. `chosen` are the
 * dispatch's own ways; `notCovered` gives its students that are not covered, for the filter by them.
 */
export async function reachCopies(
	db: Query,
	id: number,
	{
		chosen,
		filter,
		notCovered
	}: {
		readonly chosen: readonly Way[];
		readonly filter: DeliveryFilter;
		readonly notCovered: () => number[];
	}
): Promise<ReachCopies> {
	const counts = await db.all<
		Pick<DeliveryRow, 'way' | 'state'> & {
			n: number;
			left: number;
			firstLeft: number | null;
			weak: number;
			unsure: number;
		}
	>(
		`SELECT way, state, count(*) AS n, count(left_at) AS left, min(left_at) AS firstLeft,
			sum(strength = 'weak') AS weak, sum(${isUnsure}) AS unsure
		FROM delivery WHERE dispatch_id = $id GROUP BY way, state`,
		{ id }
	);
	const sum = (of: 'weak' | 'unsure') => counts.reduce((all, c) => all + c[of], 0);
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
	const page = await deliveryPage(db, id, filter, notCovered);
	const habits = await habitsOf(db, [...new Set(page.deliveries.map((d) => d.personId))]);
	return {
		all: byWay.reduce((all, w) => all + w.copies, 0),
		firstLeft: counts.reduce<number | null>(
			(first, c) => (c.firstLeft === null ? first : Math.min(first ?? c.firstLeft, c.firstLeft)),
			null
		),
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
		weak: sum('weak'),
		unsure: sum('unsure'),
		links: await linkLines(db, id),
		...page,
		habits: Object.fromEntries(
			[...habits].map(([person, known]) => [person, bestHabitWords(Object.values(known))])
		)
	};
}

/** The links of the words, the one most people followed first. */
async function linkLines(db: Query, id: number): Promise<LinkLine[]> {
	const rows = await db.all<{ href: string; strength: string; name: string }>(
		`SELECT about AS href, max(event.strength = 'fair') AS fair, given_name || ' ' || family_name AS name,
			CASE WHEN max(event.strength = 'fair') THEN 'fair' ELSE 'weak' END AS strength
		FROM event JOIN delivery ON delivery.id = delivery_id JOIN person ON person.id = person_id
		WHERE dispatch_id = $id AND event.kind = 'words-link-followed'
		GROUP BY about, person_id ORDER BY family_name, given_name`,
		{ id }
	);
	return [...groupBy(rows, (r) => r.href)]
		.map(([href, list]) => {
			const people = list.filter((r) => r.strength === 'fair');
			return {
				href,
				people: people.length,
				machines: list.length - people.length,
				names: people.slice(0, 200).map((p) => p.name)
			};
		})
		.sort((a, b) => b.people - a.people);
}
