import type { Query } from '../db/open';

/** How the courier and its ways stand, as the screens say it. */
export interface CourierStatus {
	readonly atWork: boolean;
	/** Ways whose provider is not there, with why and since when (instant, ms). */
	readonly down: readonly { way: 'email' | 'text'; why: string; since: number }[];
}

/** A courier beats every second; one that has been silent for so long is not there, ms of the machine's time. */
const silentMs = 6_000;

export async function courierStatus(db: Query): Promise<CourierStatus> {
	const row = await db.one<{ beat_at: number }>('SELECT beat_at FROM courier');
	const down = await db.all<{ way: 'email' | 'text'; why: string; since: number }>(
		'SELECT way, why, since FROM courier_way WHERE working = 0 ORDER BY way'
	);
	return { atWork: row !== undefined && Date.now() - row.beat_at < silentMs, down };
}
