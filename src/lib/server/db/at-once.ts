import type { Query } from './open';
import type { Bind } from './statements';

/** A statement that asks nothing back, with what it binds. */
export interface Deed {
	readonly sql: string;
	readonly bind: Bind;
}

/** A condition that always holds. */
export const always: Deed = { sql: '1', bind: {} };

/** Two conditions that must both hold. What both bind by one name is the same. */
export const both = (one: Deed, other: Deed): Deed => ({
	sql: `(${one.sql}) AND (${other.sql})`,
	bind: { ...one.bind, ...other.bind }
});

/** Does what is to be done one by one, in a transaction that has asked something before. */
export async function inSteps(tx: Pick<Query, 'run'>, deeds: readonly Deed[]): Promise<void> {
	for (const { sql, bind } of deeds) await tx.run(sql, bind);
}

/** A value as SQL has it. */
function literal(name: string, value: Bind[string] | undefined): string {
	if (value === null) return 'NULL';
	if (typeof value === 'number' && Number.isFinite(value)) return String(value);
	// The engine's text of statements ends at the first NUL.
	if (typeof value !== 'string' || value.includes('\0'))
		throw new Error(`a statement cannot be given ${JSON.stringify(value)} for $${name}`);
	return `'${value.replaceAll("'", "''")}'`;
}

const filledIn = ({ sql, bind }: Deed): string =>
	sql.replace(/\B\$(\w+)/g, (_, name: string) => literal(name, bind[name]));

/** What a connection has to itself for {@link atOnceSql}: made once, in memory. */
export const ownTables = `PRAGMA temp_store = MEMORY;
CREATE TEMP TABLE stands (ok INTEGER CONSTRAINT stands CHECK (ok));
CREATE TEMP TABLE held (since REAL, until REAL);
INSERT INTO temp.held VALUES (0, 0)`;

/** How long the lock was held by what {@link atOnceSql} did last, ms. */
export const heldSql = 'SELECT (until - since) * 86400000 AS ms FROM temp.held';

/** Whether an error says that what a transaction rests on does not stand any more. */
export const standsNoMore = (error: unknown): boolean =>
	error instanceof Error && error.message.includes('CHECK constraint failed: stands');

/** SQLite reads a statement of a million bytes at most by itself (SQLITE_MAX_SQL_LENGTH, limits.html). */
const mostBytes = 900_000;

/**
 * A whole transaction as one text, which the engine goes through without anything coming between: it takes the
 * lock, looks whether a condition still holds, does everything, and gives the lock back. Where the condition
 * does not hold it undoes itself and ends with an error that {@link standsNoMore} knows.
 *
 * @param stands an SQL condition, of what was read before.
 * @returns null where it is longer than the engine reads.
 */
export function atOnceSql(stands: Deed, deeds: readonly Deed[]): string | null {
	const sql = [
		'BEGIN IMMEDIATE',
		"UPDATE temp.held SET since = julianday('now')",
		`INSERT OR ROLLBACK INTO temp.stands SELECT 0 WHERE NOT (${filledIn(stands)})`,
		...deeds.map(filledIn),
		'COMMIT',
		"UPDATE temp.held SET until = julianday('now')"
	].join(';\n');
	return Buffer.byteLength(sql) > mostBytes ? null : sql;
}
