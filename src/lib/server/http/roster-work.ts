import { changeFile } from '../desk/roster/files';
import { endedInTheMiddle } from '../desk/roster/left-behind';
import { stateOf } from '../desk/roster/views';
import type { FileState } from '../db/models/rosters';
import type { Taker } from '../desk/roster/take-in';
import { ask, askRoster } from '../planner/planner';
import { tellMachine } from '../machine-log';
import { services } from '../services';
import { inBackground } from './in-background';

/** How far a roster file is that is being looked at or taken in. */
export interface RosterProgress {
	/** 0 to 1. */
	readonly done: number;
	readonly what: string;
}

/** What is being done with a file, and when all of it is. */
interface Work {
	progress: RosterProgress;
	readonly done: Promise<void>;
}
const underWay = new Map<number, Work>();

/** How far a file is; undefined where nothing is done with it here. */
export const progressOf = (fileId: number): RosterProgress | undefined =>
	underWay.get(fileId)?.progress;

/**
 * Does something with a file after whatever is done with it already: what is seen to have ended in the
 * database may not have ended here yet, and what is asked for meanwhile must not be lost.
 */
function afterwards(
	fileId: number,
	from: FileState,
	work: (heard: (done: number, what: string) => void) => Promise<void>
): void {
	const before = underWay.get(fileId)?.done ?? Promise.resolve();
	const entry: Work = {
		progress: { done: 0, what: 'It waits for its turn' },
		done: before
			.then(async () => {
				const { db } = await services();
				// Done by somebody else meanwhile, or asked for twice.
				if ((await stateOf(db, fileId)) !== from) return;
				await work((done, what) => (entry.progress = { done, what }));
			})
			.catch((error: Error) => broken(fileId, error))
			.finally(() => {
				if (underWay.get(fileId) === entry) underWay.delete(fileId);
			})
	};
	underWay.set(fileId, entry);
	inBackground(`roster ${fileId}`, entry.done);
}

/** What is left of work that ended in the middle: nothing was written, so it can be done again. */
async function broken(fileId: number, error: Error): Promise<void> {
	tellMachine('web', `roster ${fileId} failed`, error);
	const { db } = await services();
	const state = await stateOf(db, fileId);
	if (state !== null) await endedInTheMiddle(db, { id: fileId, state });
}

/** Begins to look at a file; the page asks how far it is. Once, however often it is asked for. */
export const beginLook = (fileId: number): void =>
	afterwards(fileId, 'looking', (heard) => askRoster(heard, 'lookAtRoster', fileId));

/** Begins to take a file in; the page asks how far it is, and can be left. What is scheduled is worked out again after it. Why it did not come in stands with the file. */
export const beginTake = (fileId: number, taker: Taker): void =>
	afterwards(fileId, 'looked', async (heard) => {
		const taken = await askRoster(heard, 'takeRosterIn', fileId, taker);
		if (taken.ok) return workOutAhead();
		const { db } = await services();
		await changeFile(db, fileId, { why: taken.why });
	});

/** Works whatever is scheduled out again, while nobody waits for it. */
export const workOutAhead = (): void =>
	inBackground('working out again what is scheduled', ask('replanAhead'));
