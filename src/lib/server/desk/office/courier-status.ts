import { now } from '../../clock';
import type { Query } from '../../db/open';

/** How the courier and its ways stand, as the screens say it. */
export interface CourierStatus {
	readonly atWork: boolean;
	/** Ways whose provider is not there, with why and since when (instant, ms). */
	readonly down: readonly { way: 'email' | 'text'; why: string; since: number }[];
	/** Whether nothing leaves until somebody has looked at a database that was put back. */
	readonly held: boolean;
}

/** A courier beats every other second; one that has been silent for so long is not there, ms of the machine's time. */
const silentMs = 8_000;

export async function courierStatus(db: Query): Promise<CourierStatus> {
	const row = await db.one<{ beat_at: number }>('SELECT beat_at FROM courier');
	const down = await db.all<{ way: 'email' | 'text'; why: string; since: number }>(
		'SELECT way, why, since FROM courier_way WHERE working = 0 ORDER BY way'
	);
	const mark = await db.one<{ held: number }>('SELECT held IS NOT NULL AS held FROM mark');
	return {
		atWork: row !== undefined && Date.now() - row.beat_at < silentMs,
		down,
		held: mark?.held === 1
	};
}

/** What waits, what goes, and what went wrong, by way. */
export interface WayHealth {
	readonly way: 'email' | 'text' | 'inbox';
	readonly working: boolean;
	readonly why: string;
	/** Since when it stands so (instant, ms); null where nothing is known yet. */
	readonly since: number | null;
	/** How long it is slowed down, ms. */
	readonly slowMs: number;
	/** Copies whose time has come, and since when the oldest of them waits. */
	readonly due: number;
	readonly oldestDueAt: number | null;
	/** Copies that were put off and are tried again. */
	readonly putOff: number;
	/** Copies that left within the last hour, and in the last minute of it. */
	readonly leftInHour: number;
	readonly leftInMinute: number;
	readonly failedInDay: number;
}

export interface CourierHealth extends CourierStatus {
	/** Machine's time, ms; null where no courier has ever been at work here. */
	readonly beatAt: number | null;
	readonly startedAt: number | null;
	readonly pid: number | null;
	readonly ways: readonly WayHealth[];
	/** What went wrong last in the courier itself, and when (machine's time, ms); empty where nothing did. */
	readonly trouble: string;
	readonly troubleAt: number;
	/** What other mail systems have against us as a sender, in a day: one trouble of the way, and no fault of the mailboxes. */
	readonly againstUs: readonly {
		readonly copies: number;
		readonly detail: string;
		readonly at: number;
	}[];
	/** Copies that were handed over more than once without an answer, and wait for somebody to look; by dispatch. */
	readonly unsure: readonly {
		readonly id: number;
		readonly subject: string;
		readonly copies: number;
	}[];
	/** Reports that came back about other addresses than those written to, in a week. */
	readonly otherReports: number;
	/** Receipts of texts that nobody knows, since the courier began. */
	readonly strangers: number;
	/** Letters to the staff that wait, and that could not be sent. */
	readonly notices: { readonly waiting: number; readonly failed: number };
	/** Last evidence that came in from outside (instant, ms). */
	readonly lastReceiptAt: number | null;
	/** Time of the job, ms. */
	readonly now: number;
	readonly machineNow: number;
}

/** All that the page about the courier shows, counted from the rows. */
export async function courierHealth(db: Query): Promise<CourierHealth> {
	const time = await now(db);
	const row = await db.one<{
		beatAt: number;
		startedAt: number;
		pid: number;
		trouble: string;
		troubleAt: number;
		strangers: number;
	}>(
		`SELECT beat_at AS beatAt, started_at AS startedAt, pid, trouble, trouble_at AS troubleAt, strangers FROM courier`
	);
	const standing = await db.all<{
		way: string;
		working: number;
		why: string;
		since: number;
		slowMs: number;
	}>('SELECT way, working, why, since, slow_ms AS slowMs FROM courier_way');
	const due = await db.all<{ way: string; due: number; oldest: number | null; putOff: number }>(
		`SELECT way, sum(due_at <= $time) AS due, min(CASE WHEN due_at <= $time THEN due_at END) AS oldest,
			sum(attempts > 0) AS putOff
		FROM delivery WHERE state IN ('held', 'planned') AND (due_at <= $time OR attempts > 0)
			AND dispatch_id IN (SELECT id FROM dispatch WHERE state = 'scheduled' AND settled = 1)
		GROUP BY way`,
		{ time }
	);
	const left = await db.all<{ way: string; hour: number; minute: number }>(
		`SELECT way, count(*) AS hour, sum(left_at > $minute) AS minute FROM delivery
		WHERE left_at > $hour AND left_at <= $time GROUP BY way`,
		{ time, hour: time - 3_600_000, minute: time - 60_000 }
	);
	const failed = await db.all<{ way: string; n: number }>(
		`SELECT way, count(*) AS n FROM delivery WHERE state = 'failed' AND state_at > $day GROUP BY way`,
		{ day: time - 86_400_000 }
	);
	const againstUs = await db.all<{ copies: number; detail: string; at: number }>(
		`SELECT count(*) AS copies, max(detail) AS detail, max(at) AS at FROM event
		WHERE id > (SELECT coalesce(max(id), 0) - 50000 FROM event) AND kind = 'failed' AND code = 'sender' AND at > $day
		GROUP BY substr(detail, 1, 60) ORDER BY copies DESC LIMIT 5`,
		{ day: time - 86_400_000 }
	);
	const unsure = await db.all<{ id: number; subject: string; copies: number }>(
		`SELECT dispatch.id, subject, count(*) AS copies FROM delivery JOIN dispatch ON dispatch.id = dispatch_id
		WHERE unanswered > 1 AND delivery.state = 'sent' AND delivery.state_at > $week
		GROUP BY dispatch.id ORDER BY dispatch.id DESC LIMIT 20`,
		{ week: time - 7 * 86_400_000 }
	);
	const other = await db.one<{ n: number }>(
		`SELECT count(*) AS n FROM returned_mail WHERE code IN ('other-recipient', 'wrong-mailbox') AND at > $week`,
		{ week: time - 7 * 86_400_000 }
	);
	const notices = await db.one<{ waiting: number; failed: number }>(
		`SELECT coalesce(sum(state = 'waiting'), 0) AS waiting, coalesce(sum(state = 'failed'), 0) AS failed FROM notice`
	);
	const receipt = await db.one<{ at: number | null }>(
		`SELECT max(at) AS at FROM (SELECT at FROM event WHERE source IN ('notification', 'text receipt')
			ORDER BY id DESC LIMIT 1)`
	);
	return {
		...(await courierStatus(db)),
		beatAt: row?.beatAt ?? null,
		startedAt: row?.startedAt ?? null,
		pid: row?.pid || null,
		trouble: row?.trouble ?? '',
		troubleAt: row?.troubleAt ?? 0,
		strangers: row?.strangers ?? 0,
		ways: (['email', 'text', 'inbox'] as const).map((way): WayHealth => {
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
		}),
		notices: notices!,
		againstUs,
		unsure,
		otherReports: other!.n,
		lastReceiptAt: receipt?.at ?? null,
		now: time,
		machineNow: Date.now()
	};
}
