import { pipeline, Readable } from 'node:stream';
import { stringify } from 'csv-stringify';
import { ZipFile } from 'yazl';

/** Rows that are there, or come by and by. */
type Rows = Iterable<readonly string[]> | AsyncIterable<readonly string[]>;

/** A table on its way out: its name and its rows, the heading first. */
export interface OutTable {
	readonly name: string;
	readonly rows: Iterable<readonly string[]>;
}

/** What a spreadsheet would run as a formula (OWASP, "CSV Injection"); a number in E.164 is none. */
const formula = /^[=+\-@\t\r](?!\d{7,15}$)/;
const guarded = (cell: string): string => (formula.test(cell) ? `'${cell}` : cell);

/** A table as the octets of a CSV file (RFC 4180), made while it is read. */
export function csvStream(rows: Rows): Readable {
	async function* guardedRows() {
		for await (const row of rows) yield row.map(guarded);
	}
	const cells = stringify({ record_delimiter: 'windows', quoted_match: /[\r\n]/ });
	// Where the rows fail, so does the file: whoever reads it hears of it.
	pipeline(Readable.from(guardedRows()), cells, () => {});
	return cells;
}

/** Tables as a zip, made while it is read: a district never lies in memory whole. */
export function zipStream(tables: readonly OutTable[]): Readable {
	const zip = new ZipFile();
	for (const { name, rows } of tables)
		zip.addReadStreamLazy(name, {}, (give) => give(null, csvStream(rows)));
	zip.end();
	return zip.outputStream as Readable;
}
