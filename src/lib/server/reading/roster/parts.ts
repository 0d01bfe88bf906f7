import { createReadStream } from 'node:fs';
import { open, readdir, stat } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { openPromise, type Entry, type ZipFile } from 'yauzl';
import { ZipFile as NewZip } from 'yazl';
import { sizeWords } from '../../../core/copy/size-words';
import { Broken } from './broken';

/** One table of what was handed in, loose or out of a zip. */
export interface Part {
	/** Its name without its folder: "users.csv". */
	readonly name: string;
	readonly bytes: number;
	open(): Promise<Readable>;
}

export interface Parts {
	readonly parts: readonly Part[];
	/** Files in it that are no tables. */
	readonly others: readonly string[];
	close(): void;
}

/** What is taken at most: of a zip more would be a bomb, and of a district more than any has. */
export interface Limits {
	readonly entries: number;
	/** Of one table, unpacked. */
	readonly bytes: number;
	readonly allBytes: number;
	/** How many times as large as packed; below a floor nobody asks. */
	readonly ratio: number;
}
export const usualLimits: Limits = {
	entries: 200,
	bytes: 800e6,
	allBytes: 1.5e9,
	ratio: 200
};
const ratioFloorBytes = 5e6;

/** The first octets of a zip: a file in it, or the directory of an empty one (PKWARE APPNOTE sections 4.3.7, 4.3.16). */
const zipMarks = [0x04034b50, 0x06054b50];

/** Whether a file begins as a zip does. */
export async function zipIn(path: string): Promise<boolean> {
	const file = await open(path);
	try {
		const head = Buffer.alloc(4);
		const { bytesRead } = await file.read(head, 0, 4, 0);
		return bytesRead === 4 && zipMarks.includes(head.readUInt32LE(0));
	} finally {
		await file.close();
	}
}

/** A database that was put back, or copied, names files that are not beside it. */
export function goneFiles(error: NodeJS.ErrnoException): never {
	if (error.code !== 'ENOENT') throw error;
	throw new Broken('The files of this roster are no longer here. Bring it once more.');
}

/** What lies in a folder: one zip, or loose tables. */
export async function partsIn(folder: string, limits: Limits = usualLimits): Promise<Parts> {
	const names = (await readdir(folder).catch(goneFiles)).sort();
	if (names.length === 0) throw new Broken('No file came.');
	const zips: string[] = [];
	for (const name of names) if (await zipIn(join(folder, name))) zips.push(name);
	if (zips.length > 0) {
		if (names.length > 1)
			throw new Broken(
				`There ${names.length === 2 ? 'are two files' : `are ${names.length} files`} and “${zips[0]}” is a zip. Give one zip, or the tables that are in it.`
			);
		return zipped(join(folder, names[0]!), limits);
	}
	const claimed = names.find((name) => name.toLowerCase().endsWith('.zip'));
	if (claimed !== undefined)
		throw new Broken(
			`“${claimed}” is no zip, whatever its name says, or its beginning is missing. Export it again.`
		);
	return loose(folder, names, limits);
}

const isTable = (name: string): boolean => name.toLowerCase().endsWith('.csv');

/** Two tables of one name would leave open which counts. */
function refuseTwice(names: readonly string[]): void {
	const seen = new Set<string>();
	for (const name of names) {
		const small = name.toLowerCase();
		if (seen.has(small)) throw new Broken(`Two files are called “${name}”. Leave one of them out.`);
		seen.add(small);
	}
}

async function loose(folder: string, names: readonly string[], limits: Limits): Promise<Parts> {
	const tables = names.filter(isTable);
	if (tables.length === 0)
		throw new Broken(`“${names[0]}” is neither a zip nor a table (.csv). Give the export itself.`);
	refuseTwice(tables);
	const parts = await Promise.all(
		tables.map(async (name): Promise<Part> => {
			const path = join(folder, name);
			const { size } = await stat(path);
			if (size > limits.bytes) throw new Broken(tooLarge(name, limits.bytes));
			return { name, bytes: size, open: () => Promise.resolve(createReadStream(path)) };
		})
	);
	return { parts, others: names.filter((name) => !isTable(name)), close: () => {} };
}

const tooLarge = (name: string, most: number): string =>
	`“${name}” is over ${sizeWords(most)}; no table of a roster is. Nothing of it was read.`;

/**
 * A zip packed anew from what was really in it, within limits: for whatever else unpacks zips and
 * believes what they say of themselves. Ends with Broken where it says, or holds, too much.
 */
export async function repacked(path: string, name: string, limits: Limits): Promise<Buffer> {
	const zip = await openPromise(path, { lazyEntries: true, autoClose: false }).catch(() => {
		throw new Broken(`“${name}” is cut off or broken. Save it anew.`);
	});
	try {
		const entries = await entriesOf(zip, name, limits);
		const anew = new NewZip();
		for (const entry of entries.filter((e) => !e.fileName.endsWith('/')))
			anew.addBuffer(
				await buffer(await partOf(zip, entry, limits).open()),
				entry.fileName,
				// It is unpacked again at once.
				{ compress: false }
			);
		anew.end();
		return await buffer(anew.outputStream);
	} finally {
		zip.close();
	}
}

