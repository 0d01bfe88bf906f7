import { writeCsv } from '../../../core/format/csv';
import type { BookFile } from '../../../core/format/oneroster/book';
import { rosterFiles } from '../../../core/format/oneroster/files';
import { withLook } from './look-file';
import type { WrongLine } from './types';

/**
 * The lines that are wrong, table by table, as files to be mended and brought again: as changes only
 * (delta), so that nobody is taken for gone who is not in them. Each line says at its end what is wrong
 * with it; that column is passed over when it comes in. Null where the file has to be looked at again.
 */
export async function linesToMend(
	dataFolder: string,
	fileId: number,
	{ version, at }: { readonly version: string; readonly at: string }
): Promise<{ readonly name: string; readonly text: string }[] | null> {
	const lines = await withLook(dataFolder, fileId, async (db) =>
		(await db.all<{ line: string }>('SELECT line FROM wrong ORDER BY n')).map(
			({ line }) => JSON.parse(line) as WrongLine
		)
	);
	if (lines === null) return null;
	const by = new Map<BookFile, WrongLine[]>();
	for (const line of lines) {
		const list = by.get(line.file);
		if (list) list.push(line);
		else by.set(line.file, [line]);
	}
	const listed = by.get('contacts');
	if (listed) return [{ name: 'contacts.csv', text: table(listed) }];
	const files = rosterFiles.flatMap((file) => {
		const wrong = by.get(file);
		return wrong
			? [{ name: `${file}.csv`, text: table(wrong, { status: 'active', dateLastModified: at }) }]
			: [];
	});
	const manifest: [string, string][] = [
		['propertyName', 'value'],
		['manifest.version', '1.0'],
		['oneroster.version', version],
		...rosterFiles.map((file): [string, string] => [
			`file.${file}`,
			by.has(file) ? 'delta' : 'absent'
		])
	];
	return [{ name: 'manifest.csv', text: writeCsv(manifest) }, ...files];
}

/** One table: each line once, with what is wrong at its end; columns that have to be filled are put in where they are missing. */
function table(wrong: readonly WrongLine[], filled: Readonly<Record<string, string>> = {}): string {
	const { heading } = wrong[0]!;
	const titles = heading.map((title) => title.trim().toLowerCase());
	const added = Object.keys(filled).filter((name) => !titles.includes(name.toLowerCase()));
	const texts = new Map<number, WrongLine[]>();
	for (const line of wrong) texts.set(line.line, [...(texts.get(line.line) ?? []), line]);
	return writeCsv([
		[...heading, ...added, 'whatIsWrong'],
		...[...texts.values()].map((lines) => {
			const cells = heading.map((_, i) => lines[0]!.cells[i] ?? '');
			for (const [name, value] of Object.entries(filled)) {
				const at = titles.indexOf(name.toLowerCase());
				if (at >= 0 && cells[at] === '') cells[at] = value;
			}
			return [
				...cells,
				...added.map((name) => filled[name]!),
				lines.map((l) => `line ${l.line}: ${l.text}`).join(' ')
			];
		})
	]);
}
