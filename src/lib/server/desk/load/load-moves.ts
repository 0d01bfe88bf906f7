import type { Db } from '../../db/open';
import type { User } from '../../access/user';
import { workZone } from '../../access/work-clock';
import { may } from '../../access/may';
import type { LoadWindow } from './load';
import { DateTime } from 'luxon';
import { leadMinutes } from '../../../core/time/hold';
import type { SuggestedMove } from './types';
import { now } from '../../clock';
import { type LoadEntry, type Movable, bestMoves } from '../../../core/plan/load';
import { localOf } from '../../../core/time/local';

/** A dispatch that may still be moved, as far as moving it is weighed. */
export interface MovableRow {
	readonly id: number;
	readonly subject: string;
	readonly leavesAt: number;
	readonly endsAt: number | null;
	readonly changedAt: number;
	readonly eventId: number | null;
}

export const movableRows = (db: Db, user: User): Promise<MovableRow[]> =>
	db.all<MovableRow>(
		`SELECT dispatch.id, subject, leaves_at AS leavesAt, ends_at AS endsAt, changed_at AS changedAt,
			round.event_id AS eventId FROM dispatch LEFT JOIN round ON round.id = round_id
		WHERE state = 'scheduled' AND waits IS NULL AND json_extract(dispatch.timing, '$.when.kind') = 'at'
			AND coalesce(json_extract(dispatch.timing, '$.urgent'), 0) = 0
			${may(user, 'speak-for-district') ? '' : 'AND sender_id = $user'}`,
		may(user, 'speak-for-district') ? {} : { user: user.personId }
	);

/** Days by which a dispatch may be moved within a window: to school days, half an hour ahead at least, and not past its end. */
function allowedDays(row: MovableRow, { days, times }: LoadWindow, time: number): number[] {
	const { zone } = times;
	const from = DateTime.fromMillis(row.leavesAt, { zone });
	const here = days.findIndex((d) => row.leavesAt >= d.from && row.leavesAt < d.to);
	if (here < 0) return [];
	return days.flatMap((day, i) => {
		if (i === here || !times.isSchoolDay(day.date)) return [];
		const at = from.plus({ days: i - here }).toMillis();
		return at < time + leadMinutes * 60_000 || (row.endsAt !== null && at >= row.endsAt)
			? []
			: [i - here];
	});
}

/** What to move, and where to, so that the load comes down most: every allowed day of everything movable is tried. */
export async function suggestedMoves(
	db: Db,
	user: User,
	window: LoadWindow
): Promise<SuggestedMove[]> {
	const time = await now(db);
	const zone = await workZone(db, user);
	const rows = new Map((await movableRows(db, user)).map((r) => [r.id, r]));
	const own = new Map<number, LoadEntry[]>();
	for (const entry of window.entries) {
		const list = own.get(entry.dispatchId);
		if (list) list.push(entry);
		else own.set(entry.dispatchId, [entry]);
	}
	const movables = [...own].flatMap(([dispatchId, entries]): Movable[] => {
		const row = rows.get(dispatchId);
		// A reminder belongs to its event's time.
		return row && row.eventId === null
			? [{ dispatchId, entries, byDays: allowedDays(row, window, time) }]
			: [];
	});
	return bestMoves(window.load, movables, window.times.loadLimit).map((move) => {
		const row = rows.get(move.dispatchId)!;
		const to = DateTime.fromMillis(row.leavesAt, { zone }).plus({ days: move.byDays });
		return {
			dispatchId: move.dispatchId,
			subject: row.subject,
			from: row.leavesAt,
			toLocal: localOf(to.toMillis(), zone),
			to: to.toMillis(),
			relief: move.relief,
			base: row.changedAt
		};
	});
}
