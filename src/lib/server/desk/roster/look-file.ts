import { existsSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { join } from 'node:path';
import { openDatabase, type Db } from '../../db/open';
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
	`CREATE TABLE change (n INTEGER PRIMARY KEY, tab TEXT NOT NULL, what TEXT NOT NULL, words TEXT NOT NULL, line TEXT NOT NULL)`,
	'CREATE INDEX change_tab ON change (what, tab)',
	`CREATE TABLE wrong (n INTEGER PRIMARY KEY, words TEXT NOT NULL, line TEXT NOT NULL)`,
	`CREATE TABLE question (n INTEGER PRIMARY KEY, line TEXT NOT NULL)`
];

/** A change on its way into the list, with the words it is searched by. */
export interface ListedChange {
	readonly tab: Tab;
	readonly what: What;
	readonly words: string;
	readonly line: Omit<ChangeLine, 'n' | 'what'>;
}

/** Writes down what was seen, in place of what was seen before. */
export async function writeLook(
	dataFolder: string,
	fileId: number,
	seen: {
		readonly changes: readonly ListedChange[];
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
			await put(
				'change',
				'tab, what, words, line',
				seen.changes.map(({ tab, what, words, line }) => [
					tab,
					what,
					words.toLowerCase(),
					JSON.stringify(line)
				])
			);
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
