import type { WayOut } from '../../../core/roster/way';
import { flag, instant, nonce, text, whole } from './column';
import { table, type Row } from './table';

/** How somebody came to ask: from a phone, by a letter, on our page, by an invitation; or that the office put them in with cards. */
export type JoinHow = 'text' | 'mail' | 'link' | 'invited' | 'cards';

export const joining = table(
	'joining',
	'Who was invited to an open group or asked to join it, by which address, and what became of it.',
	{
		id: whole().neverTwice(),
		groupId: whole().of('school_group'),
		way: text<WayOut>(),
		address: text(),
		/** The same for every spelling of one mailbox or phone: each has one row in a group. */
		addressKey: text(),
		how: text<JoinHow>(),
		/** `left` by themselves, who may come again; `removed` by the office, who may not without it. */
		state: text<'invited' | 'asked' | 'in' | 'left' | 'removed'>(),
		/** As they said it. */
		name: text().usually(''),
		studentSaid: text().usually(''),
		/** The office has said that they are not there for the student they named. */
		claimRefused: flag().usually(0),
		/** The student they are there for, once the office has said so. */
		studentId: whole().of('person').orNull(),
		language: text(),
		askedAt: instant(),
		joinedAt: instant().orNull(),
		endedAt: instant().orNull(),
		/** Who invited them; who took them out. */
		byId: whole().of('person').orNull(),
		personId: whole().of('person').orNull(),
		/** They are on file only since they joined. */
		madePerson: flag().usually(0),
		nonce: nonce()
	}
);

/** What is said to somebody who joins. */
export type JoinNoteKind = 'ask-name' | 'ask' | 'welcome' | 'invite' | 'removed' | 'over';

export type JoiningRow = Row<typeof joining>;
