import { writeDown } from '../../access/log';
import { z } from 'zod';
import { putAside, settled, type AsideFault, type Standing } from '../../../core/talk/conversation';
import { isAllowed, scope } from '../../access/may';
import type { User } from '../../access/user';
import { userById } from '../../access/user';
import { now } from '../../clock';
import {
	conversation,
	conversationAct,
	conversationGuest,
	type ConversationAct
} from '../../db/models/talk';
import type { Db, Query } from '../../db/open';
import { putNotices } from '../staff/notices';

/** What was done, or why not. */
export type Done =
	{ readonly ok: true; readonly n: number } | { readonly ok: false; readonly why: string };

const gone = {
	ok: false,
	why: 'This conversation is not here (any more), or is not yours to see. Load the page again.'
} as const;

const readsOnly = {
	ok: false,
	why: 'You may read what families write and not answer. Pass it on to somebody who may.'
} as const;

export const idsSchema = z
	.array(z.number().int().positive())
	.min(1)
	.max(2000, '2,000 at most are settled at once.');

/** Those of some conversations that a user may see, with how they stand. */
async function seenBy(tx: Query, user: User, ids: readonly number[]) {
	const seen = scope(user).conversations;
	return tx.all<
		Omit<Standing, 'unread'> & { id: number; handlerId: number | null; unread: number }
	>(
		`SELECT conversation.id, state, aside_until AS asideUntil, since, unread, handler_id AS handlerId
		FROM conversation WHERE conversation.id IN (SELECT value FROM json_each($ids)) AND ${seen.sql}`,
		{ ids: JSON.stringify(ids), ...seen.bind }
	);
}

/** Writes down what was done to conversations, and who did it (null: by itself). */
export async function putActs(
	tx: Query,
	ids: readonly number[],
	act: ConversationAct,
	byId: number | null,
	at: number,
	what: Readonly<Record<string, number | string>> = {}
): Promise<void> {
	await tx
		.rows(conversationAct)
		.addMany(
			ids.map((conversationId) => ({ conversationId, at, byId, act, what: JSON.stringify(what) }))
		);
}

/** Says of conversations that nothing more is to be done. */
export async function settle(db: Db, user: User, ids: readonly number[]): Promise<Done> {
	if (!isAllowed(user, 'answer')) return readsOnly;
	return db.write(async (tx) => {
		const rows = (await seenBy(tx, user, ids)).filter((r) => r.state !== 'settled');
		const at = Math.round(await now(tx));
		const open = rows.map((r) => r.id);
		await tx.run(
			`UPDATE conversation SET state = $state, state_at = $at, aside_until = NULL, since = NULL, unread = 0, alike = NULL
			WHERE id IN (SELECT value FROM json_each($open))`,
			{ state: settled.state, at, open: JSON.stringify(open) }
		);
		await putActs(tx, open, 'settled', user.personId, at);
		return { ok: true, n: open.length };
	});
}

/** Lets a settled conversation, or one put aside, wait again. */
export async function waitAgain(db: Db, user: User, id: number): Promise<Done> {
	if (!isAllowed(user, 'answer')) return readsOnly;
	return db.write(async (tx) => {
		const [row] = await seenBy(tx, user, [id]);
		if (!row) return gone;
		const at = Math.round(await now(tx));
		await tx
			.rows(conversation)
			.change({ id }, { state: 'waiting', stateAt: at, asideUntil: null, since: row.since ?? at });
		await putActs(tx, [id], 'waits-again', user.personId, at);
		return { ok: true, n: 1 };
	});
}

const faults: Readonly<Record<AsideFault, string>> = {
	past: 'That time has passed. Say a later one.',
	'too-far': 'That is over half a year ahead. Say an earlier time, or settle it.'
};

/** Puts a conversation aside until a time (instant, ms): then it waits again. */
export async function aside(db: Db, user: User, id: number, until: number): Promise<Done> {
	if (!isAllowed(user, 'answer')) return readsOnly;
	return db.write(async (tx) => {
		const [row] = await seenBy(tx, user, [id]);
		if (!row) return gone;
		const at = Math.round(await now(tx));
		const put = putAside({ ...row, unread: row.unread === 1 }, until, at);
		if (!put.ok) return { ok: false, why: faults[put.why] };
		await tx
			.rows(conversation)
			.change(
				{ id },
				{ state: 'aside', stateAt: at, asideUntil: until, since: row.since ?? at, unread: 0 }
			);
		await putActs(tx, [id], 'aside', user.personId, at, { until });
		return { ok: true, n: 1 };
	});
}

/** Whether a user answers in a conversation: it is theirs, or was passed on to them. Who only looks after others reads it without changing what is new to them. */
async function answersHere(tx: Query, user: User, id: number): Promise<boolean> {
	return (
		(await tx.one(
			`SELECT 1 FROM conversation WHERE id = $id AND (handler_id = $me OR handler_id IS NULL
				OR EXISTS (SELECT 1 FROM conversation_guest WHERE conversation_id = $id AND person_id = $me))`,
			{ id, me: user.personId }
		)) !== undefined
	);
}

