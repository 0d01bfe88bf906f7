import { randomBytes } from 'node:crypto';
import { linkSync, mkdirSync, readFileSync, unlinkSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Query } from '../db/open';
import { CannotStart } from '../settings';

/** 32 octets in base64url. */
const form = /^[A-Za-z0-9_-]{43}$/;

const fileOf = (dataFolder: string): string => join(dataFolder, 'link.key');

/** Puts a new key in its place, whole or not at all; where another process was first, theirs stays. */
function makeKey(dataFolder: string): void {
	mkdirSync(dataFolder, { recursive: true, mode: 0o700 });
	const beside = `${fileOf(dataFolder)}.${process.pid}.part`;
	writeFileSync(beside, randomBytes(32).toString('base64url'), { mode: 0o600, flush: true });
	try {
		linkSync(beside, fileOf(dataFolder));
	} catch (error) {
		if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
	} finally {
		unlinkSync(beside);
	}
}

function readKey(dataFolder: string): Buffer | null {
	let text: string;
	try {
		text = readFileSync(fileOf(dataFolder), 'utf8').trim();
	} catch (error) {
		if ((error as NodeJS.ErrnoException).code === 'ENOENT') return null;
		throw error;
	}
	if (form.test(text)) {
		const key = Buffer.from(text, 'base64url');
		if (key.length === 32) return key;
	}
	throw new CannotStart(
		`The link key ${fileOf(dataFolder)} cannot be used: ${text === '' ? 'it is empty' : 'it is not 43 letters, digits, - and _'}.
Put back the link.key of the backup that belongs to this database. Only if there is none, remove the file and the
links with it: npm run new-key says how many letters then lead nowhere, and makes a new one.`
	);
}

/** Whether a database names links that only the key it was made with opens. */
const hasLinks = async (db: Query): Promise<boolean> =>
	(await db.one(
		`SELECT 1 FROM delivery WHERE link_hash IS NOT NULL UNION ALL SELECT 1 FROM family_link
		UNION ALL SELECT 1 FROM joining WHERE way = 'email' UNION ALL SELECT 1 FROM second_factor LIMIT 1`
	)) !== undefined;

/**
 * The key from which links and return addresses are made. It lies beside the database, not in it,
 * so that a copy of the database alone opens nobody's inbox. Made for a database without links; where
 * links are out in the world it must be there.
 *
 * @throws CannotStart where it is missing, empty or garbled: a new one would end every link in silence,
 * and a short one could be guessed.
 */
export async function linkKey(dataFolder: string, db: Query): Promise<Buffer> {
	const before = readKey(dataFolder);
	if (before) return before;
	if (await hasLinks(db)) {
		throw new CannotStart(
			`The link key ${fileOf(dataFolder)} is missing, and this database has sent links that were made with it.
Put back the link.key of the backup that belongs to this database. Only if there is none: npm run new-key says how
many letters then lead nowhere, and makes a new one.`
		);
	}
	makeKey(dataFolder);
	return readKey(dataFolder)!;
}
