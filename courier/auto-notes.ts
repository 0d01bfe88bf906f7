import { joinPhrases, type JoinPhrases } from '../src/lib/core/copy/join-phrases';
import { talkPhrases, type TalkPhrases } from '../src/lib/core/copy/talk-phrases';
import { fillPhrase } from '../src/lib/core/copy/phrases';
import type { WayOut } from '../src/lib/core/roster/way';
import { retryAt } from '../src/lib/core/time/retry';
import {
	addressFor,
	copyToken,
	joinToken,
	messageId,
	personToken,
	textReference
} from '../src/lib/server/access/tokens';
import { now } from '../src/lib/server/clock';
import { readDistrict, type District } from '../src/lib/server/db/district';
import type { JoinNoteKind } from '../src/lib/server/db/models/joining';
import { autoNote, type AutoNoteRow, type TalkNoteKind } from '../src/lib/server/db/models/talk';
import type { Query } from '../src/lib/server/db/open';
import { saidText, type Outcome } from '../src/lib/server/gateway/outcome';
import { letterOf, type Said } from './auto-said';
import type { House } from './house';
import { isComing, saidToInvited } from './invited-note';

/** What is said to somebody by itself, with all it is said with. */
type Waiting = Pick<
	AutoNoteRow,
	| 'id'
	| 'kind'
	| 'way'
	| 'address'
	| 'name'
	| 'language'
	| 'words'
	| 'attempts'
	| 'answers'
	| 'nonce'
> & {
	/** Of whoever joins: their row, and the group. */
	readonly joiningId: number | null;
	readonly joiningNonce: string | null;
	readonly joinName: string | null;
	readonly group: string | null;
	readonly code: string | null;
	/** What it answers, the copy whose link it bears, and who answers there. */
	readonly subject: string | null;
	readonly copyNonce: string | null;
	readonly handler: string | null;
	/** Of the link of their own. */
	readonly linkNonce: string | null;
	/** The copy whose link it bears, the answer to an invitation that it is about, and the guest from outside. */
	readonly deliveryId: number | null;
	readonly comingId: number | null;
	readonly guestId: number | null;
};

const atOnce = 50;

/** When the next of what is said by itself is due (job's clock, ms); null where nothing is. */
export async function nextAutoNote(db: Query, way: WayOut): Promise<number | null> {
	const row = await db.one<{ at: number | null }>(
		`SELECT min(due_at) AS at FROM auto_note WHERE state = 'waiting' AND way = $way`,
		{ way }
	);
	return row?.at ?? null;
}

const joinText = {
	'ask-name': 'askName',
	ask: 'askCode',
	welcome: 'welcome',
	invite: 'askCode',
	removed: 'removed',
	over: 'over'
} as const satisfies Record<JoinNoteKind, keyof JoinPhrases>;

const joinLetter = {
	'ask-name': ['askSubject', 'ask'],
	ask: ['askSubject', 'ask'],
	welcome: ['welcomeSubject', 'welcomeMail'],
	invite: ['inviteSubject', 'invite'],
	removed: ['askSubject', 'removed'],
	over: ['askSubject', 'over']
} as const satisfies Record<JoinNoteKind, readonly (keyof JoinPhrases)[]>;

const isJoining = (kind: Waiting['kind']): kind is JoinNoteKind => kind in joinText;

/** What is said to whoever joins a group. */
function saidToJoiner(home: House, district: District, note: Waiting, kind: JoinNoteKind): Said {
	const words = joinPhrases(note.language);
	const parts = {
		...{ group: note.group ?? '', district: district.name, name: note.joinName ?? '' },
		...{ code: note.code ?? '', to: note.address }
	};
	const [subject, letter] = joinLetter[kind];
	const token = joinToken(home.key, { id: note.joiningId!, nonce: note.joiningNonce! });
	return {
		tag: words.tag,
		text: fillPhrase(words[joinText[kind]], parts),
		subject: fillPhrase(words[subject], parts),
		letter: fillPhrase(words[letter], parts),
		page:
			kind === 'removed' || kind === 'over'
				? null
				: { words: words.page, href: `${home.settings.publicUrl}/join/me/${token}` }
	};
}

const talkText = {
	stopped: 'stopped',
	started: 'started',
	help: 'help',
	'ask-texts': 'askTexts',
	'one-way': 'oneWay',
	away: 'away',
	link: 'link'
} as const satisfies Record<TalkNoteKind, keyof TalkPhrases>;

