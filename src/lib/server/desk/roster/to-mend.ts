import { writeCsv } from '../../../core/format/csv';
import { rosterFiles, type RosterFile } from '../../../core/format/oneroster/files';
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
	const by = new Map<RosterFile, WrongLine[]>();
	for (const line of lines) {
		const list = by.get(line.file);
		if (list) list.push(line);
		else by.set(line.file, [line]);
	}
	const files = rosterFiles.flatMap((file) => {
		const wrong = by.get(file);
		return wrong ? [{ name: `${file}.csv`, text: table(wrong, at) }] : [];
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

/** One table: the columns that changes need are put in where they are missing, and each line stands once. */
function table(wrong: readonly WrongLine[], at: string): string {
	const { heading } = wrong[0]!;
	const added = ['status', 'dateLastModified'].filter(
		(name) => !heading.some((h) => h.trim().toLowerCase() === name.toLowerCase())
	);
	const texts = new Map<number, WrongLine[]>();
	for (const line of wrong) texts.set(line.line, [...(texts.get(line.line) ?? []), line]);
	const statusAt = heading.findIndex((h) => h.trim().toLowerCase() === 'status');
	const modifiedAt = heading.findIndex((h) => h.trim().toLowerCase() === 'datelastmodified');
	return writeCsv([
		[...heading, ...added, 'whatIsWrong'],
		...[...texts.values()].map((lines) => {
			const cells = heading.map((_, i) => lines[0]!.cells[i] ?? '');
			if (statusAt >= 0 && cells[statusAt] === '') cells[statusAt] = 'active';
			if (modifiedAt >= 0 && cells[modifiedAt] === '') cells[modifiedAt] = at;
			return [
				...cells,
				...added.map((name) => (name === 'status' ? 'active' : at)),
				lines.map((l) => `line ${l.line}: ${l.text}`).join(' ')
			];
		})
	]);
}
