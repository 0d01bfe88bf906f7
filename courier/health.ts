import type { WayOut } from '../src/lib/core/roster/way';
import { now } from '../src/lib/server/clock';
import type { Db } from '../src/lib/server/db/open';
import type { CourierWayRow } from '../src/lib/server/db/models/running';

/** Where the courier writes down how it is, for the page that shows it. */
export interface HealthDesk {
	/** How a way stands: why its provider is not there, and how long it is slowed down, ms. Written where it has changed. */
	way(
		way: WayOut,
		why: string | null,
		slowMs: number,
		/** What there is to say of a provider that works. */
		remark: string | null
	): Promise<void>;
	/** What does not work; it is written as soon as writing works. */
	trouble(why: string): void;
	/** Writes down what has gathered. */
	beat(strangers: number): Promise<void>;
}

export function healthDesk(db: Db): HealthDesk {
	let trouble: { why: string; at: number } | null = null;
	let strangersWritten = 0;
	return {
		async way(way, why, slowMs, remark) {
			const row = await db.one<Pick<CourierWayRow, 'working' | 'why' | 'slowMs'>>(
				'SELECT working, why, slow_ms AS slowMs FROM courier_way WHERE way = $way',
				{ way }
			);
			const working = why === null ? 1 : 0;
			if (row?.working === working && row.why === (why ?? remark ?? '') && row.slowMs === slowMs)
				return;
			await db.run(
				`INSERT INTO courier_way (way, working, since, why, slow_ms) VALUES ($way, $working, $since, $why, $slowMs)
				ON CONFLICT (way) DO UPDATE SET
					since = CASE WHEN working = excluded.working THEN since ELSE excluded.since END,
					working = excluded.working, why = excluded.why, slow_ms = excluded.slow_ms`,
				{ way, working, since: await now(db), why: why ?? remark ?? '', slowMs }
			);
		},
		trouble(why) {
			trouble = { why, at: Date.now() };
		},
		async beat(strangers) {
			if (trouble === null && strangers === strangersWritten) return;
			const said = trouble;
			await db.run(
				`UPDATE courier SET strangers = $strangers, trouble = coalesce($why, trouble),
					trouble_at = coalesce($at, trouble_at) WHERE id = 1`,
				{ strangers, why: said?.why ?? null, at: said?.at ?? null }
			);
			strangersWritten = strangers;
			if (trouble === said) trouble = null;
		}
	};
}
