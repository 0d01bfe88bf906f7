import { clocksMark, zoneOf } from '../../../core/time/clocks';
import { readClocks } from '../../db/school-own';
import { remembering } from '../../db/remember';
import { dispatch } from '../../db/models/dispatch';
import {
	lettersOf,
	type LetterFile,
	type LetterFrame,
	type Letters
} from '../../../core/copy/letter';
import type { Note } from '../../../core/copy/note';
import { invitationSchema } from '../../../core/talk/invitation-schema';
import { wordLinks } from '../../../core/copy/word-links';
import { wordingSchema, type Wording } from '../../../core/copy/words';
import { letterheadOf, readDistrict } from '../../db/district';
import type { Query } from '../../db/open';
import { asksOf } from './asked';
import { letterSchema, type LetterSettings } from './sheet';
import type { DispatchRow } from '../../db/models/dispatch';

/** The writer of a dispatch's copies, and what goes with every email of it. */
export interface DispatchLetters {
	readonly letters: Letters;
	readonly kind: DispatchRow['kind'];
	/** Name before the From address. */
	readonly fromName: string;
	/** Whom answers are addressed to by name. */
	readonly senderName: string;
	/** Whether mail programs are asked to say that the letter was shown. */
	readonly askReceipt: boolean;
	/** Files that go with it, by whatever way. */
	readonly files: readonly LetterFile[];
	/** What was recorded for it. */
	readonly note: Note | null;
	/** Files inside each email. */
	readonly attached: readonly StoredFile[];
	/** Pages that the words link to, by their place. */
	readonly links: readonly string[];
	/** Pictures that the words show, by their ids. */
	readonly pictures: ReadonlyMap<number, StoredFile>;
	/** The one of them that is the district's logo; null where there is none. */
	readonly logoId: number | null;
}

/** A file whose content lies under its hash. */
export interface StoredFile {
	readonly id: number;
	readonly name: string;
	readonly type: string;
	readonly bytes: number;
	readonly hash: string;
}

/** Who sends, as the copies name them. */
export interface Sender {
	readonly name: string;
	readonly title: string;
	/** Their own mail address, if they have one that works. */
	readonly address: string | null;
}

export async function readSender(db: Query, personId: number): Promise<Sender> {
	const row = await db.one<Sender>(
		`SELECT given_name || ' ' || family_name AS name, coalesce(title, '') AS title,
			(SELECT value FROM address WHERE person_id = person.id AND way = 'email'
				AND failing IS NULL ORDER BY id LIMIT 1) AS address
		FROM person LEFT JOIN sign_in ON sign_in.person_id = person.id WHERE person.id = $id`,
		{ id: personId }
	);
	return row ?? { name: '', title: '', address: null };
}

/** When a letter leaves, by whose clock, and of which dispatch; null while it is a sheet. */
interface LetterMoment {
	/** Instant, ms. */
	readonly leavesAt: number;
	readonly zone: string;
	readonly dispatchId: number | null;
	/** What it asks; nothing where it asks nothing. */
	readonly asks?: LetterFrame['asks'];
}

/** What every copy has in common, for a sheet as for a dispatch that was sent. */
export async function frameOf(
	db: Query,
	sender: Sender,
	letter: LetterSettings,
	{ leavesAt, zone, dispatchId, asks = null }: LetterMoment
): Promise<LetterFrame> {
	const district = await readDistrict(db);
	const stored = new Map((await storedFiles(db, letter)).map((f) => [f.id, f]));
	return {
		signature: {
			name: sender.name,
			line: [sender.title, district.name].filter(Boolean).join(', ')
		},
		zone,
		style: district.clock,
		note: letter.note,
		asks,
		letterhead: letterheadOf(district),
		leavesAt,
		sectionBefore: letter.sectionBefore,
		sectionLine: letter.sectionLine,
		files: letter.files.flatMap(({ fileId, mode }): LetterFile[] => {
			const file = stored.get(fileId);
			return file ? [{ fileId, mode, name: file.name, bytes: file.bytes }] : [];
		}),
		trace: dispatchId === null ? null : { dispatchId, picture: district.countPictures }
	};
}

const storedFiles = (db: Query, letter: LetterSettings): Promise<StoredFile[]> =>
	letter.files.length === 0
		? Promise.resolve([])
		: readStored(
				db,
				letter.files.map((f) => f.fileId)
			);

export const readStored = (db: Query, ids: readonly number[]): Promise<StoredFile[]> =>
	db.all<StoredFile>(
		'SELECT id, name, type, bytes, hash FROM file WHERE id IN (SELECT value FROM json_each($ids))',
		{ ids: JSON.stringify(ids) }
	);

/** Writers kept at a time; a large dispatch is written out in many batches. */
const most = 150;
const writers = remembering<DispatchLetters>(most);

/** The writer of a dispatch that has been scheduled. Its words no longer change once it is on its way. */
export async function dispatchLetters(db: Query, dispatchId: number): Promise<DispatchLetters> {
	const row = await db.rows(dispatch).one({ id: dispatchId }, ['scheduledAt', 'invitation']);
	// Called back and sent again it has another moment.
	// What the district has settled of letters holds for what leaves from then on.
	const { letterhead, name, clock, countPictures } = await readDistrict(db);
	const settled = [letterhead, name, clock, countPictures, clocksMark(await readClocks(db))];
	const mark = `${dispatchId} ${row?.scheduledAt} ${row?.invitation} ${JSON.stringify(settled)}`;
	return writers.get(db, mark, () => readLetters(db, dispatchId));
}

async function readLetters(db: Query, dispatchId: number): Promise<DispatchLetters> {
	const row = (await db.one<
		Pick<DispatchRow, 'wording' | 'letter' | 'kind' | 'senderId' | 'invitation'> & {
			leavesAt: number;
			clock: number | null;
		}
	>(
		`SELECT wording, letter, kind, invitation, sender_id AS senderId, leaves_at AS leavesAt,
			json_extract(timing, '$.clock') AS clock FROM dispatch WHERE id = $id`,
		{ id: dispatchId }
	))!;
	const letter = letterSchema.parse(JSON.parse(row.letter));
	const wording: Wording = wordingSchema.parse(JSON.parse(row.wording));
	const sender = await readSender(db, row.senderId);
	const frame = await frameOf(db, sender, letter, {
		...{ leavesAt: row.leavesAt, zone: zoneOf(await readClocks(db), row.clock), dispatchId },
		asks: await asksOf(db, invitationSchema.parse(JSON.parse(row.invitation)), row.clock)
	});
	const district = await readDistrict(db);
	const all = await db.all<StoredFile>(
		`SELECT id, name, type, bytes, hash FROM file
		WHERE id IN (SELECT file_id FROM dispatch_file WHERE dispatch_id = $id) OR id = $logo`,
		{ id: dispatchId, logo: frame.letterhead.logo?.fileId ?? null }
	);
	const attachedIds = new Set(letter.files.flatMap((f) => (f.mode === 'attach' ? [f.fileId] : [])));
	return {
		letters: lettersOf(wording, frame),
		files: frame.files,
		note: letter.note,
		kind: row.kind,
		fromName: `${sender.name}, ${district.name}`,
		senderName: sender.name,
		askReceipt: letter.askReceipt,
		attached: all.filter((f) => attachedIds.has(f.id)),
		links: wordLinks(wording),
		pictures: new Map(all.map((f) => [f.id, f])),
		logoId: frame.letterhead.logo?.fileId ?? null
	};
}
