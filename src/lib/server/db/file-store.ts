import { createHash, randomUUID } from 'node:crypto';
import { mkdir, open, readFile, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Query } from './open';

/** The folder of file contents beside the database. A backup takes both. */
const folderOf = (dataFolder: string) => join(dataFolder, 'files');

/** The folder of what is packed up to be taken along. A backup does not take it. */
export const leavingFolder = (dataFolder: string): string => join(dataFolder, 'leaving');

const contentHash = (content: Buffer): string => createHash('sha256').update(content).digest('hex');

/** Keeps a content under its hash; the same content twice is one file. It is on the disk when this resolves. */
export async function putContent(dataFolder: string, content: Buffer): Promise<string> {
	const hash = contentHash(content);
	const place = join(folderOf(dataFolder), hash);
	try {
		if ((await stat(place)).size === content.length) return hash;
	} catch {
		// Not there yet.
	}
	await mkdir(folderOf(dataFolder), { recursive: true, mode: 0o700 });
	// Written beside its place and moved in: a file that is there is whole, also where two bring the same at once.
	const beside = `${place}.${randomUUID()}.part`;
	const handle = await open(beside, 'w', 0o600);
	try {
		await handle.writeFile(content);
		await handle.sync();
	} finally {
		await handle.close();
	}
	await rename(beside, place);
	return hash;
}

/** Where the content under a hash lies. */
export const contentPath = (dataFolder: string, hash: string): string =>
	join(folderOf(dataFolder), hash);

/** The content under a hash. Rejects where it is gone from the disk. */
export const getContent = (dataFolder: string, hash: string): Promise<Buffer> =>
	readFile(contentPath(dataFolder, hash));

/** Takes contents away that nothing names any more. Others' stay, also those that are just coming in and are named by nothing yet. */
export async function dropContents(
	db: Query,
	dataFolder: string,
	hashes: readonly string[]
): Promise<void> {
	for (const hash of hashes) {
		const named = await db.one(
			'SELECT 1 FROM file WHERE hash = $hash UNION SELECT 1 FROM answer_file WHERE hash = $hash',
			{ hash }
		);
		if (!named) await rm(join(folderOf(dataFolder), hash), { force: true });
	}
}
