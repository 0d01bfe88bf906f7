import type { Bind, Query } from './open';

/** A value as SQLite gives it in JSON. */
export type Value = number | string | null;

/** Rows on their way into SQL as one JSON text that is bound: a table there, each key a column. */
export interface RowSet<K extends string> {
	/** The table, to stand behind FROM or JOIN. */
	readonly table: string;
	/** The rows as the text that is bound; what a row does not have is null. */
	json(rows: readonly Readonly<Partial<Record<K, unknown>>>[]): string;
}

/**
 * Rows handed over under a bind name ("$rows"). Inside, a row is a list of its values in the order of
 * the keys, which nobody else sees: SQLite takes it in one and a half times as fast as one with names.
 */
export const rowSet = <K extends string>(bind: `$${string}`, keys: readonly K[]): RowSet<K> => ({
	table: `(SELECT ${keys.map((key, i) => `value ->> ${i} AS ${key}`).join(', ')} FROM json_each(${bind}))`,
	json: (rows) => JSON.stringify(rows.map((row) => keys.map((key) => row[key] ?? null)))
});

/**
 * Reads many rows as one JSON text and makes each into what it is: for hundreds of thousands of
 * rows several times quicker than an object each through the driver. Yes and no stay 1 and 0.
 */
export async function readMany<T>(
	db: Query,
	columns: string,
	from: string,
	make: (values: readonly Value[]) => T,
	bind: Bind = {}
): Promise<T[]> {
	const row = await db.one<{ rows: string }>(
		`SELECT json_group_array(json_array(${columns})) AS rows FROM (SELECT ${columns} ${from})`,
		bind
	);
	return (JSON.parse(row!.rows) as Value[][]).map(make);
}
