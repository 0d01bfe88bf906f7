import type { LogAct, LogThing } from '../../db/models/log';

/** One line of what was done, as it is shown. */
export interface LogLine {
	readonly id: number;
	/** Instant, ms. */
	readonly at: number;
	/** Who did it; null where it was done by itself. */
	readonly by: string | null;
	readonly session: number | null;
	/** "moved “Tide pool day” from Thu, Mar 11, 7:00 am to Mon, Mar 15, 7:00 am". */
	readonly words: string;
	/** The page of what it was done to; null where there is none. */
	readonly href: string | null;
}

/** A page of the log. */
export interface LogPage {
	readonly lines: readonly LogLine[];
	readonly found: number;
	readonly page: number;
	readonly pages: number;
	/** Everybody who did something that is in it. */
	readonly people: readonly { readonly id: number; readonly name: string }[];
}

/** Acts that are looked for together. */
export const logKinds = {
	sending: 'What leaves, and when',
	calendar: 'The calendar',
	people: 'People, groups and markers',
	rosters: 'Rosters',
	answers: 'Answers',
	coming: 'Coming in',
	work: 'Who works here, and rights',
	settings: 'Settings',
	data: 'Data that left or went',
	refused: 'Tried without the right'
} as const;
export type LogKind = keyof typeof logKinds;

export const actsOfKind: Readonly<Record<LogKind, readonly LogAct[]>> = {
	sending: [
		...(['sheet-scheduled', 'sheet-moved', 'sheet-called-back', 'sheet-stopped'] as const),
		...(['sheet-resumed', 'sheet-once-more', 'sheet-waits', 'draft-deleted'] as const),
		...(['standing-put', 'standing-ended', 'put-back-released'] as const),
		...(['board-changed', 'board-pinned', 'board-taken-off'] as const)
	],
	calendar: [
		...(['event-made', 'event-changed', 'event-called-off'] as const),
		...(['closure-put', 'closure-dropped', 'calendar-brought'] as const)
	],
	people: [
		...(['person-changed', 'address-mended', 'group-changed', 'joining-changed'] as const),
		...(['spoken-to', 'not-spoken-to'] as const),
		...(['marker-made', 'marker-changed', 'marker-given-up'] as const),
		...(['link-given', 'links-ended', 'section-open', 'board-opened'] as const)
	],
	rosters: ['roster-taken-in', 'roster-taken-back', 'roster-refused', 'roster-dropped'],
	answers: [
		...(['answered', 'answer-called-back', 'conversation-passed-on', 'answer-moved'] as const),
		...(['invitation-changed', 'invitation-opened', 'coming-put-down'] as const)
	],
	coming: [
		...(['signed-in', 'signed-out', 'sign-in-refused', 'sessions-ended'] as const),
		...(['password-changed', 'password-forgotten', 'factor-on', 'factor-off'] as const),
		...(['outside-name', 'outside-let-go'] as const)
	],
	work: [
		...(['invited', 'invitation-ended', 'account-opened', 'account-closed'] as const),
		...(['role-given', 'role-ended', 'rights-changed'] as const)
	],
	settings: ['founded', 'setting-changed'],
	data: ['went-out', 'packed-up', 'erased', 'past-keeping'],
	refused: ['refused']
};

/** What the log says of one thing. */
export type LogAbout = readonly [thing: LogThing, id: number];
