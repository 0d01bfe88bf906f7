import {
	bookFiles,
	emptyBook,
	type Book,
	type BookFile
} from '../../../core/format/oneroster/book';
import type { Query } from '../../db/open';
import type { AnyRow } from './row-tables';
import type { RowChange, TableWork } from './work';

/** What a source has said up to now, line by line. */
export async function readSaid(db: Query, sourceId: number): Promise<Book> {
	const book = emptyBook();
	for (const file of bookFiles) {
		const row = await db.one<{ lines: string }>(
			`SELECT json_group_array(json(said)) AS lines FROM roster_line WHERE source_id = $sourceId AND file = $file`,
			{ sourceId, file }
		);
		const into = book[file] as Map<string, { readonly id: string }>;
		for (const line of JSON.parse(row!.lines) as { readonly id: string }[]) into.set(line.id, line);
	}
	return book;
}

/** The rows in which what a source says has to be kept, where they change from one book to the next. */
export function saidWork(sourceId: number, before: Book, after: Book): TableWork {
	const put: AnyRow[] = [];
	const change: RowChange[] = [];
	const take: AnyRow[] = [];
	const row = (file: BookFile, key: string, line: unknown): AnyRow => ({
		source_id: sourceId,
		file,
		key,
		said: JSON.stringify(line)
	});
	for (const file of bookFiles) {
		const [was, is] = [before[file], after[file]] as [
			ReadonlyMap<string, unknown>,
			ReadonlyMap<string, unknown>
		];
		for (const [key, line] of is) {
			const old = was.get(key);
			if (old === undefined) put.push(row(file, key, line));
			else if (old !== line) {
				const [b, a] = [row(file, key, old), row(file, key, line)];
				if (b.said !== a.said) change.push({ before: b, after: a });
			}
		}
		for (const [key, line] of was) if (!is.has(key)) take.push(row(file, key, line));
	}
	return { put, change, take };
}
