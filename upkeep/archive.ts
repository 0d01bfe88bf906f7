import { createHash } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, open } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import type { Readable } from 'node:stream';
import { openPromise, type Entry } from 'yauzl';
import { ZipFile } from 'yazl';
import { z } from 'zod';

/** What an archive says of itself, in `backup.json`. */
const contentsSchema = z.object({
	/** When it was taken (ISO 8601). */
	at: z.string(),
	/** SHA-256 of each part, in hex, by its name in the archive. */
	parts: z.record(z.string(), z.string().regex(/^[0-9a-f]{64}$/))
});
export type Contents = z.infer<typeof contentsSchema>;
const contentsName = 'backup.json';

/** Parts that a backup has: the database, the key, and files by the hash of what they hold. */
const partName = /^(courier\.sqlite|link\.key|files\/[0-9a-f]{64})$/;

/** Why an archive is none that can be used, in words for whoever runs it. */
export class NoArchive extends Error {}

async function synced(file: string): Promise<void> {
	const handle = await open(file, 'r');
	await handle.sync();
	await handle.close();
}

async function hashOf(stream: Readable): Promise<string> {
	const hash = createHash('sha256');
	for await (const chunk of stream) hash.update(chunk as Buffer);
	return hash.digest('hex');
}

/** Packs files into one archive (zip, with Zip64 where it is large), for its owner's eyes alone; `parts` says where each lies, by its name in the archive. */
export async function pack(
	archive: string,
	parts: ReadonlyMap<string, string>,
	at: Date
): Promise<void> {
	const contents: Contents = { at: at.toISOString(), parts: {} };
	const zip = new ZipFile();
	for (const [name, path] of parts) {
		contents.parts[name] = await hashOf(createReadStream(path));
		// Files are pictures and papers, packed already.
		zip.addFile(path, name, { compress: !name.startsWith('files/'), mode: 0o100600 });
	}
	zip.addBuffer(Buffer.from(JSON.stringify(contents, null, '\t')), contentsName, {
		mode: 0o100600
	});
	zip.end();
	await pipeline(zip.outputStream as Readable, createWriteStream(archive, { mode: 0o600 }));
	await synced(archive);
}

/**
 * Reads an archive from beginning to end, and compares each part with what the archive says of it. With a folder, its
 * parts are put there as they are read; nothing whose name is not a part's is ever written.
 *
 * @throws {NoArchive} where it cannot be read, lacks a part, or a part is another than was packed.
 */
export async function unpack(archive: string, into: string | null): Promise<Contents> {
	const zip = await openPromise(archive, { lazyEntries: true, autoClose: false }).catch(
		(error: NodeJS.ErrnoException) => {
			throw new NoArchive(
				error.code === 'ENOENT'
					? `There is no file ${archive}.`
					: `${archive} is no backup, or was cut off: the list at its end is missing.`
			);
		}
	);
	try {
		const entries: Entry[] = [];
		await new Promise<void>((done, no) => {
			zip.on('entry', (entry: Entry) => {
				entries.push(entry);
				zip.readEntry();
			});
			zip.once('end', done);
			zip.once('error', () => no(new NoArchive(`${archive} is broken: its list cannot be read.`)));
			zip.readEntry();
		});
		const streamOf = (entry: Entry): Promise<Readable> => zip.openReadStreamPromise(entry);
		const list = entries.find((e) => e.fileName === contentsName);
		if (!list || list.uncompressedSize > 100_000_000)
			throw new NoArchive(`${archive} is no backup of this: it holds no ${contentsName}.`);
		const chunks: Buffer[] = [];
		for await (const chunk of await streamOf(list)) chunks.push(chunk as Buffer);
		const contents = contentsSchema.parse(JSON.parse(Buffer.concat(chunks).toString('utf8')));
		const left = new Map(Object.entries(contents.parts));
		for (const entry of entries) {
			const { fileName: name } = entry;
			if (name === contentsName) continue;
			const hash = left.get(name);
			if (!partName.test(name) || hash === undefined)
				throw new NoArchive(`${archive} holds “${name}”, which is no part of a backup.`);
			left.delete(name);
			const found = into
				? await writtenTo(join(into, name), await streamOf(entry))
				: await hashOf(await streamOf(entry));
			if (found !== hash)
				throw new NoArchive(
					`“${name}” in ${archive} is not what was backed up. Take another backup.`
				);
		}
		const [missing] = left.keys();
		if (missing !== undefined) throw new NoArchive(`${archive} lacks “${missing}”.`);
		return contents;
	} catch (error) {
		if (error instanceof NoArchive) throw error;
		throw new NoArchive(`${archive} cannot be read whole: ${(error as Error).message}.`);
	} finally {
		zip.close();
	}
}

/** Writes a stream down, and says what it held. */
async function writtenTo(path: string, stream: Readable): Promise<string> {
	await mkdir(dirname(path), { recursive: true, mode: 0o700 });
	const hash = createHash('sha256');
	await pipeline(
		stream,
		async function* (chunks: AsyncIterable<Buffer>) {
			for await (const chunk of chunks) {
				hash.update(chunk);
				yield chunk;
			}
		},
		createWriteStream(path, { mode: 0o600, flags: 'wx' })
	);
	await synced(path);
	return hash.digest('hex');
}
