import { existsSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { openDatabase, type Db, type Query } from '../../db/open';
import type { Tab, What } from '../../../core/roster/counts';
import type { ChangeLine, Question, WrongLine } from './types';

/** Where the files of a roster lie, and what was seen in them. */
export const rosterFolder = (dataFolder: string, fileId: number): string =>
	join(dataFolder, 'rosters', String(fileId));
export const tablesFolder = (dataFolder: string, fileId: number): string =>
	join(rosterFolder(dataFolder, fileId), 'files');
const lookPath = (dataFolder: string, fileId: number) =>
	join(rosterFolder(dataFolder, fileId), 'looked.sqlite');

/**
 * What was seen in a roster file, line by line, beside the database and not in it: hundreds of thousands
 * of lines that nobody needs any more once it has come in. It can be made anew from the file.
 */
const lookTables = [
	`CREATE TABLE change (what TEXT NOT NULL, tab TEXT NOT NULL, n INTEGER NOT NULL, size INTEGER NOT NULL, lines TEXT NOT NULL,
		PRIMARY KEY (what, tab, n)) WITHOUT ROWID`,
	`CREATE TABLE wrong (n INTEGER PRIMARY KEY, words TEXT NOT NULL, line TEXT NOT NULL)`,
	`CREATE TABLE question (n INTEGER PRIMARY KEY, line TEXT NOT NULL)`
];

/** A change on its way into the list. */
export interface ListedChange {
	readonly tab: Tab;
	readonly what: What;
	readonly line: Omit<ChangeLine, 'n'>;
}

/** Writes down what was seen, in place of what was seen before. */
export async function writeLook(
	dataFolder: string,
	fileId: number,
	seen: {
		readonly changes: Iterable<ListedChange>;
		readonly wrong: readonly Omit<WrongLine, 'n'>[];
		readonly questions: readonly Question[];
	}
): Promise<void> {
	const path = lookPath(dataFolder, fileId);
	for (const end of ['', '-wal', '-shm']) await rm(path + end, { force: true });
	const db = await openDatabase(path, { durable: false });
	try {
		await db.write(async (tx) => {
			for (const table of lookTables) await tx.run(table);
			const put = async (table: string, columns: string, rows: readonly unknown[][]) => {
				const values = rows[0]?.map((_, i) => `value ->> ${i}`).join(', ');
				for (let i = 0; i < rows.length; i += 10_000)
					await tx.run(`INSERT INTO ${table} (${columns}) SELECT ${values} FROM json_each($rows)`, {
						rows: JSON.stringify(rows.slice(i, i + 10_000))
					});
			};
			await putChanges(tx, seen.changes);
			await put(
				'wrong',
				'words, line',
				seen.wrong.map((line) => [
					`${line.file} ${line.line} ${line.text} ${line.cells.join(' ')}`.toLowerCase(),
					JSON.stringify(line)
				])
			);
			await put(
				'question',
				'line',
				seen.questions.map((q) => [JSON.stringify(q)])
			);
		});
	} finally {
		await db.close();
	}
}

/** So many changes are kept together: of a whole district there are hundreds of thousands, and a row for each would take longer than all else. */
export const keptTogether = 500;

async function putChanges(tx: Query, changes: Iterable<ListedChange>): Promise<void> {
	const open = new Map<string, { n: number; lines: ListedChange[] }>();
	const put = async (lines: readonly ListedChange[], n: number) => {
		const { what, tab } = lines[0]!;
		await tx.run(
			`INSERT INTO change (what, tab, n, size, lines) VALUES ($what, $tab, $n, $size, $lines)`,
			{ what, tab, n, size: lines.length, lines: JSON.stringify(lines.map((l) => l.line)) }
		);
	};
	for (const change of changes) {
		const key = `${change.what} ${change.tab}`;
		let part = open.get(key);
		if (!part) open.set(key, (part = { n: 0, lines: [] }));
		part.lines.push(change);
		if (part.lines.length < keptTogether) continue;
		await put(part.lines, part.n);
		part.lines = [];
		part.n += 1;
	}
	for (const { lines, n } of open.values()) if (lines.length > 0) await put(lines, n);
}

/** Calls with what was seen in a file; null where it has to be looked at again. */
export async function withLook<T>(
	dataFolder: string,
	fileId: number,
	use: (db: Db) => Promise<T>
): Promise<T | null> {
	const path = lookPath(dataFolder, fileId);
	if (!existsSync(path)) return null;
	const db = await openDatabase(path, { durable: false });
	try {
		return await use(db);
	} finally {
		await db.close();
	}
}
