import type { TextDid } from '../../../core/talk/keyword';
import type { Way } from '../../../core/roster/way';
import type { DeliveryState, EventKind, Source, Strength } from '../../../core/track/evidence';
import type { HappeningCode } from '../../../core/track/happening-code';
import type { MachineSign } from '../../../core/track/visitor';
import { flag, instant, nonce, text, whole } from './column';
import { table, type Row } from './table';

export const delivery = table(
	'delivery',
	'One copy for one person by one way, with its state as its events make it.',
	{
		id: whole().neverTwice(),
		dispatchId: whole().of('dispatch', 'CASCADE'),
		personId: whole().of('person'),
		way: text<Way>(),
		address: text().orNull(),
		state: text<DeliveryState>(),
		stateAt: instant(),
		dueAt: instant(),
		attempts: whole().usually(0),
		claimedBy: whole().orNull(),
		linkHash: text().once().orNull(),
		providerRef: text().orNull(),
		step: whole().usually(0),
		strength: text<Strength>().usually('none'),
		leftAt: instant().orNull(),
		readAt: instant().orNull(),
		unanswered: whole().usually(0),
		/** Of how many parts a text was as it left; nothing of other ways, and of texts from before it was kept. */
		parts: whole().orNull(),
		nonce: nonce(),
		/** Waits for its reader's daily digest. */
		inDigest: flag().usually(0),
		/** The letter in which it was handed over with others. */
		digestId: whole().of('digest').orNull()
	}
);
export const digest = table(
	'digest',
	'One letter that holds several copies for one person: their daily digest.',
	{
		id: whole().neverTwice(),
		personId: whole().of('person'),
		address: text(),
		at: instant(),
		nonce: nonce()
	}
);
export const deliveryStudent = table('delivery_student', 'For which students a copy is.', {
	deliveryId: whole().key().of('delivery', 'CASCADE'),
	studentId: whole().key().of('person')
});
export const deliveryAlso = table(
	'delivery_also',
	'Others who read at the same address and so got no copy of their own.',
	{
		deliveryId: whole().key().of('delivery', 'CASCADE'),
		personId: whole().key().of('person')
	}
);
export const event = table('event', 'What happened to one copy, as evidence: never rewritten.', {
	id: whole().neverTwice(),
	deliveryId: whole().of('delivery', 'CASCADE'),
	at: instant(),
	kind: text<EventKind>(),
	detail: text(),
	source: text<Source>().usually('courier'),
	strength: text<Strength>().usually('none'),
	visitor: text().orNull(),
	about: text().orNull(),
	code: text<HappeningCode>().orNull(),
	said: text().orNull(),
	tries: whole().orNull(),
	sign: text<MachineSign>().orNull()
});
export const returnedMail = table(
	'returned_mail',
	'What came back by mail about a copy: the words for people and the part for machines.',
	{
		id: whole().neverTwice(),
		deliveryId: whole().of('delivery', 'CASCADE'),
		at: instant(),
		code: text(),
		words: text(),
		machine: text(),
		lookedAt: instant().orNull()
	}
);
export const textIn = table(
	'text_in',
	'What phones sent that did something by itself: STOP, a code of a group.',
	{
		id: whole().neverTwice(),
		at: instant(),
		fromNumber: text(),
		toNumber: text(),
		words: text(),
		command: text<TextDid>().orNull(),
		personId: whole().of('person').orNull(),
		deliveryId: whole().of('delivery', 'SET NULL').orNull()
	}
);

export const textPart = table(
	'text_part',
	'Parts of longer texts from phones, until the others are there.',
	{
		id: whole().neverTwice(),
		fromNumber: text(),
		toNumber: text(),
		reference: whole(),
		ofParts: whole(),
		number: whole(),
		words: text(),
		at: instant(),
		/** Taken with all others; kept for a while, since an exchange may send it once more. */
		taken: flag().usually(0)
	}
);

export type DigestRow = Row<typeof digest>;
export type DeliveryRow = Row<typeof delivery>;
export type DeliveryStudentRow = Row<typeof deliveryStudent>;
export type DeliveryAlsoRow = Row<typeof deliveryAlso>;
export type EventRow = Row<typeof event>;
export type ReturnedMailRow = Row<typeof returnedMail>;
export type TextInRow = Row<typeof textIn>;
