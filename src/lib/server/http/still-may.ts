import type { EventLine } from './event-stream';

/** What tells a line whether its listener may still hear of what it is about. */
interface StillMay {
	/** Asks; a line that may not hear any more is ended by it. Never rejects. */
	readonly ask: () => Promise<boolean>;
	/** How long an answer is good for at most, ms. */
	readonly goodForMs: number;
	/** A clock that never goes back, ms. */
	readonly clock?: () => number;
}

/**
 * A line that says nothing to one who may no longer hear it: before it says something it asks, unless it did so a moment ago.
 * What is said comes in the order in which it was said, also where the first of it had to be asked for.
 */
export function lineThatAsks(
	line: EventLine,
	{ ask, goodForMs, clock = () => performance.now() }: StillMay
): EventLine {
	let asked = clock();
	/** What was said and waits for an answer. */
	let waiting = 0;
	let over = false;
	let turn: Promise<boolean> = Promise.resolve(true);
	const fresh = () => clock() - asked <= goodForMs;
	const sure = async (): Promise<boolean> => {
		if (fresh()) return true;
		asked = clock();
		return ask();
	};
	return {
		end: () => line.end(),
		say(...said) {
			if (over) return;
			if (waiting === 0 && fresh()) return line.say(...said);
			waiting += 1;
			turn = turn.then(async (may) => {
				const still = may && (await sure());
				waiting -= 1;
				if (still) line.say(...said);
				else over = true;
				return still;
			});
		}
	};
}
