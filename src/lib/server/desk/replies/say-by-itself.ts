import { nextForReader } from '../../../core/plan/next-for-reader';
import { readTimes } from '../../db/calendar';
import { autoNote, type AwayRow, type NewNote, type TalkNoteKind } from '../../db/models/talk';
import type { Query } from '../../db/open';
import { putActs } from './act';
import type { PutAnswer } from './put-answers';

const dayMs = 86_400_000;

/** What one address is told by itself in a day: two machines that answer each other soon fall silent (RFC 3834 section 2). */
const mostInADay = 6;

/** Puts down what is to be said by itself, in the caller's transaction; false where the address was told enough today. */
export async function sayByItself(tx: Query, note: NewNote, at: number): Promise<boolean> {
	const { n } = (await tx.one<{ n: number }>(
		`SELECT count(*) AS n FROM auto_note WHERE address = $address AND made_at > $since AND joining_id IS NULL AND kind NOT LIKE 'coming-%'`,
		{ address: note.address, since: at - dayMs }
	))!;
	if (n >= mostInADay) return false;
	await tx.rows(autoNote).add({ dueAt: at, ...note, madeAt: at, state: 'waiting' });
	return true;
}

/** Who wrote, and what they are to be told by itself. */
interface Writer {
	readonly conversationId: number;
	readonly personId: number | null;
	readonly name: string | null;
	readonly language: string;
	readonly told: number;
	readonly awayId: AwayRow['id'] | null;
	readonly words: string | null;
	readonly awayTold: number;
	readonly zone: string | null;
	readonly quietFrom: number | null;
	readonly quietTo: number | null;
	readonly schoolId: number | null;
}

const writersOf = async (
	tx: Query,
	ids: readonly number[],
	at: number
): Promise<Map<number, Writer>> => {
	const rows = await tx.all<Writer>(
		`SELECT conversation.id AS conversationId, conversation.person_id AS personId,
			given_name || ' ' || family_name AS name, coalesce(language, 'en') AS language, conversation.school_id AS schoolId,
			EXISTS (SELECT 1 FROM auto_note WHERE conversation_id = conversation.id AND auto_note.kind = 'one-way') AS told,
			away.id AS awayId, away.words,
			EXISTS (SELECT 1 FROM away_told WHERE away_id = away.id AND person_id = conversation.person_id) AS awayTold,
			zone, quiet_from AS quietFrom, quiet_to AS quietTo
		FROM conversation LEFT JOIN person ON person.id = conversation.person_id
		LEFT JOIN own_time ON own_time.person_id = conversation.person_id
		LEFT JOIN away ON away.id = (SELECT max(id) FROM away WHERE away.person_id = handler_id
			AND starts_at <= $at AND ends_at > $at AND ended_at IS NULL)
		WHERE conversation.id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(ids), at }
	);
	return new Map(rows.map((r) => [r.conversationId, r]));
};

/** Tells by the way they wrote by: never from an address that is not on file, never what a machine may have written. */
async function tell(
	tx: Query,
	{ came, conversationId }: PutAnswer,
	writer: Writer,
	note: { readonly kind: TalkNoteKind; readonly words?: string; readonly dueAt?: number },
	at: number
): Promise<boolean> {
	if (came.way === 'inbox') return true;
	return sayByItself(
		tx,
		{
			...note,
			...{ way: came.way, address: came.fromAddress, conversationId },
			...{ name: writer.name ?? '', language: writer.language, answers: came.messageId },
			deliveryId: 'deliveryId' in came.about ? came.about.deliveryId : null
		},
		at
	);
}

/**
 * Says by itself to whoever has just written what they have to know: that nobody reads answers to an announcement, once for
 * each person and dispatch; that whoever answers is away, once for each person and absence, never at night. Never to a
 * machine, and to no address that is not on file. In the caller's transaction.
 */
export async function answerByItself(
	tx: Query,
	put: readonly PutAnswer[],
	at: number
): Promise<void> {
	const people = put.filter((p) => p.came.doubt === null && p.came.known);
	if (people.length === 0) return;
	const writers = await writersOf(
		tx,
		people.map((p) => p.conversationId),
		at
	);
	const told = new Set<string>();
	for (const one of people) {
		const writer = writers.get(one.conversationId)!;
		if (one.kind === 'announcement') {
			if (writer.told === 1 || told.has(`w${one.conversationId}`)) continue;
			told.add(`w${one.conversationId}`);
			if (await tell(tx, one, writer, { kind: 'one-way' }, at))
				await putActs(tx, [one.conversationId], 'told-one-way', null, at);
			continue;
		}
		if (writer.awayId === null || writer.personId === null || writer.awayTold === 1) continue;
		const mark = `a${writer.awayId} ${writer.personId}`;
		if (told.has(mark)) continue;
		told.add(mark);
		const { quiet } = await readTimes(tx);
		const dueAt = nextForReader(quiet, at, {
			...writer,
			way: one.came.way,
			schoolIds: writer.schoolId === null ? [] : [writer.schoolId]
		});
		if (!(await tell(tx, one, writer, { kind: 'away', words: writer.words!, dueAt }, at))) continue;
		await tx.run(
			'INSERT INTO away_told (away_id, person_id, at) VALUES ($awayId, $personId, $at)',
			{ awayId: writer.awayId, personId: writer.personId, at }
		);
		await putActs(tx, [one.conversationId], 'told-away', null, at);
	}
}
