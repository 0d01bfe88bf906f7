import type { ThingKind } from '../../../core/roster/things';
import { readMany } from '../../db/many';
import type { Query } from '../../db/open';

/** Kinds of which each thing is one row with a number of its own. */
export const numberedKinds = [
	'school',
	'term',
	'course',
	'section',
	'person',
	'household'
] as const;
export type NumberedKind = (typeof numberedKinds)[number];
export const isNumbered = (kind: ThingKind): kind is NumberedKind =>
	(numberedKinds as readonly string[]).includes(kind);

/** Which of our rows a source knows under which key; both ways. */
export class Known {
	readonly #ids = new Map<NumberedKind, Map<string, number>>(
		numberedKinds.map((kind) => [kind, new Map()])
	);
	/** Two keys may mean one row, where two people are one. */
	readonly #keys = new Map<NumberedKind, Map<number, string[]>>(
		numberedKinds.map((kind) => [kind, new Map()])
	);

	static async read(db: Query, sourceId: number): Promise<Known> {
		const known = new Known();
		await readMany(
			db,
			'kind, key, row_id',
			'FROM known_as WHERE source_id = $sourceId',
			([kind, key, id]) => known.add(kind as NumberedKind, key as string, id as number),
			{ sourceId }
		);
		return known;
	}

	add(kind: NumberedKind, key: string, id: number): void {
		this.#ids.get(kind)!.set(key, id);
		const keys = this.#keys.get(kind)!;
		const list = keys.get(id);
		if (!list) keys.set(id, [key]);
		else if (!list.includes(key)) list.push(key);
	}
	/** What was found to be known by other means, and has to be written down. */
	readonly bound: { readonly kind: NumberedKind; readonly key: string; readonly id: number }[] = [];

	/** From now on the source knows a row that was here before. */
	bind(kind: NumberedKind, key: string, id: number): void {
		this.add(kind, key, id);
		this.bound.push({ kind, key, id });
	}
	idOf(kind: NumberedKind, key: string): number | undefined {
		return this.#ids.get(kind)!.get(key);
	}
	/** The key of a row, or one that no source can have: what stands there is not this source's. */
	keyOf(kind: NumberedKind, id: number | null): string | null {
		return id === null ? null : (this.keysOf(kind, id)[0] ?? `\n${id}`);
	}
	/** All keys under which the source knows a row. */
	keysOf(kind: NumberedKind, id: number): readonly string[] {
		return this.#keys.get(kind)!.get(id) ?? [];
	}
	/** Whether the source knows a row under some key. */
	has(kind: NumberedKind, id: number): boolean {
		return this.#keys.get(kind)!.has(id);
	}
}
