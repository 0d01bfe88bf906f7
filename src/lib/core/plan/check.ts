import { nameList } from '../copy/names';

/** One line of the standing check. `where` names the part of the sheet it belongs to. */
export interface Check {
	readonly level: 'block' | 'caution' | 'fine';
	readonly where:
		| ('who' | 'ways' | 'subject' | 'body' | 'letter' | 'files' | 'languages' | 'when' | 'result')
		| ('board' | 'note' | 'invitation' | 'event');
	/** What is so, and what to do. */
	readonly text: string;
	/** Names of the people it is about, where they are to be listed. */
	readonly names?: readonly string[];
}

/** What stands in the way of sending. */
export const block = (where: Check['where'], text: string): Check => ({
	level: 'block',
	where,
	text
});
/** What is to be looked at before sending. */
export const caution = (where: Check['where'], text: string): Check => ({
	level: 'caution',
	where,
	text
});

/** "A, B, C and 4 more": as many names as one reads, of all that there are. */
export const someNames = (
	names: readonly string[],
	most = 3,
	count: number = names.length
): string =>
	count <= most
		? nameList(names)
		: `${names.slice(0, most).join(', ')} and ${count - Math.min(most, names.length)} more`;

/** Whether anything stands in the way of sending. */
export const isBlocked = (checks: readonly Check[]): boolean =>
	checks.some((c) => c.level === 'block');
