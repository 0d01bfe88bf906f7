import { z } from 'zod';
import type { Query } from '../../db/open';
import { rosterSource, rosterUndo } from '../../db/models/rosters';
import { rowTables, tablesInOrder, type AnyRow, type RowTable } from './row-tables';
import { noWork, type Work } from './work';

/** So many rows stand in one part. */
const inAPart = 5_000;

type Packed = readonly [table: RowTable, did: 'put' | 'change' | 'take', rows: readonly unknown[]];

/** The state of the source before: by which day it was worked out, and when it turns. */
const sourceSchema = z.object({
	appliedOn: z.string().nullable(),
	nextTurn: z.string().nullable()
});

/** A new row as far as it is needed to take it out again: its key, and whom it names. */
const namesOf = (table: RowTable, row: AnyRow): AnyRow => {
	const { key, columns } = rowTables[table];
	const names = (columns as readonly string[]).filter((column) => column.endsWith('_id'));
	return Object.fromEntries([...key, ...names].map((column) => [column, row[column]!]));
};

/** What was done to rows at one time, and how the source stood before. */
interface Done {
	readonly did: Work;
	readonly source: z.infer<typeof sourceSchema>;
}

/**
 * Keeps what is needed to take a file back: of new rows how to find them, of changed ones both states,
 * of others all. What was kept for earlier files of the source is not needed any more: only the newest
 * can be taken back.
 */
export async function keepUndo(
	tx: Query,
	fileId: number,
	sourceId: number,
	work: Work
): Promise<void> {
	await tx.run(
		'DELETE FROM roster_undo WHERE file_id IN (SELECT id FROM roster_file WHERE source_id = $sourceId)',
		{ sourceId }
	);
	await addUndo(tx, fileId, sourceId, work);
}

/** Adds what was done since by itself to what is kept of the newest file of a source, where it still is. */
export async function keepMoreUndo(tx: Query, sourceId: number, work: Work): Promise<void> {
	const newest = await tx.one<{ id: number }>(
		`SELECT max(file_id) AS id FROM roster_undo
		WHERE file_id IN (SELECT id FROM roster_file WHERE source_id = $sourceId)`,
		{ sourceId }
	);
	if (newest?.id) await addUndo(tx, newest.id, sourceId, work);
}

async function addUndo(tx: Query, fileId: number, sourceId: number, work: Work): Promise<void> {
	const before = (await tx.rows(rosterSource).one({ id: sourceId }, ['appliedOn', 'nextTurn']))!;
	let part = (await tx.one<{ n: number }>(
		'SELECT coalesce(max(part), -1) + 1 AS n FROM roster_undo WHERE file_id = $fileId',
		{ fileId }
	))!.n;
	await tx.rows(rosterUndo).add({ fileId, part, rows: JSON.stringify(before) });
	const put = async (packed: Packed) => {
		part += 1;
		await tx.run('INSERT INTO roster_undo (file_id, part, rows) VALUES ($fileId, $part, $rows)', {
			fileId,
			part,
			rows: JSON.stringify(packed)
		});
	};
	for (const table of tablesInOrder) {
		const of = work[table];
		for (let i = 0; i < of.put.length; i += inAPart)
			await put([table, 'put', of.put.slice(i, i + inAPart).map((row) => namesOf(table, row))]);
		for (const did of ['change', 'take'] as const)
			for (let i = 0; i < of[did].length; i += inAPart)
				await put([table, did, of[did].slice(i, i + inAPart)]);
	}
}

/** What was kept of a file, the last that was done first; empty where nothing is kept any more. */
export async function readUndo(tx: Query, fileId: number): Promise<Done[]> {
	const parts = await tx.all<{ rows: string }>(
		'SELECT rows FROM roster_undo WHERE file_id = $fileId ORDER BY part',
		{ fileId }
	);
	const all: Done[] = [];
	for (const { rows } of parts) {
		const packed = JSON.parse(rows) as unknown;
		if (!Array.isArray(packed)) {
			all.unshift({ did: noWork(), source: sourceSchema.parse(packed) });
			continue;
		}
		const [table, what, list] = packed as unknown as Packed;
		for (const row of list) (all[0]!.did[table][what] as unknown[]).push(row);
	}
	return all;
}