/** Notes that somebody who answers here has looked at it. */
export async function looked(db: Db, user: User, id: number): Promise<void> {
	const row = await db.rows(conversation).one({ id }, ['unread']);
	if (!row?.unread) return;
	await db.write(async (tx) => {
		if (await answersHere(tx, user, id)) await tx.rows(conversation).change({ id }, { unread: 0 });
	});
}

/** Marks it as not looked at. */
export async function markUnread(db: Db, user: User, id: number): Promise<Done> {
	return db.write(async (tx) => {
		const [row] = await seenBy(tx, user, [id]);
		if (!row) return gone;
		await tx.rows(conversation).change({ id }, { unread: 1 });
		await putActs(tx, [id], 'unread', user.personId, Math.round(await now(tx)));
		return { ok: true, n: 1 };
	});
}

/** Whether a conversation is a user's to pass on: one that was only passed on to them is not. */
async function isByRight(tx: Query, user: User, id: number): Promise<boolean> {
	const own = scope(user).conversationsByRight;
	return (
		(await tx.one(`SELECT 1 FROM conversation WHERE conversation.id = $id AND ${own.sql}`, {
			id,
			...own.bind
		})) !== undefined
	);
}

const onlyPassedOn = {
	ok: false,
	why: 'It was passed on to you: whoever did can pass it on to somebody else.'
} as const;

/** Passes one conversation on to a colleague, who may then see this one and no more. Only whoever sees it by right passes it on. */
export async function passOn(db: Db, user: User, id: number, colleagueId: number): Promise<Done> {
	return db.write(async (tx) => {
		const [row] = await seenBy(tx, user, [id]);
		if (!row) return gone;
		if (!(await isByRight(tx, user, id))) return onlyPassedOn;
		const colleague = await userById(tx, colleagueId);
		if (!colleague)
			return { ok: false, why: 'That person does not sign in here. Choose a colleague who does.' };
		if (colleagueId === user.personId) return { ok: false, why: 'It is with you already.' };
		const at = Math.round(await now(tx));
		await tx
			.rows(conversationGuest)
			.addMany([{ conversationId: id, personId: colleagueId, byId: user.personId, at }], 'keep');
		await tx.rows(conversation).change({ id }, { unread: 1 });
		await tellOfPassing(tx, { id, colleagueId, by: user.name });
		await putActs(tx, [id], 'passed-on', user.personId, at, { personId: colleagueId });
		await writeDown(tx, {
			...{ act: 'conversation-passed-on', by: user, to: ['conversation', id] },
			after: { to: colleagueId }
		});
		return { ok: true, n: 1 };
	});
}

/** Tells a colleague that a conversation is with them now, with what waits in it. */
async function tellOfPassing(
	tx: Query,
	{
		id,
		colleagueId,
		by
	}: { readonly id: number; readonly colleagueId: number; readonly by: string }
): Promise<void> {
	const row = (await tx.one<{ who: string | null; subject: string; words: string }>(
		`SELECT coalesce(given_name || ' ' || family_name, number) AS who,
			coalesce(nullif(conversation.subject, ''), dispatch.subject, '') AS subject,
			coalesce((SELECT group_concat(text, char(10) || char(10)) FROM (SELECT text FROM answer
				WHERE conversation_id = conversation.id ORDER BY answer.id DESC LIMIT 3)), '') AS words
		FROM conversation LEFT JOIN person ON person.id = conversation.person_id
		LEFT JOIN dispatch ON dispatch.id = dispatch_id WHERE conversation.id = $id`,
		{ id }
	))!;
	await putNotices(tx, [
		{
			key: `passed ${id} ${colleagueId} ${await now(tx)}`,
			personId: colleagueId,
			kind: 'answer',
			subject: `Passed on to you: ${row.subject}`,
			text: [
				`${by} has passed on to you what ${row.who} wrote about “${row.subject}”:`,
				row.words,
				'It stands in Replies; you see this one conversation and no other. What you answer to this letter goes to the family from the school’s address, without your own.'
			].join('\n\n'),
			conversationId: id,
			dispatchId: null,
			byMail: true
		}
	]);
}

/** Takes a conversation back from a colleague it was passed on to. */
export async function takeBackFrom(
	db: Db,
	user: User,
	id: number,
	colleagueId: number
): Promise<Done> {
	return db.write(async (tx) => {
		const [row] = await seenBy(tx, user, [id]);
		if (!row) return gone;
		if (colleagueId !== user.personId && !(await isByRight(tx, user, id))) return onlyPassedOn;
		await tx.rows(conversationGuest).remove({ conversationId: id, personId: colleagueId });
		await putActs(tx, [id], 'taken-over', user.personId, Math.round(await now(tx)), {
			personId: colleagueId
		});
		return { ok: true, n: 1 };
	});
}
