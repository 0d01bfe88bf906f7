import { Readable } from 'node:stream';
import { stringify } from 'csv-stringify/sync';
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

/** So many rows are written at once: one after another, a stream costs more than the writing. */
const atOnce = 500;

/** A table as the octets of a CSV file (RFC 4180), made while it is read. Where the rows fail, so does the file: whoever reads it hears of it. */
export function csvStream(rows: Rows): Readable {
	const written = (some: readonly (readonly string[])[]): Buffer =>
		Buffer.from(
			stringify(
				some.map((row) => row.map(guarded)),
				{ record_delimiter: 'windows', quoted_match: /[\r\n]/ }
			)
		);
	async function* octets() {
		let some: (readonly string[])[] = [];
		for await (const row of rows) {
			some.push(row);
			if (some.length < atOnce) continue;
			yield written(some);
			some = [];
		}
		if (some.length > 0) yield written(some);
	}
	return Readable.from(octets(), { objectMode: false });
}

/** Tables as a zip, made while it is read: a district never lies in memory whole. */
export function zipStream(tables: readonly OutTable[]): Readable {
	const zip = new ZipFile();
	for (const { name, rows } of tables)
		zip.addReadStreamLazy(name, {}, (give) => give(null, csvStream(rows)));
	zip.end();
	return zip.outputStream as Readable;
}
