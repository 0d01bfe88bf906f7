import type { BookFile } from '../../../core/format/oneroster/book';
import type { ThingKind } from '../../../core/roster/things';
import { day, flag, instant, json, share, text, whole } from './column';
import { table, type Row } from './table';

/** What kinds of sources there are. */
export const sourceKinds = ['oneroster', 'list'] as const;
export type SourceKind = (typeof sourceKinds)[number];

/**
 * How far a roster file is: it is coming, waits to be told what its columns are, is being looked at,
 * could be taken in; is being taken in, is
 * in, was taken back; cannot be read, or was given up.
 */
export type FileState =
	| 'coming'
	| 'columns'
	| 'looking'
	| 'looked'
	| 'taking'
	| 'taken'
	| 'taken-back'
	| 'refused'
	| 'given-up';

export const rosterSource = table(
	'roster_source',
	'Where rosters come from, and how its files are read.',
	{
		id: whole().neverTwice(),
		name: text().once(),
		kind: text<SourceKind>(),
		madeAt: instant(),
		/** What was said of custody, by relation. */
		custody: json().usually('{}'),
		/** The largest share of students, sections or enrolments that may change without being typed. */
		mostShare: share().usually(0.1),
		/** The folder that is watched for its files. */
		folder: text().orNull(),
		/** The day by which it was last worked out who is enrolled, and the next on which that changes. */
		appliedOn: day().orNull(),
		nextTurn: day().orNull()
	}
);
export const rosterLine = table(
	'roster_line',
	'What a source says of one thing: its newest line that came in.',
	{
		sourceId: whole().key().of('roster_source'),
		file: text<BookFile>().key(),
		key: text().key(),
		said: json()
	}
);
export const knownAs = table('known_as', 'Under which key a source knows a row of ours.', {
	sourceId: whole().key().of('roster_source'),
	kind: text<ThingKind>().key(),
	key: text().key(),
	rowId: whole()
});
export const rosterFile = table('roster_file', 'A roster file that came, and what became of it.', {
	id: whole().neverTwice(),
	sourceId: whole().of('roster_source'),
	name: text(),
	hash: text().orNull(),
	bytes: whole(),
	state: text<FileState>(),
	cameAt: instant(),
	/** Nobody, where it lay in the folder that is watched. */
	byId: whole().of('person').orNull(),
	/** What looking at it came to. */
	looked: json().orNull(),
	why: text().orNull(),
	custody: json().usually('{}'),
	changedAt: instant(),
	takenAt: instant().orNull(),
	takenBy: whole().of('person').orNull(),
	backAt: instant().orNull(),
	backBy: whole().of('person').orNull(),
	/** Of a contact list: its heading, and what each column is. */
	columns: json().orNull()
});
export const listHeading = table(
	'list_heading',
	'What the columns of contact lists with one heading are, as was last said.',
	{
		/** SHA-256 of the heading’s words. */
		heading: text().key(),
		columns: json(),
		complete: flag(),
		saidAt: instant(),
		saidBy: whole().of('person')
	}
);
export const rosterUndo = table(
	'roster_undo',
	'Rows as they were before the newest file of a source came in, to be taken back.',
	{
		fileId: whole().key().of('roster_file', 'CASCADE'),
		part: whole().key(),
		rows: json()
	}
);
export const sameOrOther = table(
	'same_or_other',
	'Whether somebody in a source is somebody who is known here, as a person has said.',
	{
		sourceId: whole().key().of('roster_source'),
		key: text().key(),
		personId: whole().key().of('person'),
		same: flag(),
		at: instant(),
		byId: whole().of('person')
	}
);
export const personChange = table(
	'person_change',
	'What was changed of a person, by whom or by which file.',
	{
		id: whole().neverTwice(),
		at: instant(),
		byId: whole().of('person').orNull(),
		fileId: whole().of('roster_file').orNull(),
		personId: whole().of('person'),
		field: text(),
		/** The student that a tie is about. */
		aboutId: whole().of('person').orNull(),
		before: text().orNull(),
		after: text().orNull(),
		/** It had been mended here by hand before the file changed it too. */
		disputed: flag().usually(0)
	}
);

export type RosterSourceRow = Row<typeof rosterSource>;
export type RosterFileRow = Row<typeof rosterFile>;
export type KnownAsRow = Row<typeof knownAs>;