/** What yauzl says of an entry whose path leads somewhere else, and what we say. */
const outside = /absolute path|invalid relative path|invalid characters in fileName/;

async function zipped(path: string, limits: Limits): Promise<Parts> {
	const name = basename(path);
	let zip: ZipFile;
	try {
		zip = await openPromise(path, { lazyEntries: true, autoClose: false });
	} catch {
		throw new Broken(
			`“${name}” is cut off or broken: the list at the end of the zip is missing. Export it again, and see that the upload is complete.`
		);
	}
	try {
		const entries = await entriesOf(zip, name, limits);
		const files = entries.filter((e) => !e.fileName.endsWith('/') && !isOfSystem(e.fileName));
		const tables = files.filter((e) => isTable(e.fileName));
		const folders = new Set(tables.map((e) => e.fileName.slice(0, -basename(e.fileName).length)));
		if (tables.length === 0)
			throw new Broken(`“${name}” holds no table (.csv). Give the zip that the export makes.`);
		refuseTwice(tables.map((e) => basename(e.fileName)));
		if (folders.size > 1)
			throw new Broken(
				`The tables of “${name}” lie in ${folders.size} folders. They have to lie side by side.`
			);
		return {
			parts: tables.map((entry) => partOf(zip, entry, limits)),
			others: files.filter((e) => !isTable(e.fileName)).map((e) => e.fileName),
			close: () => zip.close()
		};
	} catch (error) {
		zip.close();
		throw error;
	}
}

/** What the file managers of some systems put beside. */
const isOfSystem = (name: string): boolean =>
	name.startsWith('__MACOSX/') || /(^|\/)(\.[^/]*|Thumbs\.db|desktop\.ini)$/i.test(name);

/** All entries, before anything is unpacked; a zip that says too much is refused by what it says. */
async function entriesOf(zip: ZipFile, name: string, limits: Limits): Promise<Entry[]> {
	if (zip.entryCount > limits.entries)
		throw new Broken(
			`“${name}” holds ${zip.entryCount} files; a roster has a dozen. Nothing of it was read.`
		);
	const entries: Entry[] = [];
	let all = 0;
	await new Promise<void>((resolve, reject) => {
		zip.on('entry', (entry: Entry) => {
			all += entry.uncompressedSize;
			if (entry.isEncrypted())
				return reject(new Broken(`“${name}” is locked with a password. Export it without.`));
			if (entry.uncompressedSize > limits.bytes)
				return reject(new Broken(tooLarge(entry.fileName, limits.bytes)));
			if (all > limits.allBytes || isBomb(entry, limits))
				return reject(
					new Broken(
						`“${name}” would unpack to ${sizeWords(Math.max(all, entry.uncompressedSize))} from ${sizeWords(entry.compressedSize)}: that is no roster. Nothing of it was read.`
					)
				);
			entries.push(entry);
			zip.readEntry();
		});
		zip.once('end', resolve);
		zip.once('error', (error: Error) =>
			reject(
				new Broken(
					outside.test(error.message)
						? `“${name}” holds a file whose path leads out of it. Nothing of it was read.`
						: `“${name}” is broken: the list of its files cannot be read. Export it again.`
				)
			)
		);
		zip.readEntry();
	});
	return entries;
}

const isBomb = ({ uncompressedSize, compressedSize }: Entry, { ratio }: Limits): boolean =>
	uncompressedSize > ratioFloorBytes && uncompressedSize > ratio * Math.max(1, compressedSize);

function partOf(zip: ZipFile, entry: Entry, limits: Limits): Part {
	const name = basename(entry.fileName);
	return {
		name,
		bytes: entry.uncompressedSize,
		async open() {
			let packed: Readable;
			try {
				packed = await zip.openReadStreamPromise(entry);
			} catch {
				throw new Broken(
					`“${name}” cannot be unpacked: it is cut off, or packed in an unusual way. Export it again.`
				);
			}
			// What the list says of sizes may be a lie; yauzl ends the stream where it is, in words of its own.
			let bytes = 0;
			const counted = new Transform({
				transform(chunk: Buffer, _, done) {
					bytes += chunk.length;
					done(bytes > limits.bytes ? new Broken(tooLarge(name, limits.bytes)) : null, chunk);
				}
			});
			packed.once('error', () =>
				counted.destroy(
					new Broken(
						`“${name}” breaks off while it is unpacked, after ${bytes} octets. Export it again.`
					)
				)
			);
			counted.once('close', () => packed.destroy());
			return packed.pipe(counted);
		}
	};
}
