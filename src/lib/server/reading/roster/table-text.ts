import { CsvError, parse } from 'csv-parse/sync';
import { decodeTable, signBetween, type Letters } from '../../../core/format/table-text';
import { Broken } from './broken';
import type { TableRow } from './rows';

/** A table that somebody saved as text: its rows without blank ones, and how its letters were written. */
export interface TextTable {
	readonly written: Letters;
	readonly rows: readonly TableRow[];
}

/** Longest line that is taken: a quote that never closes would gather the whole file. */
const mostLine = 1_000_000;

export const holdsSomething = ({ cells }: Pick<TableRow, 'cells'>): boolean =>
	cells.some((cell) => cell.trim() !== '');

/** Reads a table whatever its letters and the sign between its cells. Ends with Broken where it is none. */
export function readTextTable(octets: Uint8Array, name: string): TextTable {
	const read = decodeTable(octets);
	if (!read)
		throw new Broken(`“${name}” is no text: it cannot be a list. Save it as CSV or .xlsx.`);
	try {
		const records = parse(read.text, {
			...{ bom: true, info: true, delimiter: signBetween(read.text), skip_empty_lines: true },
			...{ relax_column_count: true, relax_quotes: true, max_record_size: mostLine }
		}) as unknown as { readonly record: string[]; readonly info: { readonly lines: number } }[];
		let next = 1;
		const rows = records.map(({ record, info }) => {
			const line = Math.max(next, info.lines - record.join('').split('\n').length + 1);
			next = info.lines + 1;
			return { cells: record, line };
		});
		return { written: read.letters, rows: rows.filter(holdsSomething) };
	} catch (error) {
		if (!(error instanceof CsvError)) throw error;
		throw new Broken(
			error.code === 'CSV_QUOTE_NOT_CLOSED'
				? `A quote in “${name}” is never closed: the file is cut off, or that quote is one too many.`
				: `“${name}” cannot be read as a table. Save it anew as CSV.`
		);
	}
}
