/**
 * The time of the job as the page shows it: what the server said at the last load, run on by the
 * page's own stopwatch.
 */
class Bench {
	#base = $state(0);
	#ticked = $state(0);
	#readAt = 0;

	/** Takes over the time a load has brought. */
	set(now: number): void {
		this.#base = now;
		this.#readAt = performance.now();
		this.#ticked = 0;
	}

	tick(): void {
		this.#ticked = performance.now() - this.#readAt;
	}

	get now(): number {
		return this.#base + this.#ticked;
	}
}

export const bench = new Bench();
