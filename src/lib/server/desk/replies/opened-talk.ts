import { bodyText } from '../../../core/copy/plain';
import { nameOfLanguage } from '../../../core/copy/language';
import { wordingSchema, wordsFor } from '../../../core/copy/words';
import { groupBy } from '../../../core/group-by';
import type { Way } from '../../../core/roster/way';
import { stateAt, type ConversationState } from '../../../core/talk/conversation';
import type { Doubt } from '../../../core/track/auto-answer';
import type { DeliveryState, Strength } from '../../../core/track/evidence';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { touched } from '../../db/copy-state';
import type { TalkKey } from '../../live/talk';
import type { ConversationAct } from '../../db/models/talk';
import type { Query } from '../../db/open';
import { quietUntil } from './answer-targets';
import { othersMeant } from './others-meant';
import type { AnswerFileLine, OpenedTalk, TalkLine } from './types';
import { waysBack } from './ways-back';

/** Pictures that every browser shows; of others only the name stands there. */
const shown = new Set(['image/png', 'image/jpeg', 'image/gif', 'image/webp']);

interface Head {
	readonly id: number;
	readonly dispatchId: number | null;
	readonly personId: number | null;
	readonly name: string | null;
	readonly language: string | null;
	readonly number: string | null;
	readonly state: ConversationState;
	readonly asideUntil: number | null;
	readonly handlerId: number | null;
}

/** A conversation that a user may see, as far as every act on it needs it. */
async function talkHead(db: Query, user: User, id: number): Promise<Head | undefined> {
	const seen = scope(user).conversations;
	return db.one<Head>(
		`SELECT conversation.id, dispatch_id AS dispatchId, conversation.person_id AS personId, number,
			given_name || ' ' || family_name AS name, language, conversation.state, aside_until AS asideUntil,
			handler_id AS handlerId
		FROM conversation LEFT JOIN person ON person.id = conversation.person_id
		WHERE conversation.id = $id AND ${seen.sql}`,
		{ id, ...seen.bind }
	);
}

/** What names a conversation for both sides; null where there is none that the user may see. */
export async function talkKey(db: Query, user: User, id: number): Promise<TalkKey | null> {
	const talk = await talkHead(db, user, id);
	if (!talk) return null;
	return talk.dispatchId === null || talk.personId === null
		? `c${id}`
		: `d${talk.dispatchId} p${talk.personId}`;
}

/** Others that are named beside an answer. */
const mostNamed = 3;

async function familyLines(db: Query, user: User, talk: Head): Promise<TalkLine[]> {
	const answers = await db.all<{
		id: number;
		at: number;
		way: Way;
		fromName: string;
		fromAddress: string;
		known: number;
		text: string;
		whole: string;
		doubt: Doubt | null;
		translated: string | null;
	}>(
		`SELECT id, at, way, from_name AS fromName, from_address AS fromAddress, known, text, whole, doubt, translated
		FROM answer WHERE conversation_id = $id ORDER BY id`,
		{ id: talk.id }
	);
	const files = groupBy(
		await db.all<
			Omit<AnswerFileLine, 'picture'> & { answerId: number; type: string; kept: number }
		>(
			`SELECT answer_file.id, answer_id AS answerId, name, bytes, type, width, height, why, hash IS NOT NULL AS kept
			FROM answer_file JOIN answer ON answer.id = answer_id WHERE conversation_id = $id ORDER BY answer_file.id`,
			{ id: talk.id }
		),
		(f) => f.answerId
	);
	const meant = await othersMeant(
		db,
		user,
		answers.map((a) => a.id)
	);
	return answers.map((a): TalkLine => ({
		...{ kind: 'family', id: a.id, at: a.at, way: a.way, words: a.text, whole: a.whole },
		...{ doubt: a.doubt, translated: a.translated },
		who: (a.known ? talk.name : a.fromName || a.fromAddress) ?? a.fromAddress,
		elsewhere: a.known || talk.personId === null ? null : a.fromAddress,
		files: (files.get(a.id) ?? []).map(({ id, name, bytes, type, width, height, why, kept }) => ({
			...{ id, name, bytes, width, height, why },
			picture: kept === 1 && shown.has(type)
		})),
		orAbout: (meant.get(a.id) ?? [])
			.slice(0, mostNamed)
			.map(({ dispatchId, subject }) => ({ dispatchId, subject }))
	}));
}

