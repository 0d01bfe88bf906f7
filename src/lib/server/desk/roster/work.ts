import { rowTables, tablesInOrder, type AnyRow, type RowTable } from './row-tables';

/** A row that changes, as it was and as it will be. */
export interface RowChange {
	readonly before: AnyRow;
	readonly after: AnyRow;
}

/** What is to be done in one table. */
export interface TableWork {
	readonly put: AnyRow[];
	readonly change: RowChange[];
	readonly take: AnyRow[];
}

/** Everything that a roster file does to rows, table by table: the same list is shown, carried out and undone. */
export type Work = Readonly<Record<RowTable, TableWork>>;

export const noWork = (): Work =>
	Object.fromEntries(
		tablesInOrder.map((table) => [table, { put: [], change: [], take: [] }])
	) as unknown as Work;

/** What undoes some work. */
export function undoing(work: Work): Work {
	return Object.fromEntries(
		tablesInOrder.map((table) => {
			const { put, change, take } = work[table];
			const turned = change.map(({ before, after }) => ({ before: after, after: before }));
			return [table, { put: take, change: turned, take: put }];
		})
	) as Work;
}

/** A row that can be told from others: its key as text. */
export const rowMark = (table: RowTable, row: Readonly<Record<string, unknown>>): string =>
	rowTables[table].key.map((column) => String(row[column] ?? '')).join('\n');

/** Adds to some work that a row has other columns, where they are others. */
export function exchange(work: TableWork, row: AnyRow, columns: AnyRow): void {
	if (Object.keys(columns).some((c) => row[c] !== columns[c]))
		work.change.push({ before: row, after: { ...row, ...columns } });
}

/** How many rows work touches. */
export const rowCount = (work: Work): number =>
	tablesInOrder.reduce((n, table) => {
		const { put, change, take } = work[table];
		return n + put.length + change.length + take.length;
	}, 0);
