import { zoneOf } from '../../../core/time/clocks';
import { datesOf, type Moment, type Timing } from '../../../core/time/timing';
import { readTimes, type Times } from '../../db/calendar';
import { feed } from '../../db/models/feed';
import type { Query } from '../../db/open';
import { sheetSchema } from '../sheet/sheet';

/** The first of its dates after an instant; null where there is none any more. */
export const dateAfter = (timing: Timing, times: Times, after: number): Moment | null =>
	datesOf(timing, {
		zone: zoneOf(times.clocks, timing.clock),
		isSchoolDay: times.isSchoolDay
	}).find((m) => m.at > after) ?? null;

/** Asks the calendar again when each feed is to be asked next: days without school or the zone have changed. */
export async function retimeFeeds(tx: Query): Promise<void> {
	const times = await readTimes(tx);
	const rows = await tx.all<{ id: number; sheet: string; doneUntil: number }>(
		`SELECT standing_id AS id, sheet, done_until AS doneUntil FROM feed JOIN standing ON standing.id = standing_id
		WHERE ended_at IS NULL AND tries = 0`
	);
	for (const { id, sheet, doneUntil } of rows) {
		const next = dateAfter(sheetSchema.parse(JSON.parse(sheet)).timing, times, doneUntil);
		await tx.rows(feed).change({ standingId: id }, { nextAt: next?.at ?? null });
	}
}
