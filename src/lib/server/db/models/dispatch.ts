import type { DispatchKind } from '../../../core/roster/types';
import type { CoverRule } from '../../../core/track/coverage';
import type { Way } from '../../../core/roster/way';
import { flag, instant, json, nonce, text, whole } from './column';
import { table, type Row } from './table';

export const dispatch = table(
	'dispatch',
	'A sheet: what is said to whom and when, from draft to sent.',
	{
		id: whole().neverTwice(),
		sheetKey: text().once(),
		subject: text(),
		body: text(),
		audience: json(),
		audienceWords: text(),
		ways: json(),
		holdMinutes: whole(),
		senderId: whole().of('person'),
		schoolId: whole().of('school').orNull(),
		state: text<'draft' | 'scheduled' | 'sent'>(),
		changedAt: instant(),
		scheduledAt: instant().orNull(),
		leavesAt: instant().orNull(),
		sentAt: instant().orNull(),
		/** An answer of ours to what a family wrote is one too: with copies, evidence and a hold, and in no list of dispatches. */
		kind: text<DispatchKind | 'answer'>().usually('message'),
		handling: json().usually('{}'),
		wording: json().usually(''),
		letter: json().usually('{}'),
		board: json().usually('{}'),
		timing: json().usually('{}'),
		endsAt: instant().orNull(),
		settled: flag().usually(1),
		plan: whole().usually(0),
		waits: text().orNull(),
		roundId: whole().of('round').orNull(),
		roundKey: text().orNull(),
		ownTime: flag().usually(0),
		changedBy: whole().of('person').orNull(),
		expected: json().usually('{}'),
		evidence: whole().usually(0),
		cover: text<CoverRule>().usually('adult'),
		turns: json().usually('[]'),
		chases: whole().of('dispatch', 'SET NULL').orNull(),
		reportedAt: instant().orNull(),
		written: flag().usually(0),
		waitsCode: text().orNull(),
		urgentBy: whole().of('person').orNull(),
		urgentAt: instant().orNull(),
		/** Whether it goes, being urgent, also to those who have declined its kind. */
		passesOver: flag().usually(0),
		lastDue: instant().orNull(),
		/** What its readers are asked, where it invites them. */
		invitation: json().usually('null'),
		/** The earlier invitation that its answers go to. */
		aboutId: whole().of('dispatch', 'SET NULL').orNull(),
		/** What it puts into the calendar. */
		event: json().usually('null'),
		/** By when how many are to know. */
		wanted: json().usually('{"days":1,"time":"07:00","share":90}')
	}
);
export const round = table(
	'round',
	'One wording for several dates: by a rule, or before and after an event.',
	{
		id: whole().numbered(),
		sheetKey: text().once(),
		timing: json(),
		eventId: whole().of('school_event').orNull(),
		madeBy: whole().of('person'),
		madeAt: instant(),
		leftOut: json().orNull()
	}
);
export const standing = table(
	'standing',
	'A sheet that leaves by itself until it ends: whenever a student gains a marker, or a feed has something new.',
	{
		id: whole().neverTwice(),
		sheetKey: text().once(),
		sheet: json(),
		subject: text(),
		audienceWords: text(),
		/** What it waits for; null where that is a feed. */
		markerId: whole().of('marker').orNull(),
		holdMinutes: whole(),
		endsAt: instant(),
		madeBy: whole().of('person'),
		madeAt: instant(),
		endedAt: instant().orNull(),
		endedBy: whole().of('person').orNull(),
		/** Why it does not leave, until somebody has answered. */
		waits: text().orNull(),
		/** How many students it may still come to, and with how many copies, as last counted. */
		expected: json()
	}
);
export const gained = table(
	'gained',
	'A student who has gained the marker that a sheet waits for, each once.',
	{
		standingId: whole().key().of('standing'),
		studentId: whole().key().of('person'),
		at: instant(),
		/** When it was dealt with; nothing while it is held. */
		doneAt: instant().orNull(),
		dispatchId: whole().of('dispatch', 'SET NULL').orNull(),
		/** Why nothing left for them. */
		why: text().orNull()
	}
);
export const dispatchMark = table(
	'dispatch_mark',
	'What copies of a dispatch say of a student’s marker, as it was when they were planned.',
	{
		dispatchId: whole().key().of('dispatch', 'CASCADE'),
		markerId: whole().key().of('marker'),
		studentId: whole().key().of('person'),
		value: text()
	}
);
export const dispatchStudent = table(
	'dispatch_student',
	'A student of a dispatch as planned, with the section that brought them in.',
	{
		dispatchId: whole().key().of('dispatch', 'CASCADE'),
		studentId: whole().key().of('person'),
		sectionId: whole().of('section').orNull()
	}
);
export const takenOut = table(
	'taken_out',
	'A student taken out again: by a line of the audience, or by hand.',
	{
		dispatchId: whole().key().of('dispatch', 'CASCADE'),
		studentId: whole().key().of('person'),
		line: whole().orNull()
	}
);
export const leftOut = table('left_out', 'A person without a copy for some students, and why.', {
	id: whole().neverTwice(),
	dispatchId: whole().of('dispatch', 'CASCADE'),
	personId: whole().of('person'),
	reasons: json(),
	reached: flag().usually(0)
});
export const leftOutStudent = table(
	'left_out_student',
	'For which students a person was left out.',
	{
		leftOutId: whole().key().of('left_out', 'CASCADE'),
		studentId: whole().key().of('person')
	}
);
export const file = table(
	'file',
	'What was put on a sheet; its content lies beside the database under its hash (SHA-256).',
	{
		id: whole().neverTwice(),
		hash: text(),
		name: text(),
		type: text(),
		bytes: whole(),
		width: whole().orNull(),
		height: whole().orNull(),
		ownerId: whole().of('person'),
		madeAt: instant()
	}
);
export const dispatchFile = table(
	'dispatch_file',
	'What a sent dispatch shows or hands out: who may read it may open these.',
	{
		dispatchId: whole().key().of('dispatch', 'CASCADE'),
		fileId: whole().key().of('file')
	}
);
export const keptWording = table('kept_wording', 'A wording kept under a name, to be used again.', {
	id: whole().numbered(),
	name: text(),
	wording: json(),
	madeBy: whole().of('person'),
	madeAt: instant()
});
export const keptAudience = table(
	'kept_audience',
	'An audience kept under a name: as a rule, or as a fixed list. Given up, it stays, since dispatches name it.',
	{
		id: whole().numbered(),
		name: text(),
		form: text<'rule' | 'list'>(),
		audience: json(),
		words: text(),
		madeBy: whole().of('person'),
		madeAt: instant(),
		usedAt: instant(),
		goneAt: instant().orNull()
	}
);
export const keptPerson = table(
	'kept_person',
	'Who is on a fixed list, or what a rule came to when it was last used.',
	{
		keptId: whole().of('kept_audience', 'CASCADE'),
		personId: whole().of('person'),
		studentId: whole().of('person').orNull(),
		explicit: flag()
	}
);
export const proof = table('proof', 'A copy sent to its writer as one recipient would get it.', {
	id: whole().neverTwice(),
	userId: whole().of('person'),
	way: text<Way>(),
	address: text().orNull(),
	forName: text(),
	letter: json(),
	state: text<'waiting' | 'sent' | 'failed'>(),
	detail: text(),
	madeAt: instant(),
	nonce: nonce()
});

export type DispatchRow = Row<typeof dispatch>;
export type RoundRow = Row<typeof round>;
export type StandingRow = Row<typeof standing>;
export type DispatchMarkRow = Row<typeof dispatchMark>;
export type DispatchStudentRow = Row<typeof dispatchStudent>;
export type TakenOutRow = Row<typeof takenOut>;
export type LeftOutRow = Row<typeof leftOut>;
export type LeftOutStudentRow = Row<typeof leftOutStudent>;
export type KeptWordingRow = Row<typeof keptWording>;
export type KeptAudienceRow = Row<typeof keptAudience>;
export type KeptPersonRow = Row<typeof keptPerson>;
export type ProofRow = Row<typeof proof>;
