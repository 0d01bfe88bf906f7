/** Steps kept; a step is a whole value, so this bounds the memory. */
const most = 200;
/** Characters by which one key changes a stored value at most; a new paragraph takes some for its form. */
const mostTyped = 60;

/**
 * The steps of a value that changes as a whole, to be taken back and taken again. Changes of the
 * same parts within a short rest are one step, so that undo takes back a run of keys and not one; a
 * change of more than a few characters (a table, kept wording) is always a step of its own.
 */
export class History<T extends object> {
	#past: T[];
	#future: T[] = [];
	#touched = '';
	#small = false;
	#at = -Infinity;
	readonly #restMs: number;

	constructor(first: T, restMs = 800) {
		this.#past = [first];
		this.#restMs = restMs;
	}

	get #now(): T {
		return this.#past.at(-1)!;
	}

	/** Names of the parts in which two values differ. */
	static #difference<T extends object>(a: T, b: T): string {
		const names = Object.keys(b) as (keyof T)[];
		return names
			.filter((n) => a[n] !== b[n] && JSON.stringify(a[n]) !== JSON.stringify(b[n]))
			.join(' ');
	}

	/** The value as it is now; `at` is any clock in ms. What is the same as before is no step. */
	note(value: T, at: number): void {
		const touched = History.#difference(this.#now, value);
		if (touched === '') return;
		const small =
			Math.abs(JSON.stringify(value).length - JSON.stringify(this.#now).length) <= mostTyped;
		const joins =
			small &&
			this.#small &&
			touched === this.#touched &&
			at - this.#at < this.#restMs &&
			this.#past.length > 1;
		if (joins) this.#past[this.#past.length - 1] = value;
		else this.#past.push(value);
		if (this.#past.length > most) this.#past.shift();
		this.#future = [];
		this.#touched = touched;
		this.#small = small;
		this.#at = at;
	}

	/** The value before the last step, or null where there is none. */
	undo(): T | null {
		if (this.#past.length < 2) return null;
		this.#future.push(this.#past.pop()!);
		this.#touched = '';
		return this.#now;
	}

	/** The step that was taken back last, or null. */
	redo(): T | null {
		const next = this.#future.pop();
		if (!next) return null;
		this.#past.push(next);
		this.#touched = '';
		return next;
	}
}
