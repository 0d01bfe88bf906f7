import type { Opened } from '../../access/private-link';
import { now } from '../../clock';
import { hasLeft } from '../../db/copy-state';
import { conversation } from '../../db/models/talk';
import type { Db, Query } from '../../db/open';
import { answersCame } from './answers-came';
import type { CameIn } from './put-answers';
import type { KeptAnswerFile } from './answer-files';
import { sectionsToWriteTo } from './sections-open';

/** What a family wrote on its page. */
export interface Written {
	/** Made by the page: the same sent twice is one. */
	readonly key: string;
	readonly words: string;
	readonly files: readonly KeptAnswerFile[];
}

/** What became of it. */
export type Taken =
	{ readonly ok: true } | { readonly ok: false; readonly why: 'gone' | 'too-many' | 'one-way' };

/** So much one person writes on their page in an hour (common practice: more is a program). */
const mostInAnHour = 30;
const hourMs = 3_600_000;

const wroteLately = async (tx: Query, personId: number, at: number): Promise<number> =>
	(await tx.one<{ n: number }>(
		`SELECT count(*) AS n FROM answer JOIN conversation ON conversation.id = conversation_id
		WHERE person_id = $personId AND answer.way = 'inbox' AND at > $since`,
		{ personId, since: at - hourMs }
	))!.n;

const cameWith = ({ key, words, files }: Written): Omit<CameIn, 'about'> => ({
	...{ way: 'inbox', fromName: '', fromAddress: '', known: true, subject: '', text: words },
	...{ whole: '', messageKey: `inbox ${key}`, messageId: null, doubt: null, files }
});

/** An answer to a dispatch, written on the page of whoever opened a private link. */
export async function answerOnPage(
	db: Db,
	opened: Extract<Opened, { ok: true }>,
	dispatchId: number,
	written: Written
): Promise<Taken> {
	return db.write(async (tx): Promise<Taken> => {
		const at = Math.round(await now(tx));
		// The copy whose link led here first, then the inbox's own.
		const copy = await tx.one<{ id: number; kind: string }>(
			`SELECT delivery.id, kind FROM delivery JOIN dispatch ON dispatch.id = dispatch_id
			WHERE dispatch_id = $dispatchId AND ${hasLeft} AND (person_id = $person
				OR delivery.id IN (SELECT delivery_id FROM delivery_also WHERE person_id = $person))
			ORDER BY delivery.id = $through DESC, way = 'inbox' DESC, delivery.id LIMIT 1`,
			{ dispatchId, person: opened.personId, through: opened.deliveryId ?? 0 }
		);
		if (!copy) return { ok: false, why: 'gone' };
		if (copy.kind === 'announcement') return { ok: false, why: 'one-way' };
		if ((await wroteLately(tx, opened.personId, at)) >= mostInAnHour)
			return { ok: false, why: 'too-many' };
		await answersCame(
			tx,
			[{ about: { deliveryId: copy.id, personId: opened.personId }, ...cameWith(written) }],
			at
		);
		return { ok: true };
	});
}

/** Begins a conversation with the staff of a section, or goes on in one that was begun. */
export async function writeToSection(
	db: Db,
	opened: Extract<Opened, { ok: true }>,
	to:
		{ readonly sectionId: number; readonly subject: string } | { readonly conversationId: number },
	written: Written
): Promise<Taken> {
	return db.write(async (tx): Promise<Taken> => {
		const { personId } = opened;
		const at = Math.round(await now(tx));
		if ((await wroteLately(tx, personId, at)) >= mostInAnHour)
			return { ok: false, why: 'too-many' };
		let conversationId: number;
		if ('conversationId' in to) {
			const own = await tx.one<{ id: number }>(
				`SELECT id FROM conversation WHERE id = $id AND person_id = $personId AND dispatch_id IS NULL AND number IS NULL`,
				{ id: to.conversationId, personId }
			);
			if (!own) return { ok: false, why: 'gone' };
			conversationId = own.id;
		} else {
			const open = await sectionsToWriteTo(tx, personId);
			const section = open.find((s) => s.id === to.sectionId);
			if (!section) return { ok: false, why: 'gone' };
			const again = await tx.one<{ id: number }>(
				`SELECT conversation_id AS id FROM answer JOIN conversation ON conversation.id = conversation_id
				WHERE message_key = $key AND person_id = $personId`,
				{ key: `inbox ${written.key}`, personId }
			);
			if (again) return { ok: true };
			conversationId = await tx.rows(conversation).add({
				...{ personId, sectionId: section.id, schoolId: section.schoolId, subject: to.subject },
				...{ state: 'settled', stateAt: at, unread: 0, way: 'inbox', lastAt: at }
			});
		}
		await answersCame(tx, [{ about: { conversationId }, ...cameWith(written) }], at);
		return { ok: true };
	});
}
