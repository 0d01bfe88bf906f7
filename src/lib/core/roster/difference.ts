import {
	noThings,
	thingKinds,
	type AnyThing,
	type FieldValue,
	type ThingKind,
	type Things
} from './things';

/** What became of one thing between two states of a roster; `before` is null of a new one, `after` of one that has gone. */
export interface Change {
	readonly kind: ThingKind;
	readonly key: string;
	readonly before: AnyThing | null;
	readonly after: AnyThing | null;
}

/** The names of the fields of which a thing says something else than before. What it does not speak of is not compared. */
export function fieldsApart(before: AnyThing, after: AnyThing): string[] {
	const apart: string[] = [];
	for (const field in after)
		if (after[field] !== undefined && before[field] !== after[field]) apart.push(field);
	return apart;
}

/** What changes from one state to another, in the order in which it can be carried out: what is named comes first, and goes last. */
export function differenceOf(before: Things, after: Things): Change[] {
	const changes: Change[] = [];
	const gone: Change[] = [];
	for (const kind of thingKinds) {
		const was = before[kind] as ReadonlyMap<string, AnyThing>;
		const is = after[kind] as ReadonlyMap<string, AnyThing>;
		for (const [key, thing] of is) {
			const old = was.get(key);
			if (old === undefined) changes.push({ kind, key, before: null, after: thing });
			else if (old !== thing && fieldsApart(old, thing).length > 0)
				changes.push({ kind, key, before: old, after: thing });
		}
		for (const [key, thing] of was)
			if (!is.has(key)) gone.push({ kind, key, before: thing, after: null });
	}
	return [...changes, ...gone.reverse()];
}

/** The state that changes lead to. */
export function applied(things: Things, changes: readonly Change[]): Things {
	const after = noThings();
	const of = (kind: ThingKind) => after[kind] as Map<string, AnyThing>;
	for (const kind of thingKinds)
		for (const [key, thing] of things[kind] as ReadonlyMap<string, AnyThing>)
			of(kind).set(key, thing);
	for (const { kind, key, after: thing } of changes) {
		if (thing === null) of(kind).delete(key);
		else of(kind).set(key, { ...of(kind).get(key), ...thing });
	}
	return after;
}

/** What undoes some changes. */
export const undone = (changes: readonly Change[]): Change[] =>
	changes.map(({ before, after, ...of }) => ({ ...of, before: after, after: before })).reverse();

/** A field that was mended here, and that the source has now changed as well. */
export interface Dispute {
	readonly field: string;
	/** What the source said before. */
	readonly said: FieldValue;
	/** What was put here by hand. */
	readonly here: FieldValue;
	/** What the source says now. */
	readonly file: FieldValue;
}

/** What a change comes to where the thing may have been mended by hand. */
export type Step =
	| { readonly what: 'new' }
	/** It is here and had gone, or was known from elsewhere: these fields are set. */
	| { readonly what: 'back'; readonly set: AnyThing }
	| {
			readonly what: 'changed';
			readonly set: AnyThing;
			readonly disputes: readonly Dispute[];
	  }
	| { readonly what: 'gone' };

/** A thing as it is here. */
export interface Here {
	readonly thing: AnyThing;
	/** It has gone, by an earlier file or by hand. */
	readonly gone: boolean;
}

/**
 * What is to be done for a change of the source: only what the source itself has changed. A field
 * that was mended here stays so until the source changes it; then the source's word is taken and
 * both are shown. What was ended here by hand stays ended until the source ends it too and has it
 * again. Null where nothing is to be done.
 */
export function stepOf(change: Change, here: Here | undefined): Step | null {
	const { before, after } = change;
	if (after === null) return here && !here.gone ? { what: 'gone' } : null;
	if (here === undefined) return before === null ? { what: 'new' } : null;
	if (before === null) {
		const set = pick(
			after,
			fieldsApart(here.thing, after).filter((field) => here.thing[field] !== undefined)
		);
		if (here.gone) return { what: 'back', set };
		return Object.keys(set).length > 0 ? { what: 'changed', set, disputes: [] } : null;
	}
	if (here.gone) return null;
	const set: Record<string, FieldValue> = {};
	const disputes: Dispute[] = [];
	for (const field of fieldsApart(before, after)) {
		const [said, now, file] = [before[field], here.thing[field], after[field]!];
		if (now === file || now === undefined) continue;
		set[field] = file;
		if (said !== undefined && now !== said) disputes.push({ field, said, here: now, file });
	}
	return Object.keys(set).length > 0 ? { what: 'changed', set, disputes } : null;
}

const pick = (thing: AnyThing, fields: readonly string[]): AnyThing =>
	Object.fromEntries(fields.map((field) => [field, thing[field]!]));
