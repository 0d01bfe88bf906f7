import type { FileLine } from '$lib/server/desk/roster/types';

const states: Readonly<Record<FileLine['state'], string>> = {
	coming: 'is coming',
	columns: 'waits to be told its columns',
	looking: 'is being looked at',
	looked: 'waits for you',
	taking: 'is coming in',
	taken: 'came in',
	'taken-back': 'was taken back',
	refused: 'cannot be read',
	'given-up': 'was given up'
};

/** How far a roster file is, in words. */
export const fileStateWords = (state: FileLine['state']): string => states[state];
