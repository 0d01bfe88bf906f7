/** What is known of a request for a picture or a link beside its address. */
export interface Visit {
	readonly method: string;
	/** The User-Agent field (RFC 9110 section 10.1.5), empty where there is none. */
	readonly agent: string;
	/** The Sec-Purpose, Purpose or X-Moz field, by which a browser says that it fetches ahead of any click. */
	readonly purpose: string;
	/** For how many other people's copies the same visitor asked within the minute before. */
	readonly othersJustNow: number;
}

/** So many people's letters opened from one place within a minute are opened by no reader (common practice; a classroom's readers share an address, so it is not one or two). */
export const manyReaders = 5;

/** Words by which programs that read pages name themselves in User-Agent; that they do is common practice (the RFC asks only for a product name). */
const programs =
	/bot\b|bot\/|crawl|spider|scan|preview|prefetch|monitor|validator|checker|curl\/|wget\/|python|java\/|go-http|okhttp|libwww|http-?client/i;

/** Why a request is more likely a machine's than a reader's. */
export type MachineSign =
	| 'head-only'
	| 'ahead'
	| 'no-browser'
	| 'program'
	| 'many-readers'
	/** Within seconds of the letter's arrival. */
	| 'just-arrived';

/** The sign that a request bears; null where nothing speaks for a machine. */
export function machineSign({ method, agent, purpose, othersJustNow }: Visit): MachineSign | null {
	if (method === 'HEAD') return 'head-only';
	if (/prefetch|prerender|preview/i.test(purpose)) return 'ahead';
	if (agent.trim() === '') return 'no-browser';
	if (programs.test(agent)) return 'program';
	return othersJustNow >= manyReaders ? 'many-readers' : null;
}

/** It in words. */
export const machineSignWords: Readonly<Record<MachineSign, string>> = {
	'head-only': 'only its head was asked for, as machines do',
	ahead: 'fetched ahead of any click',
	'no-browser': 'whoever asked did not name a browser',
	program: 'asked for by a program, not by a browser',
	'many-readers': `the same place opened the letters of ${manyReaders} other people or more within a minute`,
	'just-arrived': 'within seconds of its arrival'
};
