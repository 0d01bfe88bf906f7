import type { Changes } from './changes';
import type { Sleeper } from './sleeper';

/** After a work has failed, how long until it is tried again, ms. */
const troubleMs = 1_000;

/** What the works of a process have in common. */
export interface Works {
	readonly changes: Changes;
	/** Wakes those who wait for no change. */
	readonly ended: Sleeper;
	readonly closing: () => boolean;
	/** Says a line to whoever runs it. */
	readonly say: (line: string) => void;
}

/** Does a work again and again until the process ends, waiting as it says in between; what ails it is said once. */
async function again(
	{ closing, say }: Pick<Works, 'closing' | 'say'>,
	name: string,
	work: () => Promise<number>,
	wait: (ms: number) => Promise<unknown>
): Promise<void> {
	let lastTrouble = '';
	while (!closing()) {
		let ms = troubleMs;
		try {
			ms = await work();
			lastTrouble = '';
		} catch (error) {
			const { message } = error as Error;
			if (message !== lastTrouble) say(`${name}could not go on: ${message}; trying again`);
			lastTrouble = message;
		}
		await wait(ms);
	}
}

/** A work that goes on until the courier ends: done once, then waiting for what it says, or for a change. */
export function goOn(works: Works, name: string, work: () => Promise<number>): Promise<void> {
	let since = works.changes.count;
	return again(
		works,
		`${name} `,
		() => {
			since = works.changes.count;
			return work();
		},
		(ms) => works.changes.wait(ms, since)
	);
}

/** The beat goes by its own clock: no work and no change may hold it up. */
export const beating = (works: Works, beat: () => Promise<number>): Promise<void> =>
	again(works, '', beat, (ms) => works.ended.wait(ms));
