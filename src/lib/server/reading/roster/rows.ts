import { TextDecoder } from 'node:util';
import { Transform } from 'node:stream';
import { CsvError, parse } from 'csv-parse';
import { Broken } from './broken';
import type { Part } from './parts';

/** A line of a table: its cells, and the number of the line that it begins in, the first being 1. */
export interface TableRow {
	readonly cells: readonly string[];
	readonly line: number;
}

/** More than this in one line is no line: a quote that never closes would otherwise gather the whole file. */
const mostLineBytes = 1_000_000;

/**
 * Octets as UTF-8 text, or the end with the place where they are not (RFC 3629). A mark of the octets'
 * order at the beginning is passed over; one of UTF-16 is named.
 */
function utf8(name: string): Transform {
	const decoder = new TextDecoder('utf-8', { fatal: true });
	let lines = 1;
	let first = true;
	const decoded = (chunk: Uint8Array, stream: boolean): string => {
		try {
			return decoder.decode(chunk, { stream });
		} catch {
			throw new Broken(
				`“${name}” is not UTF-8 (about line ${lines + wrongLine(chunk)}). Save or export it as UTF-8.`
			);
		}
	};
	return new Transform({
		decodeStrings: false,
		readableObjectMode: false,
		encoding: 'utf8',
		transform(chunk: Buffer, _, done) {
			try {
				if (first && isUtf16(chunk))
					throw new Broken(`“${name}” is UTF-16. Save or export it as UTF-8.`);
				first = false;
				const text = decoded(chunk, true);
				if (text.includes('\0'))
					throw new Broken(`“${name}” holds octets that no text has (NUL). Export it again.`);
				for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) lines += 1;
				done(null, text);
			} catch (error) {
				done(error as Error);
			}
		},
		flush(done) {
			try {
				done(null, decoded(new Uint8Array(), false));
			} catch (error) {
				done(error as Error);
			}
		}
	});
}
const isUtf16 = (chunk: Buffer): boolean =>
	chunk.length >= 2 &&
	((chunk[0] === 0xff && chunk[1] === 0xfe) || (chunk[0] === 0xfe && chunk[1] === 0xff));

/** In which line of a chunk its text breaks, counted from 0. */
function wrongLine(chunk: Uint8Array): number {
	const decoder = new TextDecoder('utf-8', { fatal: true });
	let line = 0;
	let from = 0;
	for (let at = chunk.indexOf(10); at >= 0; at = chunk.indexOf(10, from)) {
		try {
			decoder.decode(chunk.subarray(from, at));
		} catch {
			return line;
		}
		line += 1;
		from = at + 1;
	}
	return line;
}

/** Rows are handed over so many at a time: a step of the loop for each would cost as much as reading it. */
const atATime = 500;

/**
 * The rows of a table, the heading first, as RFC 4180 has them; blank lines are passed over. Ends with
 * Broken where the whole cannot be read.
 */
export async function* rowsOf(part: Part): AsyncGenerator<readonly TableRow[]> {
	const source = await part.open();
	const text = utf8(part.name);
	// Blank lines are passed over here, and not by the parser: so the numbers of lines can be counted.
	const parser = parse({
		bom: true,
		relax_column_count: true,
		relax_quotes: true,
		max_record_size: mostLineBytes
	});
	let failed: Error | null = null;
	parser.on('error', (error) => (failed ??= error));
	source.once('error', (error) => text.destroy(error));
	source.pipe(text);
	let line = 1;
	let rows: TableRow[] = [];
	/** Takes what the parser has ready. */
	const drain = () => {
		for (let cells: string[] | null; (cells = parser.read() as string[] | null) !== null;) {
			if (cells.length > 1 || cells[0] !== '') rows.push({ cells, line });
			line += 1;
			for (const cell of cells)
				for (let at = cell.indexOf('\n'); at >= 0; at = cell.indexOf('\n', at + 1)) line += 1;
		}
	};
	/** Hands a piece of text over and waits until it has been read. */
	const feed = (piece: string | null) =>
		new Promise<void>((done) => {
			if (piece === null) parser.end(done);
			else parser.write(piece, () => done());
			drain();
		});
	try {
		for await (const piece of text as AsyncIterable<string>) {
			await feed(piece);
			drain();
			if (failed) throw failed as Error;
			if (rows.length >= atATime) {
				yield rows;
				rows = [];
			}
		}
		await Promise.race([feed(null), new Promise((gone) => parser.once('error', gone))]);
		drain();
		if (failed) throw failed as Error;
		yield rows;
	} catch (error) {
		if (!(error instanceof CsvError)) throw error;
		if (error.code === 'CSV_QUOTE_NOT_CLOSED' || error.code === 'CSV_MAX_RECORD_SIZE')
			throw new Broken(
				`A quote in “${part.name}” that begins in line ${line} or soon after is never closed: the file is cut off, or that quote is one too many. Nothing of it was taken.`
			);
		throw new Broken(
			`“${part.name}” cannot be read as a table after line ${line}. Export it again as CSV (RFC 4180).`
		);
	} finally {
		source.destroy();
		text.destroy();
		parser.destroy();
	}
}
