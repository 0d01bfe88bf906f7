import { judgedTogether, type Judged, type Tally } from '../../../core/track/expect/judge';
import { shareOf } from '../../../core/track/share';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import type { ForecastRow } from '../../db/models/expect';
import type { Db } from '../../db/open';
import type { HowGood, JudgedGroup } from './types';

type Row = Pick<
	ForecastRow,
	'dispatchId' | 'leavesAt' | 'byAt' | 'students' | 'expected' | 'low' | 'high'
> & { readonly subject: string; readonly covered: number; readonly judged: string };

const groupsOf = (
	sums: Readonly<Record<string, Tally>>,
	nameOf: (key: string) => string
): JudgedGroup[] =>
	Object.entries(sums)
		.map(([key, { of, expected, came }]) => ({
			...{ name: nameOf(key), of, came },
			expected: Math.round(expected),
			off: (came - expected) / of
		}))
		.sort((a, b) => b.of - a.of);

/** How good the forecasts were of all dispatches that a user may see: whether what came lies in their bands, and how near they were against two plain rivals. */
export async function howGood(db: Db, user: User): Promise<HowGood> {
	const condition = scope(user).dispatches;
	const rows = await db.all<Row>(
		`SELECT dispatch_id AS dispatchId, forecast.leaves_at AS leavesAt, by_at AS byAt, students, forecast.expected, low, high, covered, judged, subject
		FROM forecast JOIN dispatch ON dispatch.id = dispatch_id
		WHERE judged IS NOT NULL AND ${condition.sql} ORDER BY forecast.leaves_at DESC`,
		condition.bind
	);
	const all = judgedTogether(rows.map((r) => JSON.parse(r.judged) as Judged));
	const students = rows.reduce((sum, r) => sum + r.students, 0);
	const schools = new Map(
		(await db.all<{ id: number; name: string }>('SELECT id, name FROM school')).map((s) => [
			String(s.id),
			s.name
		])
	);
	const within = rows.filter((r) => r.covered >= r.low && r.covered <= r.high).length;
	const per = (sum: number) => (students === 0 ? 0 : sum / students);
	return {
		forecasts: rows.length,
		within: shareOf(within, rows.length),
		students,
		off:
			rows.length === 0
				? 0
				: rows.reduce((sum, r) => sum + Math.abs(r.covered - r.expected), 0) / rows.length,
		brier: { own: per(all.brier.own), usual: per(all.brier.usual), last: per(all.brier.last) },
		tenths: all.tenths.map(({ of, expected, came }) => ({
			...{ of, came },
			said: of === 0 ? null : expected / of,
			share: of === 0 ? null : shareOf(came, of)
		})),
		schools: groupsOf(all.schools, (key) => schools.get(key) ?? 'no school'),
		languages: groupsOf(all.languages, (tags) => tags),
		lines: rows
			.slice(0, 200)
			.map(({ judged: _, ...row }) => ({ ...row, expected: Math.round(row.expected) }))
	};
}
