import type { Query } from './open';

/** Whether a phone (E.164) has asked for no more texts and has not taken that back, by START or by joining an open group. A STOP stays with the number, on whoever's file it comes next. */
export async function saidStop(db: Query, number: string): Promise<boolean> {
	const newest = await db.one<{ command: string }>(
		`SELECT command FROM text_in WHERE from_number = $number AND command IN ('stop', 'start', 'join')
			ORDER BY id DESC LIMIT 1`,
		{ number }
	);
	return newest?.command === 'stop';
}

/** Every number (E.164) that has asked for no more texts and has not taken that back. */
export async function stoppedNumbers(db: Query): Promise<ReadonlySet<string>> {
	const rows = await db.all<{ number: string }>(
		`SELECT from_number AS number FROM text_in WHERE command = 'stop' AND id = (SELECT max(id) FROM text_in AS newer
			WHERE newer.from_number = text_in.from_number AND newer.command IN ('stop', 'start', 'join'))`
	);
	return new Set(rows.map((r) => r.number));
}
