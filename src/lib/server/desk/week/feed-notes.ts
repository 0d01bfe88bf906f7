import { zoneOf } from '../../../core/time/clocks';
import { datesOf, timingSchema } from '../../../core/time/timing';
import type { LocalDay } from '../../../core/time/zone';
import { may } from '../../access/may';
import type { User } from '../../access/user';
import type { Times } from '../../db/calendar';
import type { FeedLookRow, FeedRow } from '../../db/models/feed';
import type { StandingRow } from '../../db/models/dispatch';
import type { Db } from '../../db/open';
import type { DayNote } from './types';

/** What is said of a date on which nothing left. */
const came: Readonly<Record<Exclude<FeedLookRow['outcome'], 'sent'>, string>> = {
	nothing: 'nothing new',
	failed: 'not readable',
	missed: 'not asked'
};

type Row = Pick<StandingRow, 'id' | 'subject' | 'madeBy' | 'endedAt'> &
	Pick<FeedRow, 'title' | 'doneUntil'> & { readonly timing: string };

/** What feeds have to do with some days: dates still to come, and those on which nothing left, and why. What left is a tag of its own. */
export async function feedNotes(
	db: Db,
	user: User,
	days: readonly LocalDay[],
	times: Times
): Promise<(day: LocalDay) => DayNote[]> {
	const [from, to] = [days[0]!.from, days.at(-1)!.to];
	const rows = (
		await db.all<Row>(
			`SELECT standing.id, subject, made_by AS madeBy, ended_at AS endedAt, title, done_until AS doneUntil,
				sheet ->> '$.timing' AS timing FROM feed JOIN standing ON standing.id = standing_id
			WHERE made_at < $to AND coalesce(ended_at, ends_at) >= $from ORDER BY standing.id`,
			{ from, to }
		)
	).filter((r) => may(user, 'handle', r.madeBy));
	if (rows.length === 0) return () => [];
	const looks = await db.all<
		Pick<FeedLookRow, 'id' | 'standingId' | 'at'> & { outcome: keyof typeof came }
	>(
		`SELECT id, standing_id AS standingId, at, outcome FROM feed_look
		WHERE at >= $from AND at < $to AND outcome != 'sent'
			AND standing_id IN (SELECT value FROM json_each($ids)) ORDER BY at`,
		{ from, to, ids: JSON.stringify(rows.map((r) => r.id)) }
	);
	const byId = new Map(rows.map((r) => [r.id, r]));
	const note = (
		row: Row,
		{ key, at, said }: { readonly key: string; readonly at: number; readonly said: string }
	): DayNote => ({
		...{ key, kind: 'feed', at, href: `/week/standing/${row.id}`, calledOff: false },
		// What is so stands in front: a day is narrow.
		text: `${said}: ${row.title || row.subject}`
	});
	const notes = [
		...looks.map((l) =>
			note(byId.get(l.standingId)!, { key: `f${l.id}`, at: l.at, said: came[l.outcome] })
		),
		...rows
			.filter((r) => r.endedAt === null)
			.flatMap((row) => {
				const timing = timingSchema.parse(JSON.parse(row.timing));
				return datesOf(timing, {
					zone: zoneOf(times.clocks, timing.clock),
					isSchoolDay: times.isSchoolDay
				})
					.filter((m) => m.at > row.doneUntil && m.at >= from && m.at < to)
					.map((m) => note(row, { key: `f${row.id} ${m.key}`, at: m.at, said: 'if new' }));
			})
	];
	return (day) => notes.filter((n) => n.at! >= day.from && n.at! < day.to);
}
