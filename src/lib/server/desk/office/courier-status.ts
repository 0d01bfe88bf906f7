import { ways } from '../../../core/roster/way';
import { now } from '../../clock';
import { waits, isUnsure } from '../../db/copy-state';
import { longHoldMs, longHolds, type LongHold } from '../../db/long-holds';
import type { Db, Query } from '../../db/open';
import { noneSet } from '../../gateway/outcome';
import type { CourierStatus, CourierHealth, WayHealth } from './types';
import type { CourierRow, CourierWayRow } from '../../db/models/running';
import type { DeliveryRow } from '../../db/models/delivery';

/** A courier beats every other second; one that has been silent for so long is not there, ms of the machine's time. */
const silentMs = 8_000;
const dayMs = 86_400_000;
/** From which number on events are looked at: the newest, so that no look reads them all. */
const recentEvents = '(SELECT coalesce(max(id), 0) - 50000 FROM event)';

export async function courierStatus(db: Query): Promise<CourierStatus> {
	const row = await db.one<{ beat_at: CourierRow['beatAt'] }>('SELECT beat_at FROM courier');
	const down = await db.all<Pick<CourierWayRow, 'way' | 'why' | 'since'>>(
		'SELECT way, why, since FROM courier_way WHERE working = 0 ORDER BY way'
	);
	const mark = await db.one<{ held: number }>('SELECT held IS NOT NULL AS held FROM mark');
	return {
		atWork: row !== undefined && Date.now() - row.beat_at < silentMs,
		down: down.map((way) => ({ ...way, unset: way.why === noneSet })),
		held: mark?.held === 1
	};
}

/** How each way stands, and how much it has to do and has done; `time` is the instant of the count. */
async function wayHealth(db: Query, time: number): Promise<WayHealth[]> {
	const standing = await db.all<
		Pick<CourierWayRow, 'way' | 'working' | 'why' | 'since' | 'slowMs'>
	>('SELECT way, working, why, since, slow_ms AS slowMs FROM courier_way');
	const due = await db.all<
		Pick<DeliveryRow, 'way'> & { due: number; oldest: number | null; putOff: number }
	>(
		`SELECT way, sum(due_at <= $time) AS due, min(CASE WHEN due_at <= $time THEN due_at END) AS oldest,
			sum(attempts > 0) AS putOff
		FROM delivery WHERE ${waits} AND (due_at <= $time OR attempts > 0)
			AND dispatch_id IN (SELECT id FROM dispatch WHERE state = 'scheduled' AND settled = 1)
		GROUP BY way`,
		{ time }
	);
	const left = await db.all<Pick<DeliveryRow, 'way'> & { hour: number; minute: number }>(
		`SELECT way, count(*) AS hour, sum(left_at > $minute) AS minute FROM delivery
		WHERE left_at > $hour AND left_at <= $time GROUP BY way`,
		{ time, hour: time - 3_600_000, minute: time - 60_000 }
	);
	const failed = await db.all<Pick<DeliveryRow, 'way'> & { n: number }>(
		`SELECT way, count(*) AS n FROM delivery WHERE state = 'failed' AND state_at > $day GROUP BY way`,
		{ day: time - dayMs }
	);
	return ways.map((way): WayHealth => {
		const s = standing.find((w) => w.way === way);
		const d = due.find((w) => w.way === way);
		const l = left.find((w) => w.way === way);
		return {
			way,
			working: s ? s.working === 1 : true,
			why: s?.why ?? '',
			since: s?.since ?? null,
			slowMs: s?.slowMs ?? 0,
			due: d?.due ?? 0,
			oldestDueAt: d?.oldest ?? null,
			putOff: d?.putOff ?? 0,
			leftInHour: l?.hour ?? 0,
			leftInMinute: l?.minute ?? 0,
			failedInDay: failed.find((w) => w.way === way)?.n ?? 0
		};
	});
}

/** Why mail servers refused us as a sender in the last day, the most frequent first. */
const refusedUs = (db: Query, time: number): Promise<CourierHealth['againstUs']> =>
	db.all<CourierHealth['againstUs'][number]>(
		`SELECT count(*) AS copies, detail || coalesce(' (' || max(said) || ')', '') AS detail, max(at) AS at FROM event
		WHERE id > ${recentEvents} AND kind = 'failed' AND code = 'sender' AND at > $day
		GROUP BY event.detail, substr(said, 1, 30) ORDER BY copies DESC LIMIT 5`,
		{ day: time - dayMs }
	);

/** The newest dispatches of the last week with copies that may have arrived. */
const unsureDispatches = (db: Query, time: number): Promise<CourierHealth['unsure']> =>
	db.all<CourierHealth['unsure'][number]>(
		`SELECT dispatch.id, subject, count(*) AS copies FROM delivery JOIN dispatch ON dispatch.id = dispatch_id
		WHERE ${isUnsure} AND delivery.state_at > $week
		GROUP BY dispatch.id ORDER BY dispatch.id DESC LIMIT 20`,
		{ week: time - 7 * dayMs }
	);

/** How the write lock was held in the last day; a minute of the machine's is as good as one of the job's here. */
async function lockHealth(file: string): Promise<CourierHealth['lock']> {
	const { holds, more } = await longHolds(file, Date.now() - dayMs);
	const longest = holds.reduce<LongHold | null>(
		(most, hold) => (most === null || hold.ms > most.ms ? hold : most),
		null
	);
	return { feltMs: longHoldMs, times: holds.length, more, longest };
}

/** All that the page about the courier shows, counted from the rows. */
export async function courierHealth(db: Db): Promise<CourierHealth> {
	const time = await now(db);
	const row = await db.one<
		Pick<CourierRow, 'beatAt' | 'startedAt' | 'pid' | 'trouble' | 'troubleAt' | 'strangers'>
	>(
		`SELECT beat_at AS beatAt, started_at AS startedAt, pid, trouble, trouble_at AS troubleAt, strangers FROM courier`
	);
	const other = await db.one<{ n: number }>(
		`SELECT count(*) AS n FROM returned_mail WHERE code IN ('other-recipient', 'wrong-mailbox') AND at > $week`,
		{ week: time - 7 * dayMs }
	);
	const notices = await db.one<{ waiting: number; failed: number }>(
		`SELECT (SELECT count(*) FROM notice WHERE state = 'waiting') AS waiting,
			(SELECT count(*) FROM notice WHERE state = 'failed') AS failed`
	);
	const receipt = await db.one<{ at: number | null }>(
		`SELECT max(at) AS at FROM (SELECT at FROM event WHERE id > ${recentEvents}
			AND source IN ('notification', 'text receipt') ORDER BY id DESC LIMIT 1)`
	);
	return {
		...(await courierStatus(db)),
		beatAt: row?.beatAt ?? null,
		startedAt: row?.startedAt ?? null,
		pid: row?.pid || null,
		trouble: row?.trouble ?? '',
		troubleAt: row?.troubleAt ?? 0,
		strangers: row?.strangers ?? 0,
		ways: await wayHealth(db, time),
		notices: notices!,
		againstUs: await refusedUs(db, time),
		unsure: await unsureDispatches(db, time),
		otherReports: other!.n,
		lastReceiptAt: receipt?.at ?? null,
		lock: await lockHealth(db.file),
		now: time,
		machineNow: Date.now()
	};
}
