import type { Way } from '../../../core/roster/way';
import type { DeliveryState } from '../../../core/track/evidence';
import type { Copy } from './counted-copies';

/** Copies by one way in one state. */
export interface CopyCount {
	readonly way: Way;
	readonly state: DeliveryState;
	readonly n: number;
	/** Of these, those that have left the house. */
	readonly left: number;
}

/** How many copies of a dispatch there are by way and state: kept with them, so that one more event is one more addition. */
export class CopyCounts {
	readonly #by = new Map<string, { -readonly [K in keyof CopyCount]: CopyCount[K] }>();
	#firstLeft = Infinity;
	#weak = 0;
	#unsure = 0;

	constructor(copies: Iterable<Copy>) {
		for (const copy of copies) this.add(copy);
	}

	/** Counts a copy as it stands. */
	add(copy: Copy): void {
		this.#count(copy, 1);
		if (copy.leftAt !== null && copy.leftAt < this.#firstLeft) this.#firstLeft = copy.leftAt;
	}

	/** Takes a copy out as it was counted, before it is changed. That one has left is never taken back. */
	takeOut(copy: Copy): void {
		this.#count(copy, -1);
	}

	#count({ way, state, leftAt, strength, unsure }: Copy, by: 1 | -1): void {
		const key = `${way} ${state}`;
		let count = this.#by.get(key);
		if (!count) this.#by.set(key, (count = { way, state, n: 0, left: 0 }));
		count.n += by;
		if (leftAt !== null) count.left += by;
		if (strength === 'weak') this.#weak += by;
		if (unsure) this.#unsure += by;
	}

	/** Those that there are. */
	get counts(): readonly CopyCount[] {
		return [...this.#by.values()].filter((c) => c.n > 0);
	}
	/** When the first copy left (instant, ms); null where none has. */
	get firstLeft(): number | null {
		return this.#firstLeft === Infinity ? null : this.#firstLeft;
	}
	/** Copies of which only a weak sign of reading has come. */
	get weak(): number {
		return this.#weak;
	}
	/** Copies that may have arrived. */
	get unsure(): number {
		return this.#unsure;
	}
}
