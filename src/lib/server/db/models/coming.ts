import type { ComingHow } from '../../../core/talk/invitation';
import { flag, instant, json, nonce, text, whole } from './column';
import { table, type Row } from './table';

export const comingGuest = table(
	'coming_guest',
	'Somebody from outside who wants to come, by the link of an invitation that is open to anybody.',
	{
		id: whole().neverTwice(),
		dispatchId: whole().of('dispatch', 'CASCADE'),
		name: text(),
		address: text(),
		/** The same for every spelling of one mailbox: each has one row at an invitation. */
		addressKey: text(),
		language: text(),
		askedAt: instant(),
		/** When they said by the link in the letter that it was they; nothing before: then they have no places. */
		confirmedAt: instant().orNull(),
		/** What they said that is to hold once they have. */
		wanted: json(),
		nonce: nonce()
	}
);
export const coming = table(
	'coming',
	'What a household, a person who lives in none, or somebody from outside says to an invitation.',
	{
		id: whole().neverTwice(),
		dispatchId: whole().of('dispatch', 'CASCADE'),
		householdId: whole().of('household').orNull(),
		personId: whole().of('person').orNull(),
		guestId: whole().of('coming_guest', 'CASCADE').orNull(),
		comes: flag(),
		/** How many come, and how many of them are students; nothing where nobody has said. */
		people: whole(),
		students: whole().orNull(),
		/** To which of the times; 0 where there is one for all. */
		slot: whole(),
		/** Their turn in line. */
		turn: whole(),
		/** Whether they have their places, or wait for them. */
		seated: flag(),
		at: instant(),
		/** Who said it; nothing where somebody from outside did. */
		byId: whole().of('person').orNull(),
		how: text<ComingHow>()
	}
);
export const comingSaid = table(
	'coming_said',
	'Each thing that was said to an invitation, and each move up from the line: what holds is the last.',
	{
		id: whole().neverTwice(),
		comingId: whole().of('coming', 'CASCADE'),
		at: instant(),
		how: text<ComingHow | 'moved-up'>(),
		byId: whole().of('person').orNull(),
		comes: flag(),
		people: whole(),
		students: whole().orNull(),
		slot: whole(),
		seated: flag()
	}
);
export const invitationLink = table(
	'invitation_link',
	'The link by which anybody can say that they come, until somebody ends it.',
	{
		dispatchId: whole().key().of('dispatch', 'CASCADE'),
		nonce: nonce(),
		endedAt: instant().orNull()
	}
);

/** What is said by itself of an invitation: that places were taken, that they moved up, that a time is to be chosen on the page, and the letter to whoever asks from outside. */
export type ComingNoteKind = 'coming-taken' | 'coming-up' | 'coming-choose' | 'coming-ask';

export type InvitationLinkRow = Row<typeof invitationLink>;
export type ComingRow = Row<typeof coming>;
export type ComingGuestRow = Row<typeof comingGuest>;
