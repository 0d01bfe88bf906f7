/** How long to wait between tries, ms: soon at first, then every few seconds. */
const waitsMs = [200, 500, 1_000, 2_000, 5_000] as const;

/**
 * Does something until it succeeds, while `goOn` says so: what has been handed over must be written
 * down, whatever ails the disk. `trouble` hears why it did not work. Rejects with the last error
 * once there is no going on.
 */
export async function surely<T>(
	work: () => Promise<T>,
	goOn: () => boolean,
	trouble: (why: string) => void,
	pause: (ms: number) => Promise<unknown> = (ms) => new Promise((r) => setTimeout(r, ms))
): Promise<T> {
	for (let tries = 0; ; tries += 1) {
		try {
			return await work();
		} catch (error) {
			trouble((error as Error).message);
			if (!goOn()) throw error;
			await pause(waitsMs[Math.min(tries, waitsMs.length - 1)]!);
		}
	}
}
