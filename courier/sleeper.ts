/** Rests that can be broken off. */
export interface Sleeper {
	/** Resolves after `ms`, or when all are woken. */
	wait(ms: number): Promise<void>;
	/** Ends the rests of now. */
	wake(): void;
	/** Ends every rest, now and later. */
	end(): void;
}

/** A timer takes no longer rest than this, ms (2^31 − 1). */
const longest = 2_147_483_647;

export function sleeper(): Sleeper {
	let ended = false;
	const waiting = new Set<() => void>();
	const wake = () => [...waiting].forEach((go) => go());
	return {
		wait: (ms) =>
			ended
				? Promise.resolve()
				: new Promise((resolve) => {
						const go = () => {
							clearTimeout(timer);
							waiting.delete(go);
							resolve();
						};
						const timer = setTimeout(go, Math.min(ms, longest));
						waiting.add(go);
					}),
		wake,
		end() {
			ended = true;
			wake();
		}
	};
}
