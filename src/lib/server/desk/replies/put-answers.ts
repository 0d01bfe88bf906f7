import type { Way } from '../../../core/roster/way';
import type { DispatchKind } from '../../../core/roster/types';
import { likenessOf } from '../../../core/talk/alike';
import type { Likeness } from '../../../core/talk/alike-words';
import { familyWrote, onlyKept, stateAt, type Standing } from '../../../core/talk/conversation';
import { doubtWords, type Doubt } from '../../../core/track/auto-answer';
import type { Source } from '../../../core/track/evidence';
import { rowSet } from '../../db/many';
import type { Query } from '../../db/open';
import { record, type Happening } from '../track/record';
import { conversationsOf, type About, type Talk } from './conversations-of';
import type { KeptAnswerFile } from './answer-files';

/** Something a family sent back, by whatever way, as far as it is understood. */
export interface CameIn {
	readonly about: About;
	readonly way: Way;
	readonly fromName: string;
	/** Mailbox or number; empty for what was written on the family's page. */
	readonly fromAddress: string;
	/** Whether that is on file for whoever it is about. */
	readonly known: boolean;
	readonly subject: string;
	readonly text: string;
	readonly whole: string;
	/** The same is taken once in its conversation. */
	readonly messageKey: string;
	readonly messageId: string | null;
	/** Why a machine may have written it. */
	readonly doubt: Doubt | null;
	readonly files: readonly KeptAnswerFile[];
}

/** An answer that is new, with what whoever is told of it needs. */
export interface PutAnswer {
	readonly id: number;
	readonly conversationId: number;
	readonly came: CameIn;
	/** Whether somebody is to answer it; not where it answers an announcement, or only a machine may have written it. */
	readonly waits: boolean;
	readonly kind: DispatchKind | null;
}

/** Answers kept of one conversation: more is no conversation. */
const mostKept = 300;

const sources: Readonly<Record<Way, Source>> = {
	email: 'answer by mail',
	text: 'answer by text',
	inbox: 'inbox'
};
const byWay: Readonly<Record<Way, string>> = {
	email: 'answered by mail',
	text: 'answered by text',
	inbox: 'answered in the inbox'
};

/** An answer as evidence on the copy it answers. */
function evidenceOf(deliveryId: number, came: CameIn, at: number): Happening {
	const { way, doubt, known, fromAddress, text, files } = came;
	const first =
		text.replace(/\s+/g, ' ').slice(0, 120) ||
		(files.length === 1 ? 'a file' : `${files.length} files`);
	const from = known ? '' : ` from another address (${fromAddress})`;
	return {
		deliveryId,
		at,
		kind: 'answered',
		source: sources[way],
		detail: doubt
			? `perhaps a machine answered by mail${from}, ${doubtWords[doubt]}: “${first}”`
			: `${byWay[way]}${from}: “${first}”`,
		strength: doubt ? 'weak' : known ? 'strong' : 'fair',
		...(doubt ? { code: doubt } : {})
	};
}

/** What is known of the conversations that something comes into. */
interface Around {
	readonly kind: DispatchKind | null;
	readonly kept: number;
	/** Given names that add nothing to an answer. */
	readonly names: readonly string[];
}

