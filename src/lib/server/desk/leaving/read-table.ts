import type { Bind, Query } from '../../db/open';
import type { LeavingTable } from './leaving-table';

/** How many rows are read at once: a district's copies never lie in memory whole. */
const atOnce = 4000;

type Cells = Readonly<Record<string, string | number | null>>;

/** Columns by their place: two of one name would be one. */
const placed = ({ columns, sql }: LeavingTable, inner: string = sql): string =>
	`WITH t(${columns.map((_, i) => `c${i}`).join(', ')}) AS (${inner}) SELECT * FROM t`;

const cellsOf = (row: Cells): string[] =>
	Object.values(row).map((value) => (value === null ? '' : String(value)));

/** The rows of a table as it leaves, its heading first, read by and by. */
export async function* readTable(db: Query, of: LeavingTable): AsyncGenerator<readonly string[]> {
	yield of.columns.map(([name]) => name);
	const read = (inner: string, bind: Bind = {}) => db.all<Cells>(placed(of, inner), bind);
	if (of.sql.includes('$to')) {
		const last = (await db.one<{ id: number | null }>('SELECT max(id) AS id FROM delivery'))!.id;
		for (let after = 0; after < (last ?? 0); after += atOnce)
			for (const row of await read(of.sql, { after, to: after + atOnce })) yield cellsOf(row);
		return;
	}
	const key = /^SELECT ([\w.]+)/.exec(of.sql)?.[1];
	if (!of.sql.includes('{page}')) {
		for (const row of await read(of.sql)) yield cellsOf(row);
		return;
	}
	const page = of.sql.replace('{page}', `${key} > $after ORDER BY ${key} LIMIT ${atOnce}`);
	for (let after = -1; ;) {
		const rows = await read(page, { after });
		for (const row of rows) yield cellsOf(row);
		if (rows.length < atOnce) return;
		after = Number(rows.at(-1)!.c0);
	}
}
