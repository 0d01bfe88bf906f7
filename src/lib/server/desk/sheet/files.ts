import { file as files } from '../../db/models/dispatch';
import { picturesIn } from '../../../core/copy/doc';
import type { Words } from '../../../core/copy/words';
import { may } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { hasLeft } from '../../db/copy-state';
import { putContent } from '../../db/file-store';
import type { Db, Query } from '../../db/open';
import { lookAtFile } from './file-kind';
import type { Sheet } from './sheet';
import type { KeptFile } from './types';
import type { DeliveryRow } from '../../db/models/delivery';

/** Takes a file in. `for` a picture in the words only pictures are taken. Nothing is kept of one that is refused. */
export async function keepFile(
	db: Db,
	dataFolder: string,
	user: User,
	givenName: string,
	content: Buffer,
	as: 'file' | 'picture',
	limitBytes: number
): Promise<{ ok: true; file: KeptFile } | { ok: false; why: string }> {
	const looked = await lookAtFile(givenName, content, limitBytes);
	if (!looked.ok) return looked;
	const { name, type, isPicture, width, height } = looked;
	if (as === 'picture' && !isPicture) {
		return { ok: false, why: `“${name}” is no picture of the kinds PNG, JPEG, GIF or WebP.` };
	}
	const hash = await putContent(dataFolder, content);
	const id = await db.rows(files).add({
		hash,
		name,
		type,
		bytes: content.length,
		width,
		height,
		ownerId: user.personId,
		madeAt: Math.round(await now(db))
	});
	return {
		ok: true,
		file: { id, name, type, bytes: content.length, width, height }
	};
}

/** Every picture in words, of each way. */
const picturesOf = (words: Words): number[] =>
	[words.body, words.own.email?.body, words.own.inbox?.body]
		.flatMap((doc) => (doc ? picturesIn(doc) : []))
		.map((p) => p.fileId);

/** The files of a note: what is heard or seen, and its picture. */
const noteFiles = (note: Sheet['letter']['note']): number[] =>
	note ? [note.fileId, ...(note.picture ? [note.picture.fileId] : [])] : [];

/** Every file that a sheet shows or hands out, each once. */
export const filesOfSheet = (sheet: Pick<Sheet, 'wording' | 'letter'>): number[] => [
	...new Set([
		...sheet.letter.files.map((f) => f.fileId),
		...noteFiles(sheet.letter.note),
		...picturesOf(sheet.wording.words),
		...sheet.wording.variants.flatMap((v) => picturesOf(v.words))
	])
];

const columns = 'file.id, name, type, bytes, width, height';

/** Of some files those that a user may send: their own, and all for the coordinator. */
export const usableFiles = async (
	db: Query,
	user: User,
	ids: readonly number[]
): Promise<KeptFile[]> =>
	ids.length === 0
		? []
		: db.all<KeptFile>(
				`SELECT ${columns} FROM file WHERE id IN (SELECT value FROM json_each($ids))
					AND ($all OR owner_id = $user)`,
				{
					ids: JSON.stringify(ids),
					user: user.personId,
					all: may(user, 'speak-for-district') ? 1 : 0
				}
			);

/** A file with its content's hash, for its owner, for the coordinator, and for everybody where it is the district's logo. */
export const fileForUser = (
	db: Query,
	user: User,
	id: number
): Promise<(KeptFile & { hash: string }) | undefined> =>
	// The logo stands in everybody's letters.
	db.one(
		`SELECT ${columns}, hash FROM file WHERE id = $id AND ($all OR owner_id = $user OR id =
			(SELECT value ->> '$.letterhead.logo.fileId' FROM setting WHERE key = 'district'))`,
		{
			id,
			user: user.personId,
			all: may(user, 'speak-for-district') ? 1 : 0
		}
	);

/** A file with its content's hash, for somebody to whom a copy of a dispatch that holds it has left; and the copies through which they have it. */
export async function fileForPerson(
	db: Query,
	personId: number,
	id: number
): Promise<(KeptFile & { hash: string; deliveryIds: readonly number[] }) | null> {
	const copies = await db.all<Pick<DeliveryRow, 'id'>>(
		`SELECT delivery.id FROM dispatch_file JOIN delivery USING (dispatch_id)
		WHERE file_id = $id AND ${hasLeft} AND (person_id = $person
			OR delivery.id IN (SELECT delivery_id FROM delivery_also WHERE person_id = $person))`,
		{ id, person: personId }
	);
	if (copies.length === 0) return null;
	const file = await db.one<KeptFile & { hash: string }>(
		`SELECT ${columns}, hash FROM file WHERE id = $id`,
		{ id }
	);
	return file ? { ...file, deliveryIds: copies.map((c) => c.id) } : null;
}
