import { columnsOf, neededInDelta, type RosterFile, type Version } from './files';
import { tidy } from './cells';

/** The heading of a file: where each column stands, and what of it is not used. */
export interface Heading {
	readonly at: ReadonlyMap<string, number>;
	/** How many cells each line has to have. */
	readonly heading: number;
	/** Columns that the standard does not know, "metadata.…" among them. */
	readonly unknown: readonly string[];
}

export type ReadHeading =
	| { readonly ok: true; readonly heading: Heading }
	/** Columns that a file cannot do without and that are not there, or that are there twice. */
	| {
			readonly ok: false;
			readonly missing: readonly string[];
			readonly twice: readonly string[];
			/** Columns of it that are there: none says that it is the heading of something else. */
			readonly known: number;
	  };

/** Reads the heading of a file; the order of its columns is free, and so is their case. */
export function readHeading(
	version: Version,
	file: RosterFile,
	delta: boolean,
	cells: readonly string[]
): ReadHeading {
	const columns = columnsOf(version, file)!;
	const known = [...columns.required, ...columns.read, ...columns.unused];
	const byCase = new Map(known.map((name) => [name.toLowerCase(), name]));
	const at = new Map<string, number>();
	const unknown: string[] = [];
	const twice: string[] = [];
	cells.forEach((cell, i) => {
		const name = byCase.get(tidy(cell).toLowerCase());
		if (name === undefined) unknown.push(tidy(cell));
		else if (at.has(name)) twice.push(name);
		else at.set(name, i);
	});
	const needed = delta ? [...columns.required, ...neededInDelta] : columns.required;
	const missing = needed.filter((name) => !at.has(name));
	if (missing.length > 0 || twice.length > 0) return { ok: false, missing, twice, known: at.size };
	return { ok: true, heading: { at, heading: cells.length, unknown } };
}
