import { writeDown } from '../../access/log';
import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { mkdir, open, readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { rosterFile, type RosterFileRow } from '../../db/models/rosters';
import type { Db, Query } from '../../db/open';
import { plainFileName } from '../../../core/format/file-name';
import { sizeWords } from '../../../core/copy/size-words';
import type { Said } from '../../said';
import { isListName } from '../../reading/roster/list';
import { rosterFolder, tablesFolder } from './look-file';
import { sourceNamed } from './sources';

/** The largest file that is taken, and all files of one roster together. */
export const mostBytes = 500_000_000;
/** As much comes in one request: less than the web server takes. */
export const pieceBytes = 3_000_000;
/** Files of one roster: the standard has twenty. */
const mostFiles = 40;

const refusal = {
	ok: false,
	why: 'Rosters are the district office’s: your sign-in may not bring one in.'
} as const;

/** Begins a roster file that a user brings; its content comes piece by piece. */
export async function beginFile(
	db: Db,
	dataFolder: string,
	user: User,
	asked: { readonly source: string; readonly name: string; readonly bytes: number }
): Promise<Said<{ readonly id: number }>> {
	if (!isAllowed(user, 'bring-roster')) return refusal;
	if (asked.bytes > mostBytes)
		return {
			ok: false,
			why: `“${asked.name}” has ${sizeWords(asked.bytes)}; ${sizeWords(mostBytes)} are taken. A whole district is a few megabytes as a zip: is it the export itself?`
		};
	const kind = isListName(asked.name) ? 'list' : 'oneroster';
	const source = await sourceNamed(db, asked.source, kind);
	if (source.kind !== kind)
		return {
			ok: false,
			why:
				kind === 'list'
					? `“${source.name}” gives rosters, and “${asked.name}” looks like a list. Give lists another name to come from.`
					: `“${source.name}” gives lists, and “${asked.name}” looks like a roster. Give rosters another name to come from.`
		};
	return { ok: true, id: await addFile(db, dataFolder, source.id, asked.name, user.personId) };
}

/** Puts a roster file down that is still coming, with a folder for its tables. */
export async function addFile(
	db: Db,
	dataFolder: string,
	sourceId: number,
	name: string,
	byId: number | null
): Promise<number> {
	const at = Math.round(await now(db));
	const id = await db.rows(rosterFile).add({
		sourceId,
		name: plainFileName(name, 'roster'),
		bytes: 0,
		state: 'coming',
		cameAt: at,
		changedAt: at,
		byId
	});
	// A number of a database that was put back may have a folder from before.
	await rm(rosterFolder(dataFolder, id), { recursive: true, force: true });
	await mkdir(tablesFolder(dataFolder, id), { recursive: true, mode: 0o700 });
	return id;
}

/**
 * Takes one piece of a file; it has to begin where the last one ended. Resolves to how much there is,
 * so that whoever sends knows where to go on after a line that broke.
 */
export async function takePiece(
	db: Db,
	dataFolder: string,
	user: User,
	at: { readonly id: number; readonly name: string; readonly from: number },
	content: Uint8Array
): Promise<Said<{ readonly bytes: number }>> {
	if (!isAllowed(user, 'bring-roster')) return refusal;
	const row = await db.rows(rosterFile).one({ id: at.id });
	if (row?.state !== 'coming')
		return { ok: false, why: 'This roster does not wait for a file. Bring it once more.' };
	const folder = tablesFolder(dataFolder, at.id);
	const names = await readdir(folder);
	const name = plainFileName(at.name, 'roster');
	if (!names.includes(name) && names.length >= mostFiles)
		return { ok: false, why: `A roster has no more than ${mostFiles} files.` };
	const file = await open(join(folder, name), 'a', 0o600);
	try {
		const { size } = await file.stat();
		// A piece that came already, whose answer was lost, is there: the sender goes on behind it.
		if (at.from < size) return { ok: true, bytes: size };
		if (at.from > size)
			return {
				ok: false,
				why: `A piece of “${name}” is missing before this one. Bring it once more.`
			};
		const sizes = await Promise.all(names.map(async (n) => (await stat(join(folder, n))).size));
		const all = sizes.reduce((sum, n) => sum + n, content.length);
		if (all > mostBytes)
			return { ok: false, why: `These files are over ${sizeWords(mostBytes)} together.` };
		await file.appendFile(content);
		return { ok: true, bytes: size + content.length };
	} finally {
		await file.close();
	}
}

/** How many octets some files of a folder have (all of them, where none are named), and their hash (SHA-256), each file after its name. */
export async function contentOf(
	folder: string,
	names?: readonly string[]
): Promise<{ readonly bytes: number; readonly hash: string }> {
	const hash = createHash('sha256');
	let bytes = 0;
	for (const name of [...(names ?? (await readdir(folder)))].sort()) {
		hash.update(`${name}\n`);
		const path = join(folder, name);
		bytes += (await stat(path)).size;
		await pipeline(createReadStream(path), async function* (chunks: AsyncIterable<Buffer>) {
			for await (const chunk of chunks) hash.update(chunk);
			yield* [];
		});
	}
	return { bytes, hash: hash.digest('hex') };
}

/** Gives a file up that was not taken in; nothing of it stays but that it came. */
export async function giveUp(
	db: Db,
	dataFolder: string,
	user: User,
	id: number
): Promise<Said<object>> {
	if (!isAllowed(user, 'bring-roster')) return refusal;
	const done = await db.write(async (tx) => {
		const row = await tx.rows(rosterFile).one({ id }, ['state']);
		if (!row || !['coming', 'columns', 'looked', 'refused'].includes(row.state)) return false;
		await changeFile(tx, id, { state: 'given-up' });
		await writeDown(tx, { act: 'roster-dropped', by: user, to: ['roster', id] });
		return true;
	});
	if (!done) return { ok: false, why: 'This roster has come in already, or is coming in now.' };
	await rm(rosterFolder(dataFolder, id), { recursive: true, force: true });
	return { ok: true };
}

/** Changes what is known of a file, and when. */
export async function changeFile(
	tx: Query,
	id: number,
	values: Partial<RosterFileRow>
): Promise<void> {
	await tx.rows(rosterFile).change({ id }, { ...values, changedAt: Math.round(await now(tx)) });
}
