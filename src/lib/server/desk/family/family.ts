import { languageDirection } from '../../../core/copy/direction';
import { aboutLine } from '../../../core/copy/letter';
import { sizeWords } from '../../../core/copy/size-words';
import { copyFacts, type StudentFacts } from '../../../core/copy/values';
import { now } from '../../clock';
import { deliveryFacts } from '../../db/copy-facts';
import type { Query } from '../../db/open';
import { dispatchLetters } from '../sheet/letters';
import { sentProofSchema } from '../sheet/sent-proof';
import { talksOf } from './talks';
import { copiesOfPerson } from './copies-of';
import { pageFor, type PageReader } from './reader';
import type { FamilyInbox, FamilyStudent, Letter } from './types';
import { hasLeft } from '../../db/copy-state';
import type { ContactRow } from '../../db/models/roster';
import type { DispatchRow, ProofRow } from '../../db/models/dispatch';
import type { NoticeRow } from '../../db/models/running';

/** A person's inbox through one of their links: every dispatch of which a copy has left for them, newest first. `base` is the address that pictures and files are under. */
export async function inboxOf(db: Query, personId: number, base: string): Promise<FamilyInbox> {
	const { reader, head } = await pageFor(db, personId);
	const letters = await dispatchesOf(db, personId, reader, base);
	letters.push(...(await noticesOf(db, personId)));
	letters.sort((a, b) => b.leftAt - a.leftAt);
	letters.unshift(...(await proofsOf(db, personId)));
	return {
		...head,
		talks: await talksOf(db, personId, reader.language, head.now),
		students: await db.all<FamilyStudent>(
			`SELECT DISTINCT person.id, given_name AS name FROM contact_now AS contact JOIN person ON person.id = student_id
			WHERE contact.person_id = $person ORDER BY given_name, person.id`,
			{ person: personId }
		),
		letters
	};
}

/** A dispatch that has left for a person, and the copies by which they can read it. */
type LeftDispatch = {
	dispatchId: DispatchRow['id'];
	sender: string;
	senderTitle: string;
	leftAt: number;
	seenAt: number | null;
	/** JSON list. */
	copyIds: string;
	kind: DispatchRow['kind'];
	endsAt: number | null;
};

const leftDispatches = (db: Query, personId: number): Promise<LeftDispatch[]> =>
	db.all<LeftDispatch>(
		`SELECT dispatch.id AS dispatchId, given_name || ' ' || family_name AS sender,
			coalesce(title, '') AS senderTitle, leaves_at AS leftAt, dispatch.kind, ends_at AS endsAt,
			(SELECT min(event.at) FROM event JOIN delivery ON delivery.id = event.delivery_id
				WHERE delivery.dispatch_id = dispatch.id AND delivery.id IN (${copiesOfPerson})
				AND event.kind = 'acknowledged') AS seenAt,
			(SELECT json_group_array(id) FROM delivery WHERE delivery.dispatch_id = dispatch.id
				AND id IN (${copiesOfPerson})) AS copyIds
		FROM dispatch JOIN person ON person.id = sender_id
		LEFT JOIN sign_in ON sign_in.person_id = sender_id
		WHERE dispatch.id IN (SELECT dispatch_id FROM delivery WHERE id IN (${copiesOfPerson})
			AND ${hasLeft}) AND dispatch.kind != 'answer'
		ORDER BY leaves_at DESC, dispatch.id DESC LIMIT 100`,
		{ person: personId }
	);

/** The letters of the dispatches that have left for a person, written for them. */
async function dispatchesOf(
	db: Query,
	personId: number,
	reader: PageReader,
	base: string
): Promise<Letter[]> {
	const rows = await leftDispatches(db, personId);
	const time = await now(db);
	const copiesOf = (row: LeftDispatch) => JSON.parse(row.copyIds) as number[];
	const facts = await deliveryFacts(db, rows.flatMap(copiesOf));
	const contacts = await db.all<{ id: ContactRow['studentId'] }>(
		'SELECT student_id AS id FROM contact_now AS contact WHERE person_id = $person',
		{ person: personId }
	);
	const children = new Set(contacts.map((c) => c.id));
	const letters: Letter[] = [];
	for (const row of rows) {
		const { letters: writer, files, note } = await dispatchLetters(db, row.dispatchId);
		// Of several copies (one for each child, one at a shared address) the reader has one letter about all their own.
		const students = new Map<number, StudentFacts>();
		for (const id of copiesOf(row)) {
			for (const s of facts.get(id)?.facts.students ?? []) students.set(s.id, s);
		}
		const all = [...students.values()];
		const ours = all.filter((s) => children.has(s.id) || s.id === personId);
		const own = copyFacts(
			{ ...reader, zone: reader.ownZone },
			(ours.length > 0 ? ours : all).map((s) => ({ ...s, own: s.id === personId }))
		);
		const letter = writer.inbox({
			facts: own,
			language: reader.language,
			link: base,
			mayStop: false
		});
		letters.push({
			...row,
			key: String(row.dispatchId),
			over: row.endsAt !== null && row.endsAt <= time,
			...letter,
			about: aboutLine(own, letter.language),
			files: files.map((f) => ({ id: f.fileId, words: `${f.name} (${sizeWords(f.bytes)})` })),
			note,
			mayAcknowledge: true,
			mayAnswer: row.kind === 'message',
			studentIds: (ours.length > 0 ? ours : all).map((s) => s.id),
			proofAs: null
		});
	}
	return letters;
}

/** What a letter that belongs to no dispatch has in common: nobody signs it, and nobody says that they have seen it. */
const ownLetter = {
	dispatchId: null,
	language: 'en',
	direction: 'ltr',
	sender: '',
	senderTitle: '',
	about: '',
	sectionLines: [],
	note: null,
	files: [],
	seenAt: null,
	mayAcknowledge: false,
	mayAnswer: false,
	over: false,
	studentIds: [],
	proofAs: null
} as const;

/** Letters to a member of the staff, as they stand in the inbox. */
async function noticesOf(db: Query, personId: number): Promise<Letter[]> {
	const rows = await db.all<Pick<NoticeRow, 'id' | 'subject' | 'html' | 'madeAt'>>(
		`SELECT id, subject, html, made_at AS madeAt FROM notice WHERE person_id = $person
		ORDER BY id DESC LIMIT 30`,
		{ person: personId }
	);
	return rows.map(({ id, subject, html, madeAt }) => ({
		...ownLetter,
		key: `notice-${id}`,
		subject,
		html,
		leftAt: madeAt
	}));
}

/** The newest proofs that somebody has sent to their own inbox. */
async function proofsOf(db: Query, personId: number): Promise<Letter[]> {
	const rows = await db.all<Pick<ProofRow, 'id' | 'forName' | 'letter' | 'madeAt'>>(
		`SELECT id, for_name AS forName, letter, made_at AS madeAt FROM proof
		WHERE user_id = $person AND way = 'inbox' ORDER BY id DESC LIMIT 5`,
		{ person: personId }
	);
	return rows.map(({ id, forName, letter, madeAt }) => {
		const { subject, html, language } = sentProofSchema.parse(JSON.parse(letter));
		return {
			...ownLetter,
			key: `proof-${id}`,
			subject,
			html,
			language,
			direction: languageDirection(language),
			leftAt: madeAt,
			proofAs: forName
		};
	});
}
