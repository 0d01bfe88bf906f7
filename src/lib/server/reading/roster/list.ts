import { readdir, readFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { readSheet } from 'read-excel-file/node';
import { sizeWords } from '../../../core/copy/size-words';
import type { CameFile } from '../../../core/format/oneroster/book';
import type { Fault } from '../../../core/format/oneroster/fault';
import { rosterFiles, unusedFiles } from '../../../core/format/oneroster/files';
import type { Letters } from '../../../core/format/table-text';
import type { ListColumns } from '../../../core/roster/list/fields';
import { listLineReader } from '../../../core/roster/list/read-list-line';
import { orderOf } from '../../../core/roster/list/values';
import type { ListLine } from '../../../core/format/contact-list/line';
import { Broken } from './broken';
import { goneFiles, repacked, zipIn } from './parts';
import type { ReadRoster } from './oneroster';
import { cardTable } from './cards';
import type { TableRow } from './rows';
import { holdsSomething, readTextTable } from './table-text';

/** A list is held whole: of a district of 25,000 students it has some ten megabytes. */
const mostBytes = 60e6;
const mostRows = 400_000;

/** A contact list as a table, whatever program saved it. */
export interface ListTable {
	readonly name: string;
	readonly bytes: number;
	/** How its letters were written, or that it is a workbook or cards. */
	readonly written: Letters | 'workbook' | 'vCard';
	readonly heading: readonly string[];
	readonly rows: readonly TableRow[];
	/** Of cards those that cannot be used, by the line on which they begin. */
	readonly unusable?: ReadonlyMap<number, { readonly name: string; readonly why: string }>;
}

const tableOfStandard = new Set(
	['manifest', ...rosterFiles, ...unusedFiles].map((name) => `${name}.csv`.toLowerCase())
);

/** Whether a file is a list by its name, and no table of a roster standard. */
export function isListName(name: string): boolean {
	const small = name.toLowerCase();
	return (
		/\.(xlsx|tsv|txt|vcf|vcard)$/.test(small) ||
		(small.endsWith('.csv') && !tableOfStandard.has(small))
	);
}

/** The one file of a folder, where it is a list; null else. */
export async function listIn(folder: string): Promise<string | null> {
	const [name, ...others] = await readdir(folder).catch(goneFiles);
	return name !== undefined && others.length === 0 && isListName(name) ? name : null;
}

/** Reads a list as it stands: CSV with a comma, semicolon or tab in UTF-8, UTF-16 or Windows-1252, the first sheet of a workbook (XLSX), or cards (vCard). Ends with Broken where it is none. */
export async function readListTable(folder: string, name: string): Promise<ListTable> {
	const path = join(folder, name);
	const { size } = await stat(path);
	if (size > mostBytes)
		throw new Broken(`“${name}” is over ${sizeWords(mostBytes)}: no list of contacts is.`);
	if (/\.(vcf|vcard)$/i.test(name)) {
		const cards = cardTable(await readFile(path), name);
		if (cards.rows.length > mostRows) throw new Broken(`“${name}” has over ${mostRows} lines.`);
		return { name, bytes: size, ...cards };
	}
	const zip = await zipIn(path);
	if (name.toLowerCase().endsWith('.xlsx') !== zip)
		throw new Broken(
			zip
				? `“${name}” is a workbook or a zip, whatever its name says. Save it as .xlsx or as CSV.`
				: `“${name}” is no workbook (.xlsx), whatever its name says. Save it anew, or as CSV.`
		);
	const table = zip ? await workbook(path, name) : readTextTable(await readFile(path), name);
	const [heading, ...rows] = table.rows;
	if (!heading || heading.cells.length < 2)
		throw new Broken(
			`“${name}” is no list: its first line has to be a heading, with at least two columns.`
		);
	if (rows.length > mostRows) throw new Broken(`“${name}” has over ${mostRows} lines.`);
	return { name, bytes: size, written: table.written, heading: heading.cells, rows };
}

/** A workbook unpacked has as much at most: it is held in memory, twice. */
const workbookLimits = { entries: 500, bytes: 100e6, allBytes: 120e6, ratio: 200 };

async function workbook(path: string, name: string): Promise<Pick<ListTable, 'rows' | 'written'>> {
	const packed = await repacked(path, name, workbookLimits);
	const sheet = await readSheet(packed).catch(() => {
		throw new Broken(`“${name}” cannot be opened as a workbook (.xlsx). Save it anew, or as CSV.`);
	});
	const cellText = (cell: unknown): string => {
		if (cell === null || cell === undefined) return '';
		// A day in a workbook is a whole number of days, read as midnight UTC.
		if (cell instanceof Date) return cell.toISOString().slice(0, 10);
		return typeof cell === 'boolean' ? (cell ? 'yes' : 'no') : String(cell);
	};
	const rows = sheet.map((row, i) => ({
		cells: (row as readonly unknown[]).map(cellText),
		line: i + 1
	}));
	return { written: 'workbook', rows: rows.filter(holdsSomething) };
}

/** What a list says, line by line, by what its columns are; `complete` says that whoever is not in it is no contact any more. */
export function readList(
	table: ListTable,
	{
		columns,
		complete,
		country
	}: {
		readonly columns: ListColumns;
		readonly complete: boolean;
		/** Where a number is of that names none (ISO 3166-1). */
		readonly country: string;
	}
): ReadRoster {
	const at = columns.indexOf('textsSince');
	const dates = orderOf(at < 0 ? [] : table.rows.slice(0, 5_000).map((r) => r.cells[at] ?? ''));
	const read = listLineReader({ heading: table.heading, columns, dates, country });
	const lines = new Map<string, ListLine>();
	const numbers = new Map<string, number>();
	const out = new Map<string, number>();
	const faults: Fault[] = [];
	const file = 'contacts' as const;
	for (const { cells, line } of table.rows) {
		const unusable = table.unusable?.get(line);
		if (unusable) {
			const wrong = { code: 'card', ...unusable } as const;
			faults.push({ file, line, id: null, wrong, rest: false });
			continue;
		}
		const one = read(cells);
		const id = one.line?.id ?? null;
		for (const { wrong, rest } of one.wrong) faults.push({ file, line, id, wrong, rest });
		if (!one.line) continue;
		const first = numbers.get(one.line.id);
		if (first !== undefined) {
			if (JSON.stringify(lines.get(one.line.id)) !== JSON.stringify(one.line))
				faults.push({
					file,
					line,
					id,
					wrong: { code: 'twice', id: one.line.id, first },
					rest: false
				});
			continue;
		}
		numbers.set(one.line.id, line);
		lines.set(one.line.id, one.line);
	}
	const mode = complete ? 'bulk' : 'delta';
	const contacts: CameFile<'contacts'> = { mode, lines, gone: new Set(), out, at: numbers };
	return {
		version: 'list',
		systemName: null,
		tables: [
			{
				...{ name: table.name, lines: table.rows.length, mode },
				unknown: table.heading.filter((_, i) => (columns[i] ?? null) === null)
			}
		],
		remarks: [
			table.written === 'workbook'
				? 'It was read from the first sheet of the workbook.'
				: table.written === 'vCard'
					? 'It holds cards (vCard): each is a contact of the students it names as its children (RELATED). What they belong to (CATEGORIES) comes in under People · Groups.'
					: `It is written in ${table.written}.`,
			...(at < 0
				? []
				: [
						`Dates of two figures were read with the ${dates === 'day-first' ? 'day' : 'month'} first.`
					])
		],
		came: { contacts },
		faults
	};
}
