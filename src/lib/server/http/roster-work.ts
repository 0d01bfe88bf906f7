import { changeFile } from '../desk/roster/files';
import { stateOf } from '../desk/roster/views';
import type { Taker } from '../desk/roster/take-in';
import { ask, askRoster } from '../planner/planner';
import { services } from '../services';

/** How far a roster file is that is being looked at or taken in. */
export interface RosterProgress {
	/** 0 to 1. */
	readonly done: number;
	readonly what: string;
}

const underWay = new Map<number, RosterProgress>();

/** How far a file is; undefined where nothing is done with it here. */
export const progressOf = (fileId: number): RosterProgress | undefined => underWay.get(fileId);

const heard = (fileId: number) => (done: number, what: string) =>
	void underWay.set(fileId, { done, what });

/** What is left of work that ended in the middle: nothing was written, so it can be done again. */
async function broken(fileId: number, error: Error): Promise<void> {
	console.error(`roster ${fileId}:`, error);
	const { db } = await services();
	const state = await stateOf(db, fileId);
	if (state === 'looking')
		await changeFile(db, fileId, {
			state: 'refused',
			why: `It could not be looked at: ${error.message}`
		});
	if (state === 'taking')
		await changeFile(db, fileId, { state: 'looked', why: `Nothing has come in: ${error.message}` });
}

/** Begins to look at a file; the page asks how far it is. Once, however often it is asked for. */
export function beginLook(fileId: number): void {
	if (underWay.has(fileId)) return;
	underWay.set(fileId, { done: 0, what: 'It waits for its turn' });
	void askRoster(heard(fileId), 'lookAtRoster', fileId)
		.catch((error: Error) => broken(fileId, error))
		.finally(() => underWay.delete(fileId));
}

/** Begins to take a file in; the page asks how far it is, and can be left. What is scheduled is worked out again after it. Why it did not come in stands with the file. */
export function beginTake(fileId: number, taker: Taker): void {
	if (underWay.has(fileId)) return;
	underWay.set(fileId, { done: 0, what: 'It waits for its turn' });
	void take(fileId, taker)
		.catch((error: Error) => broken(fileId, error))
		.finally(() => underWay.delete(fileId));
}

async function take(fileId: number, taker: Taker): Promise<void> {
	const taken = await askRoster(heard(fileId), 'takeRosterIn', fileId, taker);
	if (taken.ok) return workOutAhead();
	const { db } = await services();
	await changeFile(db, fileId, { why: taken.why });
}

/** Works whatever is scheduled out again, while nobody waits for it. */
export const workOutAhead = (): void =>
	void ask('replanAhead').catch((error: Error) => console.error('after a roster:', error.message));
