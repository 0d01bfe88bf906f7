import { createHash } from 'node:crypto';
import { now } from '../clock';
import { logLine, type LogAct, type LogLineRow, type LogThing } from '../db/models/log';
import type { Query } from '../db/open';
import { acting } from './acting';

/** A value as a line of the log has it: codes, numbers, instants and days; no words of letters, names, addresses or secrets. */
type Logged = string | number | boolean | null | readonly Logged[] | LoggedValues;
export interface LoggedValues {
	readonly [name: string]: Logged | undefined;
}

/** One thing that was done. */
export interface Deed {
	readonly act: LogAct;
	/** Who did it; null where it was done by itself. */
	readonly by: { readonly personId: number } | null;
	readonly to?: readonly [thing: LogThing, id: number];
	readonly schoolId?: number | null;
	readonly before?: LoggedValues;
	readonly after?: LoggedValues;
}

type Unbound = Omit<LogLineRow, 'bound'>;

/** What binds a line to the one before it (SHA-256, FIPS 180-4): whoever changes, takes out or puts in a line breaks every one after it. */
const boundOf = (before: string, line: Unbound): string =>
	createHash('sha256')
		.update(
			JSON.stringify([
				...[before, line.id, line.at, line.byId, line.sessionId, line.act],
				...[line.thing, line.thingId, line.schoolId, line.before, line.after]
			])
		)
		.digest('hex');

/** Writes things down that were done, in the transaction that does them. */
export async function writeDown(tx: Query, ...deeds: readonly Deed[]): Promise<void> {
	if (deeds.length === 0) return;
	const at = Math.round(await now(tx));
	const newest = await tx.one<Pick<LogLineRow, 'id' | 'bound'>>(
		'SELECT id, bound FROM log_line ORDER BY id DESC LIMIT 1'
	);
	let { id, bound } = newest ?? { id: 0, bound: '' };
	const lines = deeds.map((deed): LogLineRow => {
		id += 1;
		const line: Unbound = {
			...{ id, at, act: deed.act, byId: deed.by?.personId ?? null },
			sessionId: deed.by ? (acting()?.sessionId ?? null) : null,
			...{ thing: deed.to?.[0] ?? null, thingId: deed.to?.[1] ?? null },
			schoolId: deed.schoolId ?? null,
			before: deed.before ? JSON.stringify(deed.before) : null,
			after: deed.after ? JSON.stringify(deed.after) : null
		};
		bound = boundOf(bound, line);
		return { ...line, bound };
	});
	await tx.rows(logLine).addMany(lines);
}

/** Where a log is not what it was when it was written. */
export interface LogFault {
	/** The first line that does not follow from the one before it. */
	readonly id: number;
	readonly what: 'missing' | 'changed';
}

/** Follows the log from its first line. `wanted` is the hash of a line that was noted elsewhere: whether it is still in it tells a log that was written anew as a whole. */
export async function checkLog(
	db: Query,
	wanted?: string
): Promise<{
	readonly lines: number;
	readonly bound: string;
	readonly fault: LogFault | null;
	readonly found: boolean;
}> {
	let [id, bound, found] = [0, '', false];
	const most = 5000;
	for (;;) {
		const rows = await db.all<LogLineRow>(
			`SELECT id, at, by_id AS byId, session_id AS sessionId, act, thing, thing_id AS thingId, school_id AS schoolId,
				before, after, bound FROM log_line WHERE id > $id ORDER BY id LIMIT ${most}`,
			{ id }
		);
		for (const { bound: said, ...line } of rows) {
			if (line.id !== id + 1)
				return { lines: id, bound, found, fault: { id: id + 1, what: 'missing' } };
			bound = boundOf(bound, line);
			if (bound !== said)
				return { lines: id, bound, found, fault: { id: line.id, what: 'changed' } };
			if (said === wanted) found = true;
			id = line.id;
		}
		if (rows.length < most) break;
	}
	// What was cut off at the end leaves its number behind.
	const last = await db.one<{ seq: number }>(
		`SELECT seq FROM sqlite_sequence WHERE name = 'log_line'`
	);
	const fault: LogFault | null = last && last.seq > id ? { id: id + 1, what: 'missing' } : null;
	return { lines: id, bound, found, fault };
}
