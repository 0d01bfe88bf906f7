import { ForBulk, plannerProcess } from './process';
import type { Heard, TaskArgs, TaskName, TaskResult } from './tasks';

export { TookTooLong } from './process';

/** Answers whoever waits at a screen: nothing runs here that holds up another's tally. */
const atOnce = plannerProcess('at once');
/** Whole districts, and what reads or writes many dispatches. It needs the roster a second time, and gives its memory back when there is nothing to do. */
const bulk = plannerProcess('bulk', { idleMs: 10 * 60_000 });
/** Rosters that come in: nothing else waits for them, and what they take in memory is given back. */
const rosters = plannerProcess('roster', { idleMs: 60_000 });

/** What a district takes along: it reads everything, and goes when it is done. */
const leaving = plannerProcess('leaving', { idleMs: 1000 });
/** A large district's files take a slow disk an hour. */
const packingMs = 7_200_000;

/**
 * How long a question may take, ms. Working out and writing down a district takes some fifteen seconds on two cores;
 * what takes many times that will not end by itself. Several are under way at once, and each waits for the steps of the others.
 */
const usualMs = 90_000;
const bulkMs = 300_000;
const isBulk: ReadonlySet<TaskName> = new Set<TaskName>([
	'replan',
	'release',
	'releaseFeed',
	'replanAhead',
	'settingEffects',
	'followZone',
	'importCalendar',
	'tellStaff'
]);
const ofRosters: ReadonlySet<TaskName> = new Set<TaskName>([
	'lookAtRoster',
	'takeRosterIn',
	'takeRosterBack',
	'bringRosterFrom',
	'turnRosterDay'
]);
/** A hundred thousand students take minutes on a slow disk. */
const rosterMs = 1_800_000;
/** Not always bulk work, and yet as long as that may take: one round of a small audience writes many dates, a term of a large district has millions of copies. */
const patient: ReadonlySet<TaskName> = new Set<TaskName>([
	'warm',
	'termReport',
	'schedule',
	'putStanding',
	'move',
	'resume',
	'saveEvent'
]);

/** Asks a planner. Rejects where the task fails, the planner ends, or it takes longer than it may; nothing is half written then. */
export function ask<K extends TaskName>(task: K, ...args: TaskArgs<K>): Promise<TaskResult<K>> {
	if (ofRosters.has(task)) return rosters.ask(rosterMs, task, args);
	return askWithin(isBulk.has(task) || patient.has(task) ? bulkMs : usualMs, task, ...args);
}

/** Packs up what a district takes along, and says how far it is. */
export const askPacking = (heard: Heard, ...args: TaskArgs<'packUp'>): Promise<number> =>
	leaving.ask(packingMs, 'packUp', args, heard);

/** {@link ask} of a roster, with how far it is. */
export const askRoster = <K extends 'lookAtRoster' | 'takeRosterIn'>(
	heard: Heard,
	task: K,
	...args: TaskArgs<K>
): Promise<TaskResult<K>> => rosters.ask(rosterMs, task, args, heard);

/** {@link ask} with another deadline, ms. */
export async function askWithin<K extends TaskName>(
	ms: number,
	task: K,
	...args: TaskArgs<K>
): Promise<TaskResult<K>> {
	if (isBulk.has(task)) return bulk.ask(ms, task, args);
	try {
		return await atOnce.ask(ms, task, args);
	} catch (error) {
		// It has seen that the audience is a large one.
		if (error instanceof ForBulk) return bulk.ask(ms, task, args);
		throw error;
	}
}
