/** So many values are in a part: as much is copied with one change, and about as little as the list of parts of a large district. */
const partSize = 256;

/**
 * Values by a fixed set of numbers. One with other values is a new map, which shares with the old one
 * every part in which nothing changed: whoever holds the old one still sees it as it was, and a change
 * costs the same whether there are a hundred values or a hundred thousand.
 */
export class PartedMap<V> implements ReadonlyMap<number, V> {
	readonly #at: ReadonlyMap<number, number>;
	readonly #parts: readonly (readonly V[])[];

	private constructor(at: ReadonlyMap<number, number>, parts: readonly (readonly V[])[]) {
		this.#at = at;
		this.#parts = parts;
	}

	/** Each number once, in the order in which it first comes. */
	static of<V>(ids: Iterable<number>, valueOf: (id: number) => V): PartedMap<V> {
		const at = new Map<number, number>();
		const parts: V[][] = [];
		for (const id of ids) {
			if (at.has(id)) continue;
			if (at.size % partSize === 0) parts.push([]);
			parts.at(-1)!.push(valueOf(id));
			at.set(id, at.size);
		}
		return new PartedMap(at, parts);
	}

	/** The same with other values for some of its numbers; what it does not have is passed over. */
	with(changes: ReadonlyMap<number, V>): PartedMap<V> {
		const parts = [...this.#parts];
		const own = new Map<number, V[]>();
		for (const [id, value] of changes) {
			const at = this.#at.get(id);
			if (at === undefined) continue;
			const part = Math.floor(at / partSize);
			let copy = own.get(part);
			if (!copy) {
				own.set(part, (copy = [...parts[part]!]));
				parts[part] = copy;
			}
			copy[at % partSize] = value;
		}
		return new PartedMap(this.#at, parts);
	}

	get size(): number {
		return this.#at.size;
	}
	has(id: number): boolean {
		return this.#at.has(id);
	}
	get(id: number): V | undefined {
		const at = this.#at.get(id);
		return at === undefined ? undefined : this.#parts[Math.floor(at / partSize)]![at % partSize];
	}
	keys(): MapIterator<number> {
		return this.#at.keys();
	}
	*values(): MapIterator<V> {
		for (const part of this.#parts) yield* part;
	}
	*entries(): MapIterator<[number, V]> {
		for (const id of this.#at.keys()) yield [id, this.get(id)!];
	}
	[Symbol.iterator](): MapIterator<[number, V]> {
		return this.entries();
	}
	forEach(heard: (value: V, id: number, map: ReadonlyMap<number, V>) => void): void {
		for (const [id, value] of this) heard(value, id, this);
	}
}