/** What is said to whoever has answered. */
function saidToFamily(home: House, district: District, note: Waiting, kind: TalkNoteKind): Said {
	const { settings, key } = home;
	const words = talkPhrases(note.language);
	const token =
		note.linkNonce !== null
			? personToken(key, note.linkNonce)
			: note.copyNonce === null
				? null
				: copyToken(key, note.copyNonce);
	const own = token === null ? null : `${settings.publicUrl}/f/${token}`;
	const parts = {
		...{ district: district.name, subject: note.subject ?? '', name: note.handler ?? '' },
		...{
			words: note.words,
			page: `${settings.publicUrl}/in`,
			link: own ?? `${settings.publicUrl}/in`
		}
	};
	const said = fillPhrase(words[talkText[kind]], parts);
	const text = kind === 'one-way' ? `${said} ${district.oneWayWords}`.trim() : said;
	return {
		tag: words.tag,
		...{ text, letter: text, page: null },
		subject: fillPhrase(
			kind === 'away'
				? words.awaySubject
				: kind === 'link'
					? words.linkSubject
					: words.oneWaySubject,
			parts
		)
	};
}

async function send(home: House, district: District, note: Waiting): Promise<Outcome> {
	const { settings, key, mail, text } = home;
	const { kind } = note;
	const said = isJoining(kind)
		? saidToJoiner(home, district, note, kind)
		: isComing(kind)
			? await saidToInvited(home, district, { ...note, kind })
			: saidToFamily(home, district, note, kind);
	// What it was about is gone, and with it what there was to say.
	if (said === null)
		return { kind: 'refused', detail: 'what it was about is gone', addressFault: null };
	if (note.way === 'text')
		return text.send({
			to: note.address,
			from: district.textFrom,
			text: said.text,
			reference: textReference(note.nonce)
		});
	return mail.send({
		messageId: messageId(key, 'join', note, settings.returnDomain),
		date: new Date(await now(home.db)),
		from: { name: district.name, address: district.mailFrom },
		replyTo: null,
		to: { name: note.joinName ?? note.name, address: note.address },
		returnAddress: addressFor(key, 'join', note, settings.returnDomain),
		subject: said.subject,
		...letterOf(said),
		...{ pictures: [], attached: [], stopLink: null, automatic: true, answers: note.answers }
	});
}

/** What becomes of a note by what its provider said. One that may have arrived is not said again. */
function afterwards(note: Waiting, outcome: Outcome, at: number): Partial<AutoNoteRow> | null {
	const attempts = note.attempts + 1;
	switch (outcome.kind) {
		case 'unavailable':
			return null;
		case 'accepted':
			return { state: 'sent', detail: saidText(outcome), attempts };
		case 'unanswered':
			return { state: 'sent', detail: `no answer: ${outcome.why}`, attempts };
		case 'refused':
			return { state: 'failed', detail: saidText(outcome), attempts };
		case 'deferred': {
			const next = retryAt(at, attempts);
			return {
				state: next === null ? 'failed' : 'waiting',
				...{ detail: saidText(outcome), dueAt: next ?? at, attempts }
			};
		}
	}
}

/** Says by one way what waits to be said by itself: where its provider is away or slow all of it waits on, and the other way goes on. How much was said. */
export async function sendAutoNotes(home: House, way: WayOut): Promise<number> {
	const { db, me } = home;
	if (!(await me.holds(db))) return 0;
	const waiting = await db.all<Waiting>(
		`SELECT auto_note.id, auto_note.kind, auto_note.way, auto_note.address, auto_note.name, auto_note.language, auto_note.words,
			auto_note.attempts, answers, auto_note.nonce, joining.id AS joiningId, joining.nonce AS joiningNonce, joining.name AS joinName,
			school_group.name AS "group", code, delivery.nonce AS copyNonce,
			coalesce(dispatch.subject, conversation.subject) AS subject, handler.given_name || ' ' || handler.family_name AS handler,
			family_link.nonce AS linkNonce, auto_note.delivery_id AS deliveryId, coming_id AS comingId, guest_id AS guestId
		FROM auto_note LEFT JOIN joining ON joining.id = joining_id LEFT JOIN school_group ON school_group.id = group_id
		LEFT JOIN conversation ON conversation.id = conversation_id LEFT JOIN dispatch ON dispatch.id = conversation.dispatch_id
		LEFT JOIN person AS handler ON handler.id = handler_id LEFT JOIN delivery ON delivery.id = auto_note.delivery_id
		LEFT JOIN family_link ON family_link.id = auto_note.link_id
		WHERE auto_note.state = 'waiting' AND auto_note.due_at <= $time AND auto_note.way = $way
		ORDER BY auto_note.id LIMIT ${atOnce}`,
		{ time: await now(db), way }
	);
	if (waiting.length === 0) return 0;
	const district = await readDistrict(db);
	let said = 0;
	for (const note of waiting) {
		const outcome = await send(home, district, note);
		const next = afterwards(note, outcome, Math.round(await now(db)));
		if (next === null) break;
		await db.rows(autoNote).change({ id: note.id, state: 'waiting' }, next);
		said += 1;
	}
	return said;
}
