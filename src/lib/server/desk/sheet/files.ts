import { file as files } from '../../db/models/dispatch';
import { plainFileName } from '../../../core/format/file-name';
import { picturesIn } from '../../../core/copy/doc';
import type { Words } from '../../../core/copy/words';
import { may } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { hasLeft } from '../../db/copy-state';
import { putContent } from '../../db/file-store';
import type { Db, Query } from '../../db/open';
import { read, TooLong } from '../../reading/reading';
import type { FileKind } from '../../reading/tasks';
import type { Sheet } from './sheet';
import type { KeptFile } from './types';
import type { DeliveryRow } from '../../db/models/delivery';

/** What may go with a letter, by its content, with the ending its name has. */
const allowed: Readonly<
	Record<string, { readonly endings: readonly string[]; readonly picture?: true }>
> = {
	'image/png': { endings: ['png'], picture: true },
	'image/jpeg': { endings: ['jpg', 'jpeg'], picture: true },
	'image/gif': { endings: ['gif'], picture: true },
	'image/webp': { endings: ['webp'], picture: true },
	'application/pdf': { endings: ['pdf'] },
	'application/vnd.openxmlformats-officedocument.wordprocessingml.document': { endings: ['docx'] },
	'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet': { endings: ['xlsx'] },
	'application/vnd.openxmlformats-officedocument.presentationml.presentation': {
		endings: ['pptx']
	},
	'application/vnd.oasis.opendocument.text': { endings: ['odt'] },
	'application/vnd.oasis.opendocument.spreadsheet': { endings: ['ods'] },
	'audio/mpeg': { endings: ['mp3'] },
	'audio/x-m4a': { endings: ['m4a'] },
	'video/mp4': { endings: ['mp4'] },
	// Not shown by every reader, so no picture for the words; as a file it goes.
	'image/heic': { endings: ['heic'] },
	'image/heif': { endings: ['heif', 'heic'] },
	'text/calendar': { endings: ['ics'] },
	'text/vcard': { endings: ['vcf'] }
};
/** Texts have no mark by which content tells its kind: these endings are believed where the content is text. */
const texts: Readonly<Record<string, string>> = {
	txt: 'text/plain',
	csv: 'text/csv',
	ics: 'text/calendar',
	vcf: 'text/vcard'
};

const endingOf = (name: string): string =>
	/\.([a-z0-9]{1,8})$/i.exec(name)?.[1]?.toLowerCase() ?? '';

/** The type of a content, or why it is not taken. Its name is believed only among plain texts. */
function typeOf(
	name: string,
	found: string | null,
	content: Buffer
): { ok: true; type: string; name: string } | { ok: false; why: string } {
	if (found !== null) {
		const kind = allowed[found];
		if (!kind) {
			return {
				ok: false,
				why: `“${name}” is a file of the type ${found}, which many mail systems refuse. Save it as PDF, picture or office document.`
			};
		}
		// A name with another ending would open in the wrong program.
		const fits = kind.endings.includes(endingOf(name));
		return { ok: true, type: found, name: fits ? name : `${name}.${kind.endings[0]}` };
	}
	const ending = endingOf(name);
	const type = texts[ending];
	if (type && isText(content)) return { ok: true, type, name };
	if (ending === '' && isText(content))
		return { ok: true, type: 'text/plain', name: `${name}.txt` };
	return {
		ok: false,
		why: `What “${name}” holds is none of the kinds that can be sent: PDF, picture, office document, sound, film, or plain text.`
	};
}

function isText(content: Buffer): boolean {
	if (content.includes(0)) return false;
	try {
		new TextDecoder('utf-8', { fatal: true }).decode(content);
		return true;
	} catch {
		return false;
	}
}

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
	const name = plainFileName(givenName);
	if (content.length === 0) return { ok: false, why: `“${name}” is empty.` };
	if (content.length > limitBytes) {
		return { ok: false, why: tooBig(name, content.length, limitBytes) };
	}
	let kind: FileKind;
	try {
		kind = await read('fileKind', [content]);
	} catch (error) {
		if (!(error instanceof TooLong)) throw error;
		return {
			ok: false,
			why: `“${name}” cannot be read: it is broken, or made to hold others up. Save it anew, or as PDF.`
		};
	}
	const typed = typeOf(name, kind.type, content);
	if (!typed.ok) return typed;
	const isPicture = allowed[typed.type]?.picture === true;
	if (as === 'picture' && !isPicture) {
		return { ok: false, why: `“${name}” is no picture of the kinds PNG, JPEG, GIF or WebP.` };
	}
	let width: number | null = null;
	let height: number | null = null;
	if (isPicture) {
		const { size } = kind;
		if (!size) {
			return { ok: false, why: `“${name}” is a broken picture: its size cannot be read.` };
		}
		if (!kind.whole) {
			return {
				ok: false,
				why: `“${name}” is cut off: its end is missing. Save or download it again.`
			};
		}
		({ width, height } = size);
	}
	const hash = await putContent(dataFolder, content);
	const id = await db.rows(files).add({
		hash,
		name: typed.name,
		type: typed.type,
		bytes: content.length,
		width,
		height,
		ownerId: user.personId,
		madeAt: Math.round(await now(db))
	});
	return {
		ok: true,
		file: { id, name: typed.name, type: typed.type, bytes: content.length, width, height }
	};
}

/** What is said of a file that is too big. */
export const tooBig = (name: string, bytes: number, limitBytes: number): string =>
	`“${name}” has ${Math.ceil(bytes / 1e6)} MB; ${limitBytes / 1e6} MB are taken at most. Make it smaller, or put it on a page and link to it.`;

/** Every picture in words, of each way. */
const picturesOf = (words: Words): number[] =>
	[words.body, words.own.email?.body, words.own.inbox?.body]
		.flatMap((doc) => (doc ? picturesIn(doc) : []))
		.map((p) => p.fileId);

/** Every file that a sheet shows or hands out, each once. */
export const filesOfSheet = (sheet: Pick<Sheet, 'wording' | 'letter'>): number[] => [
	...new Set([
		...sheet.letter.files.map((f) => f.fileId),
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

/** A file with its content's hash, for its owner and for the coordinator. */
export const fileForUser = (
	db: Query,
	user: User,
	id: number
): Promise<(KeptFile & { hash: string }) | undefined> =>
	db.one(`SELECT ${columns}, hash FROM file WHERE id = $id AND ($all OR owner_id = $user)`, {
		id,
		user: user.personId,
		all: may(user, 'speak-for-district') ? 1 : 0
	});

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
