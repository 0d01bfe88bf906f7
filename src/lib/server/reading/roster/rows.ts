import { TextDecoder } from 'node:util';
import { Transform, type Readable } from 'node:stream';
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

interface Parsed {
	readonly record: readonly string[];
	readonly info: { readonly lines: number };
}

/** The rows of a table, the heading first, as RFC 4180 has them; blank lines are passed over. Ends with Broken where the whole cannot be read. */
export async function* rowsOf(part: Part): AsyncGenerator<TableRow> {
	const source = await part.open();
	const text = utf8(part.name);
	const parser = parse({
		bom: true,
		info: true,
		relax_column_count: true,
		relax_quotes: true,
		skip_empty_lines: true,
		max_record_size: mostLineBytes
	});
	/** An error of any part ends all of them, and what reads the last is told. */
	const chain = (from: Readable, to: Transform) => {
		from.once('error', (error) => to.destroy(error));
		from.pipe(to);
	};
	chain(source, text);
	chain(text, parser as unknown as Transform);
	let last = 0;
	try {
		for await (const { record, info } of parser as AsyncIterable<Parsed>) {
			// `lines` is how many had ended when it was whole; one without breaks in its cells began there.
			let line = info.lines;
			if (line - last > 1)
				for (const cell of record)
					for (let at = cell.indexOf('\n'); at >= 0; at = cell.indexOf('\n', at + 1)) line -= 1;
			last = info.lines;
			yield { cells: record, line };
		}
	} catch (error) {
		if (!(error instanceof CsvError)) throw error;
		if (error.code === 'CSV_QUOTE_NOT_CLOSED' || error.code === 'CSV_MAX_RECORD_SIZE')
			throw new Broken(
				`A quote in “${part.name}” that begins in line ${last + 1} or soon after is never closed: the file is cut off, or that quote is one too many. Nothing of it was taken.`
			);
		throw new Broken(
			`“${part.name}” cannot be read as a table after line ${last}. Export it again as CSV (RFC 4180).`
		);
	} finally {
		source.destroy();
		text.destroy();
	}
}
