import type { Way, WayOut } from '../../../core/roster/way';
import type { Likeness } from '../../../core/talk/alike-words';
import type { ConversationState } from '../../../core/talk/conversation';
import type { Doubt } from '../../../core/track/auto-answer';
import { flag, instant, json, nonce, text, whole } from './column';
import type { ComingNoteKind } from './coming';
import type { JoinNoteKind } from './joining';
import { table, type NewRow, type Row } from './table';

export const conversation = table(
	'conversation',
	'What one person and we say to each other: about a dispatch, begun by a family with a section, or from a number that nobody has.',
	{
		id: whole().neverTwice(),
		dispatchId: whole().of('dispatch', 'CASCADE').orNull(),
		personId: whole().of('person').orNull(),
		/** Of a phone that nobody has on file. */
		number: text().orNull(),
		sectionId: whole().of('section').orNull(),
		schoolId: whole().of('school').orNull(),
		/** Who answers: whoever sent the dispatch; nobody by name where a section’s staff does. */
		handlerId: whole().of('person').orNull(),
		/** What it is about, where a family began it. */
		subject: text().usually(''),
		state: text<ConversationState>(),
		stateAt: instant(),
		asideUntil: instant().orNull(),
		since: instant().orNull(),
		unread: flag(),
		/** What all that waits in it says alike with others; nothing where a word adds something. */
		alike: text<Likeness>().orNull(),
		/** By which way the family wrote last. */
		way: text<Way>(),
		lastAt: instant(),
		nonce: nonce()
	}
);
export const answer = table(
	'answer',
	'What a family wrote: an answer by any way; the same letter or text comes in once.',
	{
		id: whole().neverTwice(),
		conversationId: whole().of('conversation', 'CASCADE'),
		deliveryId: whole().of('delivery', 'SET NULL').orNull(),
		at: instant(),
		way: text<Way>(),
		fromName: text().usually(''),
		/** The mailbox or number it came from; empty where it was written on the family’s page. */
		fromAddress: text().usually(''),
		/** Whether that is on file for whoever the conversation is with. */
		known: flag(),
		subject: text().usually(''),
		text: text(),
		/** All of it as it came, with what is quoted; empty where that is the same. */
		whole: text().usually(''),
		messageKey: text(),
		messageId: text().orNull(),
		doubt: text<Doubt>().orNull(),
		/** A draft by the translator, and the language it is in. */
		translated: text().orNull(),
		translatedTo: text().orNull()
	}
);
export const answerFile = table('answer_file', 'A file or picture that came with an answer.', {
	id: whole().neverTwice(),
	answerId: whole().of('answer', 'CASCADE'),
	name: text(),
	type: text(),
	bytes: whole(),
	/** Under which its content lies; nothing where it was not kept, and then why. */
	hash: text().orNull(),
	width: whole().orNull(),
	height: whole().orNull(),
	why: text().orNull()
});
export const conversationCopy = table(
	'conversation_copy',
	'A copy that is an answer of ours, with the conversation in which it stands.',
	{
		deliveryId: whole().key().of('delivery', 'CASCADE'),
		conversationId: whole().of('conversation', 'CASCADE')
	}
);
export const conversationGuest = table(
	'conversation_guest',
	'A colleague to whom one conversation was passed on.',
	{
		conversationId: whole().key().of('conversation', 'CASCADE'),
		personId: whole().key().of('person'),
		byId: whole().of('person'),
		at: instant()
	}
);

/** What is done to a conversation beside writing in it. */
export const spokenTo = table(
	'spoken_to',
	'That somebody spoke to a family which nothing had reached: of a household, or of a student who lives in none.',
	{
		id: whole().neverTwice(),
		householdId: whole().of('household').orNull(),
		studentId: whole().of('person').orNull(),
		at: instant(),
		byId: whole().of('person').orNull(),
		/** What they wrote down of it; empty where nothing. */
		words: text()
	}
);

