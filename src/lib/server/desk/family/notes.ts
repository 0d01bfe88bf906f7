import type { Db, Query } from '../../db/open';
import type { Opened } from '../../access/private-link';
import { fileForPerson } from '../sheet/files';
import { dispatchLetters } from '../sheet/letters';
import type { KeptFile } from '../sheet/types';
import type { Visitor } from '../track/types';
import { letterHappened } from './letter-happened';

/** The sound or film of a note that goes with a letter of somebody's; null where none of theirs holds it. */
export async function noteForPerson(
	db: Query,
	personId: number,
	fileId: number
): Promise<(KeptFile & { readonly hash: string }) | null> {
	const file = await fileForPerson(db, personId, fileId);
	return file && /^(audio|video)\//.test(file.type) ? file : null;
}

/** Somebody has played the note of a letter to its end: strong evidence, as far as no machine did it. False where the letter has none, or is none of theirs. */
export async function notePlayed(
	db: Db,
	opened: Extract<Opened, { ok: true }>,
	dispatchId: number,
	visitor: Visitor
): Promise<boolean> {
	const there = await db.one('SELECT 1 FROM dispatch WHERE id = $dispatchId', { dispatchId });
	if (!there || (await dispatchLetters(db, dispatchId)).note === null) return false;
	return (await letterHappened(db, opened, dispatchId, 'played', visitor)) !== null;
}
