import { rosterFiles, type RosterFile } from './files';
import type { Lines } from './lines';
import type { Mode } from './manifest';

/** What a source says: the newest line of each thing, by its sourcedId. */
export type Book = { readonly [F in RosterFile]: ReadonlyMap<string, Lines[F]> };

/** A book of nothing. */
export const emptyBook = (): { [F in RosterFile]: Map<string, Lines[F]> } => ({
	orgs: new Map(),
	academicSessions: new Map(),
	courses: new Map(),
	classes: new Map(),
	users: new Map(),
	roles: new Map(),
	enrollments: new Map()
});

/** What came in one file, line by line. */
export interface CameFile<F extends RosterFile> {
	readonly mode: Mode;
	readonly lines: ReadonlyMap<string, Lines[F]>;
	/** Things that are no longer there, in so many words. */
	readonly gone: ReadonlySet<string>;
	/** Things whose line stays out, with its number: what was known of them stays. */
	readonly out: ReadonlyMap<string, number>;
	/** The number of each line, by sourcedId. */
	readonly at: ReadonlyMap<string, number>;
}
/** Files that did not come are not there: nothing is said of what is in them. */
export type Came = { readonly [F in RosterFile]?: CameFile<F> };

/**
 * The book after files came: a whole (bulk) file takes the place of what was said before, one of
 * changes (delta) adds to it and takes from it. A thing whose line stays out is as it was.
 */
export function bookAfter(before: Book, came: Came): Book {
	const after = emptyBook();
	for (const file of rosterFiles) {
		(after as Record<RosterFile, unknown>)[file] = linesAfter(
			before[file] as ReadonlyMap<string, Lines[typeof file]>,
			came[file] as CameFile<typeof file> | undefined
		);
	}
	return after;
}

function linesAfter<F extends RosterFile>(
	before: ReadonlyMap<string, Lines[F]>,
	came: CameFile<F> | undefined
): ReadonlyMap<string, Lines[F]> {
	if (!came) return before;
	const after = new Map<string, Lines[F]>(came.mode === 'delta' ? before : []);
	for (const id of came.gone) after.delete(id);
	for (const [id, line] of came.lines) after.set(id, line);
	if (came.mode === 'delta') return after;
	for (const id of came.out.keys()) {
		const known = before.get(id);
		if (known !== undefined && !after.has(id)) after.set(id, known);
	}
	return after;
}