export type ConversationAct =
	| 'settled'
	| 'aside'
	| 'waits-again'
	| 'unread'
	| 'passed-on'
	| 'taken-over'
	| 'forwarded'
	| 'called-back'
	| 'by-a-person'
	| 'moved-here'
	| 'term-ended'
	| 'told-one-way'
	| 'told-away';

export const conversationAct = table(
	'conversation_act',
	'What was done to a conversation, by whom.',
	{
		id: whole().neverTwice(),
		conversationId: whole().of('conversation', 'CASCADE'),
		at: instant(),
		/** Nothing where it came about by itself. */
		byId: whole().of('person').orNull(),
		act: text<ConversationAct>(),
		/** To whom, until when: as data. */
		what: json().usually('{}')
	}
);

/** What is said to somebody by itself beside what {@link JoinNoteKind} says: STOP and START were obeyed, who writes, that nobody answers here, that somebody is away, whether texts are wanted at all, and the link that was asked for. */
export type TalkNoteKind =
	'stopped' | 'started' | 'help' | 'one-way' | 'away' | 'ask-texts' | 'link';

export const autoNote = table(
	'auto_note',
	'What is said to somebody by itself: to whoever joins an open group, and to whoever answered.',
	{
		id: whole().neverTwice(),
		kind: text<JoinNoteKind | TalkNoteKind | ComingNoteKind>(),
		way: text<WayOut>(),
		address: text(),
		name: text().usually(''),
		language: text(),
		joiningId: whole().of('joining').orNull(),
		conversationId: whole().of('conversation', 'CASCADE').orNull(),
		/** The copy whose link it bears. */
		deliveryId: whole().of('delivery', 'SET NULL').orNull(),
		/** The link of their own that it brings. */
		linkId: whole().of('family_link').orNull(),
		/** Words of whoever is away. */
		words: text().usually(''),
		madeAt: instant(),
		dueAt: instant(),
		state: text<'waiting' | 'sent' | 'failed'>(),
		attempts: whole().usually(0),
		detail: text().usually(''),
		/** Message-ID of the letter that it answers. */
		answers: text().orNull(),
		nonce: nonce(),
		/** What was said to an invitation, and who asked from outside. */
		comingId: whole().of('coming', 'SET NULL').orNull(),
		guestId: whole().of('coming_guest', 'SET NULL').orNull()
	}
);
export const away = table(
	'away',
	'When somebody is away, and what is said to whoever writes meanwhile.',
	{
		id: whole().neverTwice(),
		personId: whole().of('person'),
		startsAt: instant(),
		endsAt: instant(),
		words: text(),
		madeAt: instant(),
		/** Ended before its end. */
		endedAt: instant().orNull()
	}
);
export const awayTold = table('away_told', 'Who was told that somebody is away: once each.', {
	awayId: whole().key().of('away', 'CASCADE'),
	personId: whole().key().of('person'),
	at: instant()
});

export const sectionTalk = table(
	'section_talk',
	'Whether families may begin a conversation with the staff of a section, and when these read it.',
	{
		sectionId: whole().key().of('section'),
		open: flag(),
		/** In the staff's own words. */
		hours: text().usually('')
	}
);

export const liveFollow = table(
	'live_follow',
	'What was said while both were there, and goes by the family’s way where it was not seen.',
	{
		conversationId: whole().key().of('conversation', 'CASCADE'),
		senderId: whole().of('person'),
		/** From which on lines are looked at. */
		since: instant(),
		dueAt: instant()
	}
);

export type AutoNoteRow = Row<typeof autoNote>;
/** A note as it is put down: when it is said first is now where nothing else is said. */
export type NewNote = Omit<NewRow<typeof autoNote>, 'madeAt' | 'dueAt' | 'state'> & {
	readonly dueAt?: number;
};
export type AwayRow = Row<typeof away>;
export type ConversationRow = Row<typeof conversation>;
export type AnswerRow = Row<typeof answer>;
export type AnswerFileRow = Row<typeof answerFile>;
export type ConversationActRow = Row<typeof conversationAct>;