async function ourLines(db: Query, user: User, talk: Head): Promise<TalkLine[]> {
	const rows = await db.all<{
		id: number;
		dispatchId: number;
		at: number;
		way: Way;
		who: string;
		senderId: number;
		wording: string;
		state: DeliveryState;
		strength: Strength;
		stateAt: number;
		dueAt: number;
		why: string | null;
		files: string;
		held: number;
		copies: number;
	}>(
		`SELECT delivery.id, dispatch.id AS dispatchId, scheduled_at AS at, delivery.way, sender_id AS senderId, wording,
			given_name || ' ' || family_name AS who, delivery.state, strength, state_at AS stateAt, due_at AS dueAt,
			CASE WHEN delivery.state = 'failed' THEN (SELECT detail FROM event WHERE delivery_id = delivery.id
				AND kind IN ('failed', 'stopped') ORDER BY id DESC LIMIT 1) END AS why,
			(SELECT json_group_array(name) FROM dispatch_file JOIN file ON file.id = file_id
				WHERE dispatch_id = dispatch.id) AS files,
			NOT EXISTS (SELECT 1 FROM delivery WHERE dispatch_id = dispatch.id AND ${touched}) AS held,
			(SELECT count(*) FROM delivery WHERE dispatch_id = dispatch.id) AS copies
		FROM conversation_copy JOIN delivery ON delivery.id = delivery_id JOIN dispatch ON dispatch.id = dispatch_id
		JOIN person ON person.id = sender_id WHERE conversation_id = $id ORDER BY delivery.id`,
		{ id: talk.id }
	);
	return rows.map((r): TalkLine => {
		const wording = wordingSchema.parse(JSON.parse(r.wording));
		const sent = wordsFor(wording, talk.language ?? wording.language);
		return {
			...{ kind: 'ours', id: r.id, dispatchId: r.dispatchId, at: r.at, way: r.way, who: r.who },
			...{ state: r.state, strength: r.strength, stateAt: r.stateAt, dueAt: r.dueAt, why: r.why },
			mine: r.senderId === user.personId,
			words: bodyText(wording.words.body).trim(),
			sentAs: sent.variant ? bodyText(sent.words.body).trim() : null,
			files: JSON.parse(r.files) as string[],
			held: r.held === 1,
			copies: r.copies
		};
	});
}

async function actLines(db: Query, talk: Head): Promise<TalkLine[]> {
	const rows = await db.all<{
		id: number;
		at: number;
		act: ConversationAct;
		by: string | null;
		to: string | null;
		until: number | null;
	}>(
		`SELECT conversation_act.id, at, act, by.given_name || ' ' || by.family_name AS by,
			coalesce(guest.given_name || ' ' || guest.family_name, what ->> '$.address') AS "to", what ->> '$.until' AS until
		FROM conversation_act LEFT JOIN person AS by ON by.id = by_id
		LEFT JOIN person AS guest ON guest.id = what ->> '$.personId'
		WHERE conversation_id = $id ORDER BY conversation_act.id`,
		{ id: talk.id }
	);
	return rows.map((r) => ({ kind: 'act', ...r }));
}

/** One conversation with all its lines in the order of their time; null where there is none that the user may see. */
export async function openedTalk(db: Query, user: User, id: number): Promise<OpenedTalk | null> {
	const talk = await talkHead(db, user, id);
	if (!talk) return null;
	const time = Math.round(await now(db));
	const lines = [
		...(await familyLines(db, user, talk)),
		...(await ourLines(db, user, talk)),
		...(await actLines(db, talk))
	].sort((a, b) => a.at - b.at);
	const back = (await waysBack(db, [id], time)).get(id)!;
	const quiet = await quietUntil(db, user, id, time);
	const guests = await db.all<{ id: number; name: string }>(
		`SELECT person.id, given_name || ' ' || family_name AS name FROM conversation_guest
		JOIN person ON person.id = person_id WHERE conversation_id = $id ORDER BY name`,
		{ id }
	);
	const language = talk.language === null || /^en\b/i.test(talk.language) ? null : talk.language;
	return {
		...{ id, asideUntil: talk.asideUntil, lines, guests, language, number: talk.number },
		state: stateAt({ ...talk, since: null, unread: false }, time),
		languageName: language === null ? null : nameOfLanguage(language),
		ways: back.ways.map(({ way, address }) => ({
			way,
			address,
			quietUntil: quiet.get(way) ?? null
		})),
		byGuest: talk.handlerId !== user.personId && guests.some((guest) => guest.id === user.personId)
	};
}
