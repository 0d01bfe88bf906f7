import { day, flag, instant, json, text, whole } from './column';
import { table, type Row } from './table';

export const closure = table(
	'closure',
	'Days without school, of one school or of all; its last day is not in it.',
	{
		id: whole().numbered(),
		uid: text().once(),
		schoolId: whole().of('school').orNull(),
		name: text(),
		startsOn: day(),
		endsOn: day(),
		/** How often it was changed; counted by the database. */
		sequence: whole().usually(0),
		changedAt: instant().usually(0)
	}
);
export const closureGone = table(
	'closure_gone',
	'Days without school that were taken out again: those who follow a calendar are told.',
	{
		uid: text().key(),
		schoolId: whole().of('school').orNull(),
		name: text(),
		startsOn: day(),
		endsOn: day(),
		sequence: whole(),
		changedAt: instant()
	}
);
export const schoolEvent = table(
	'school_event',
	'What happens at a school, and what dispatches may hang on.',
	{
		id: whole().numbered(),
		uid: text().once(),
		title: text(),
		startsLocal: text(),
		endsLocal: text(),
		allDay: flag(),
		startsAt: instant(),
		endsAt: instant(),
		place: text(),
		schoolIds: json(),
		sectionIds: json(),
		state: text<'on' | 'called-off'>(),
		madeBy: whole().of('person'),
		changedAt: instant(),
		/** How often it was changed; counted by the database. */
		sequence: whole().usually(0),
		/** The dispatch it was put into the calendar with: it is shown outside from when that leaves. */
		dispatchId: whole().of('dispatch', 'SET NULL').orNull()
	}
);
export const schoolOwn = table(
	'school_own',
	'What a school has of its own: about time, and whether anybody may open its boards; null where it keeps to the district’s.',
	{
		schoolId: whole().key().of('school'),
		zone: text().orNull(),
		quiet: json().orNull(),
		marks: json().orNull(),
		openBoards: flag().orNull()
	}
);

export type ClosureRow = Row<typeof closure>;
export type SchoolEventRow = Row<typeof schoolEvent>;
export type SchoolOwnRow = Row<typeof schoolOwn>;
