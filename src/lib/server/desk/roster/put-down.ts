import { rowSet, type Value } from '../../db/many';
import type { Query } from '../../db/open';
import { columnsOfTable, rowTables, tablesInOrder, type AnyRow, type RowTable } from './row-tables';
import type { Work } from './work';

/** So many rows at a time: one text of all of them would be held in memory several times over. */
const atATime = 5_000;

/** Calls for some rows at a time, in their order. */
async function inParts<T>(rows: readonly T[], put: (part: readonly T[]) => Promise<void>) {
	for (let i = 0; i < rows.length; i += atATime) await put(rows.slice(i, i + atATime));
}

/**
 * Writes work down, inside a transaction: rows are put in before what names them, and taken out after.
 * `seen` hears how many rows are done.
 */
export async function putDown(
	tx: Query,
	work: Work,
	seen: (rows: number) => void = () => {}
): Promise<void> {
	for (const table of tablesInOrder) {
		const { put, change } = work[table];
		await inParts(put, async (part) => {
			await insert(tx, table, part);
			seen(part.length);
		});
		await inParts(change, async (part) => {
			await exchange(tx, table, part);
			seen(part.length);
		});
	}
	for (const table of [...tablesInOrder].reverse()) {
		const { take } = work[table];
		await inParts(take, async (part) => {
			await remove(tx, table, part);
			seen(part.length);
		});
	}
}

/** How rows that are handed over are told to be those of a table; nothing equals nothing here. */
const isRow = (table: RowTable, of: string, prefix = ''): string =>
	rowTables[table].key
		.map((column) => `${table}.${column} IS ${of}.${prefix}${column}`)
		.join(' AND ');

async function insert(tx: Query, table: RowTable, rows: readonly AnyRow[]): Promise<void> {
	const columns = columnsOfTable(table);
	const set = rowSet('$rows', columns);
	await tx.run(
		`INSERT INTO ${table} (${columns.join(', ')}) SELECT * FROM ${set.table} WHERE true ON CONFLICT DO NOTHING`,
		{ rows: set.json(rows) }
	);
}

/**
 * Exchanges the columns in which the two states differ, and only where the row still is as it was:
 * what somebody has changed meanwhile stays as they have it.
 */
async function exchange(
	tx: Query,
	table: RowTable,
	rows: readonly { readonly before: AnyRow; readonly after: AnyRow }[]
): Promise<void> {
	const { key, columns } = rowTables[table];
	const names = [...key, ...columns.flatMap((column) => [`was_${column}`, `will_${column}`])];
	const set = rowSet('$rows', names);
	const json = set.json(
		rows.map(({ before, after }) => {
			return Object.fromEntries([
				...key.map((column) => [column, before[column]]),
				...columns.flatMap((column) => [
					[`was_${column}`, before[column]],
					[`will_${column}`, after[column]]
				])
			]) as Record<string, Value>;
		})
	);
	// Full-text indexes follow only the columns that a statement names.
	const touched = columns.filter((column) =>
		rows.some(({ before, after }) => before[column] !== after[column])
	);
	if (touched.length === 0) return;
	await tx.run(
		`UPDATE ${table} SET ${touched
			.map(
				(column) =>
					`${column} = CASE WHEN ${table}.${column} IS will.was_${column} THEN will.will_${column} ELSE ${table}.${column} END`
			)
			.join(', ')} FROM ${set.table} AS will WHERE ${isRow(table, 'will')}`,
		{ rows: json }
	);
}

async function remove(tx: Query, table: RowTable, rows: readonly AnyRow[]): Promise<void> {
	const { key } = rowTables[table];
	const set = rowSet('$rows', key);
	// A post of the district has no school, and nothing is in no set.
	const marks = (table === 'staff' ? [...key.map((c) => `coalesce(${c}, '')`)] : key).join(', ');
	await tx.run(`DELETE FROM ${table} WHERE (${marks}) IN (SELECT ${marks} FROM ${set.table})`, {
		rows: set.json(rows)
	});
}