async function around(tx: Query, talks: readonly Talk[]): Promise<Map<number, Around>> {
	const rows = await tx.all<{
		id: number;
		kind: DispatchKind | null;
		kept: number;
		names: string;
	}>(
		`SELECT conversation.id, dispatch.kind, (SELECT count(*) FROM answer WHERE conversation_id = conversation.id) AS kept,
			json_array(person.given_name, person.family_name, handler.given_name, handler.family_name,
				(SELECT group_concat(student.given_name || ' ' || student.family_name, ' ')
					FROM delivery JOIN delivery_student ON delivery_id = delivery.id JOIN person AS student ON student.id = student_id
					WHERE delivery.dispatch_id = conversation.dispatch_id AND delivery.person_id = conversation.person_id)) AS names
		FROM conversation LEFT JOIN dispatch ON dispatch.id = dispatch_id
		LEFT JOIN person ON person.id = conversation.person_id LEFT JOIN person AS handler ON handler.id = handler_id
		WHERE conversation.id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify([...new Set(talks.map((t) => t.id))]) }
	);
	return new Map(
		rows.map(({ id, kind, kept, names }) => [
			id,
			{ kind, kept, names: (JSON.parse(names) as (string | null)[]).filter((n) => n !== null) }
		])
	);
}

/** Those of some answers that are here already, by conversation and key. */
async function knownKeys(
	tx: Query,
	of: readonly { readonly conversationId: number; readonly key: string }[]
): Promise<Set<string>> {
	const rows = await tx.all<{ id: number; key: string }>(
		`SELECT conversation_id AS id, message_key AS key FROM ${keySet.table} AS came
		JOIN answer ON answer.conversation_id = came.id AND message_key = came.key`,
		{ rows: keySet.json(of.map(({ conversationId, key }) => ({ id: conversationId, key }))) }
	);
	return new Set(rows.map((r) => `${r.id} ${r.key}`));
}
const keySet = rowSet('$rows', ['id', 'key']);

const answerKeys = [
	...(['id', 'conversation_id', 'delivery_id', 'at', 'way', 'from_name', 'from_address'] as const),
	...(['known', 'subject', 'text', 'whole', 'message_key', 'message_id', 'doubt'] as const)
] as const;
const answerSet = rowSet('$rows', answerKeys);
const fileKeys = ['answer_id', 'name', 'type', 'bytes', 'hash', 'width', 'height', 'why'] as const;
const fileSet = rowSet('$rows', fileKeys);
const talkSet = rowSet('$rows', ['id', 'state', 'aside', 'since', 'unread', 'alike', 'way', 'at']);

/** How a conversation stands, with what all that waits in it says alike. */
type Standings = Standing & { readonly alike: Likeness | null };

const standingsOf = ({ state, asideUntil, since, unread, alike }: Talk): Standings => ({
	...{ state, asideUntil, since, unread: unread === 1, alike }
});

/** What an answer makes of its conversation. */
function afterwards(
	before: Standings,
	came: CameIn,
	{ kind, names }: Around,
	at: number
): { readonly after: Standings; readonly waits: boolean } {
	// Nobody waits where a machine says that its owner is away, nor for an answer to what asks for none.
	if (kind === 'announcement' || came.doubt === 'absence-words')
		return { after: { ...onlyKept(before), alike: before.alike }, waits: false };
	const says =
		came.doubt === null && came.known && came.files.length === 0
			? likenessOf(came.text, names)
			: null;
	const alone = stateAt(before, at) === 'settled';
	return {
		after: { ...familyWrote(before, at), alike: alone || before.alike === says ? says : null },
		waits: true
	};
}

/**
 * Puts what families sent back into their conversations, whatever way it came: the one door. Each is kept
 * once, is evidence on the copy it answers, and makes its conversation wait. Returns those that are new.
 * In the caller's transaction, in few statements: a school answers at once.
 */
export async function putAnswers(
	tx: Query,
	group: readonly CameIn[],
	at: number
): Promise<PutAnswer[]> {
	if (group.length === 0) return [];
	const talks = await conversationsOf(tx, group, at);
	const there = talks.filter((t) => t !== null);
	const facts = await around(tx, there);
	const seen = await knownKeys(
		tx,
		group.flatMap((came, i) =>
			talks[i] ? [{ conversationId: talks[i].id, key: came.messageKey }] : []
		)
	);
	const { last } = (await tx.one<{ last: number }>(
		`SELECT coalesce((SELECT seq FROM sqlite_sequence WHERE name = 'answer'), 0) AS last`
	))!;
	const standings = new Map<number, Standings & { way: Way }>();
	const kept = new Map<number, number>();
	const put: PutAnswer[] = [];
	group.forEach((came, i) => {
		const talk = talks[i];
		if (!talk) return;
		const { id: conversationId } = talk;
		const own = facts.get(conversationId)!;
		const n = kept.get(conversationId) ?? own.kept;
		const mark = `${conversationId} ${came.messageKey}`;
		if (seen.has(mark) || n >= mostKept) return;
		seen.add(mark);
		kept.set(conversationId, n + 1);
		const before = standings.get(conversationId) ?? standingsOf(talk);
		const { after, waits } = afterwards(before, came, own, at);
		standings.set(conversationId, { ...after, way: came.way });
		put.push({ id: last + 1 + put.length, conversationId, came, waits, kind: own.kind });
	});
	if (put.length === 0) return [];
	await writeAnswers(tx, put, at);
	await tx.run(
		`UPDATE conversation SET state_at = CASE WHEN conversation.state = new.state THEN state_at ELSE new.at END,
			state = new.state, aside_until = new.aside, since = new.since, unread = new.unread,
			alike = new.alike, way = new.way, last_at = new.at
		FROM ${talkSet.table} AS new WHERE conversation.id = new.id`,
		{
			rows: talkSet.json(
				[...standings].map(([id, s]) => ({
					...{ id, state: s.state, aside: s.asideUntil, since: s.since, way: s.way, at },
					...{ unread: s.unread ? 1 : 0, alike: s.alike }
				}))
			)
		}
	);
	await record(
		tx,
		put.flatMap(({ came }) =>
			'deliveryId' in came.about ? [evidenceOf(came.about.deliveryId, came, at)] : []
		)
	);
	return put;
}

async function writeAnswers(tx: Query, put: readonly PutAnswer[], at: number): Promise<void> {
	await tx.run(`INSERT INTO answer (${answerKeys.join(', ')}) SELECT * FROM ${answerSet.table}`, {
		rows: answerSet.json(
			put.map(({ id, conversationId, came }): Record<(typeof answerKeys)[number], unknown> => ({
				...{ id, at, way: came.way, subject: came.subject, text: came.text, whole: came.whole },
				...{ known: came.known ? 1 : 0, doubt: came.doubt },
				conversation_id: conversationId,
				delivery_id: 'deliveryId' in came.about ? came.about.deliveryId : null,
				from_name: came.fromName,
				from_address: came.fromAddress,
				message_key: came.messageKey,
				message_id: came.messageId
			}))
		)
	});
	const files = put.flatMap(({ id, came }) =>
		came.files.map((file) => ({ answer_id: id, ...file }))
	);
	if (files.length === 0) return;
	await tx.run(`INSERT INTO answer_file (${fileKeys.join(', ')}) SELECT * FROM ${fileSet.table}`, {
		rows: fileSet.json(files)
	});
}
