import { instant, json, text, whole } from './column';
import { table, type Row } from './table';

/** What was done: a code, of which words are made where it is shown. */
export const logActs = [
	// What leaves, and when.
	...(['sheet-scheduled', 'sheet-moved', 'sheet-called-back', 'sheet-stopped'] as const),
	...(['sheet-resumed', 'sheet-once-more', 'sheet-waits', 'draft-deleted'] as const),
	...(['standing-put', 'standing-ended', 'put-back-released'] as const),
	// The calendar.
	...(['event-made', 'event-changed', 'event-called-off'] as const),
	...(['closure-put', 'closure-dropped', 'calendar-brought'] as const),
	// People and what belongs to them.
	...(['person-changed', 'address-mended', 'group-changed', 'joining-changed'] as const),
	...(['spoken-to', 'not-spoken-to'] as const),
	...(['marker-made', 'marker-changed', 'marker-given-up'] as const),
	...(['link-given', 'links-ended', 'section-open'] as const),
	...(['board-opened', 'board-changed', 'board-pinned', 'board-taken-off'] as const),
	// Rosters and lists.
	...(['roster-taken-in', 'roster-taken-back', 'roster-refused', 'roster-dropped'] as const),
	// Answers.
	...(['invitation-changed', 'invitation-opened', 'coming-put-down'] as const),
	...(['answered', 'answer-called-back', 'conversation-passed-on', 'answer-moved'] as const),
	// Who may come in, and what for.
	...(['signed-in', 'signed-out', 'sign-in-refused', 'sessions-ended'] as const),
	...(['invited', 'invitation-ended', 'account-opened', 'account-closed'] as const),
	...(['password-changed', 'password-forgotten', 'factor-on', 'factor-off'] as const),
	...(['outside-name', 'outside-let-go'] as const),
	...(['founded', 'setting-changed'] as const),
	...(['role-given', 'role-ended', 'rights-changed', 'refused'] as const),
	// The data themselves.
	...(['went-out', 'packed-up', 'erased', 'past-keeping'] as const)
] as const;
export type LogAct = (typeof logActs)[number];

/** What it was done to. */
export type LogThing =
	| ('dispatch' | 'round' | 'standing' | 'event' | 'closure' | 'person' | 'group' | 'marker')
	| ('section' | 'roster' | 'conversation');

export const logLine = table(
	'log_line',
	'What was done, by whom and when; only added to, each line bound to the one before by a hash.',
	{
		id: whole().neverTwice(),
		at: instant(),
		/** Nothing where it was done by itself. */
		byId: whole().of('person').orNull(),
		/** The number of the session it was done in. */
		sessionId: whole().orNull(),
		act: text<LogAct>(),
		thing: text<LogThing>().orNull(),
		thingId: whole().orNull(),
		/** The school it is about; nothing where it is about several, or the district. */
		schoolId: whole().of('school').orNull(),
		before: json().orNull(),
		after: json().orNull(),
		/** SHA-256 of the line before and this one. */
		bound: text()
	}
);

export type LogLineRow = Row<typeof logLine>;
