import { writeDown } from '../../access/log';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { rosterFile, rosterSource } from '../../db/models/rosters';
import type { Db, Query } from '../../db/open';
import { rosterChanged } from '../../db/roster';
import type { Said } from '../../said';
import { changeFile } from './files';
import { followAddresses } from './follow-addresses';
import { lostBy } from './lost-ties';
import { stopWhatIsNotTheirs } from './not-theirs';
import { putDown } from './put-down';
import { rowTables, tablesInOrder, type AnyRow, type RowTable } from './row-tables';
import { readUndo } from './undo';
import { undoing, type TableWork, type Work } from './work';

/**
 * Takes the newest file of a source back: rows are again what they were, and what the source had said
 * before is what it has said. What somebody has changed by hand since stays as they have it. Who came
 * with the file and has been written to since has gone; nobody else leaves a trace.
 */
export async function takeBack(db: Db, user: User, fileId: number): Promise<Said<object>> {
	if (!isAllowed(user, 'bring-roster'))
		return { ok: false, why: 'Rosters are the district office’s.' };
	return db.write(async (tx): Promise<Said<object>> => {
		const row = await tx.rows(rosterFile).one({ id: fileId });
		const kept = row?.state === 'taken' ? await readUndo(tx, fileId) : [];
		if (!row || kept.length === 0)
			return {
				ok: false,
				why: 'This file cannot be taken back any more: another came in after it, or it was taken back already.'
			};
		for (const { did } of kept) {
			const { work, gone } = await withoutWhatIsNamed(tx, undoing(did));
			await stopWhatIsNotTheirs(tx, withGone(lostBy(work), gone));
			await followAddresses(tx, work);
			await putDown(tx, work);
			await endWhatIsNamed(tx, gone);
		}
		await tx.rows(rosterSource).change({ id: row.sourceId }, { ...kept.at(-1)!.source });
		await tx.run('DELETE FROM roster_undo WHERE file_id = $fileId', { fileId });
		await changeFile(tx, fileId, {
			state: 'taken-back',
			backAt: Math.round(await now(tx)),
			backBy: user.personId
		});
		await rosterChanged(tx);
		await writeDown(tx, { act: 'roster-taken-back', by: user, to: ['roster', fileId] });
		return { ok: true };
	});
}

const withGone = (
	lost: ReturnType<typeof lostBy>,
	gone: ReadonlyMap<RowTable, readonly AnyRow[]>
): ReturnType<typeof lostBy> => ({
	lost: lost.lost,
	gone: [...lost.gone, ...(gone.get('person') ?? []).map((row) => row.id as number)]
});

/** Which columns name a row of a table. */
async function namedBy(tx: Query, table: RowTable): Promise<{ table: string; column: string }[]> {
	return tx.all(
		`SELECT schema.name AS "table", names."from" AS "column" FROM sqlite_schema AS schema
		JOIN pragma_foreign_key_list(schema.name) AS names ON names."table" = $table
		WHERE schema.type = 'table'`,
		{ table }
	);
}

const ownTables: ReadonlySet<string> = new Set(tablesInOrder);

/**
 * The work of taking back without the rows that something else names by now (a copy, a group, a hand's
 * tie): those stay, and have gone.
 */
async function withoutWhatIsNamed(
	tx: Query,
	back: Work
): Promise<{ readonly work: Work; readonly gone: Map<RowTable, AnyRow[]> }> {
	const work: Record<RowTable, TableWork> = { ...back };
	const gone = new Map<RowTable, AnyRow[]>();
	const taken = (table: RowTable) => back[table].take;
	for (const table of [...tablesInOrder].reverse()) {
		const ids = rowTables[table].key[0] === 'id' ? taken(table).map((row) => row.id as number) : [];
		if (ids.length === 0) continue;
		const named = new Set<number>();
		for (const by of await namedBy(tx, table)) {
			// What of its own tables came with the file goes with it.
			const own = ownTables.has(by.table) ? ownTakes(by, back) : null;
			const rows = await tx.all<{ id: number }>(
				`SELECT DISTINCT ${by.column} AS id FROM ${by.table} AS naming
				WHERE ${by.column} IN (SELECT value FROM json_each($ids)) ${own?.sql ?? ''}`,
				{ ids: JSON.stringify(ids), ...(own?.bind ?? {}) }
			);
			rows.forEach((r) => named.add(r.id));
		}
		// What stays in a list above keeps what it names.
		for (const [by, list] of gone)
			for (const column of columnsNaming(by, table))
				list.forEach((row) => named.add(row[column] as number));
		if (named.size === 0) continue;
		const stays = (row: AnyRow) => named.has(row.id as number);
		gone.set(table, taken(table).filter(stays));
		work[table] = { ...back[table], take: taken(table).filter((row) => !stays(row)) };
	}
	keepNames(work, gone);
	return { work, gone };
}

const columnsNaming = (by: RowTable, table: RowTable): readonly string[] =>
	by === 'section' && table === 'course'
		? ['course_id']
		: by === 'section' && table === 'term'
			? ['term_id']
			: (by === 'course' || by === 'person') && table === 'school'
				? ['school_id']
				: [];

/** Leaves those rows out of a question that the file itself put in, and that go with it. */
function ownTakes(
	by: { readonly table: string; readonly column: string },
	back: Work
): { readonly sql: string; readonly bind: Record<string, string> } {
	const table = by.table as RowTable;
	const { key } = rowTables[table];
	const rows = back[table].take;
	if (rows.length === 0) return { sql: '', bind: {} };
	const columns = key.map((column) => `coalesce(naming.${column}, '')`).join(', ');
	const values = key.map((_, i) => `coalesce(value ->> ${i}, '')`).join(', ');
	return {
		sql: `AND (${columns}) NOT IN (SELECT ${values} FROM json_each($own))`,
		bind: { own: JSON.stringify(rows.map((row) => key.map((column) => row[column]))) }
	};
}

/** Whoever stays is known to the source as before, so that the next file finds them again. */
function keepNames(
	work: Record<RowTable, TableWork>,
	gone: ReadonlyMap<RowTable, readonly AnyRow[]>
): void {
	const staying = new Set(
		[...gone].flatMap(([table, rows]) => rows.map((row) => `${table} ${row.id as number}`))
	);
	if (staying.size === 0) return;
	work.known_as = {
		...work.known_as,
		take: work.known_as.take.filter(
			(row) => !staying.has(`${row.kind as string} ${row.row_id as number}`)
		)
	};
}

/** Those who stay because something names them have gone. */
async function endWhatIsNamed(
	tx: Query,
	gone: ReadonlyMap<RowTable, readonly AnyRow[]>
): Promise<void> {
	const at = Math.round(await now(tx));
	for (const [table, rows] of gone) {
		if (!(rowTables[table].columns as readonly string[]).includes('gone_at')) continue;
		await tx.run(
			`UPDATE ${table} SET gone_at = $at WHERE gone_at IS NULL AND id IN (SELECT value FROM json_each($ids))`,
			{ at, ids: JSON.stringify(rows.map((row) => row.id as number)) }
		);
	}
}
