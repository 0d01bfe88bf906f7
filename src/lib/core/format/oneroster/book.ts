import type { ListLine } from '../contact-list/line';
import { rosterFiles } from './files';
import type { Lines as RosterLines } from './lines';
import type { Mode } from './manifest';

/** Everything that a source can have lines of: the files of the standard, and the lines of a contact list. */
export const bookFiles = [...rosterFiles, 'contacts'] as const;
export type BookFile = (typeof bookFiles)[number];

/** A line of each. */
export interface BookLines extends RosterLines {
	readonly contacts: ListLine;
}

/** What a source says: the newest line of each thing, by its sourcedId. */
export type Book = { readonly [F in BookFile]: ReadonlyMap<string, BookLines[F]> };

/** A book of nothing. */
export const emptyBook = (): { [F in BookFile]: Map<string, BookLines[F]> } => ({
	orgs: new Map(),
	academicSessions: new Map(),
	courses: new Map(),
	classes: new Map(),
	users: new Map(),
	roles: new Map(),
	enrollments: new Map(),
	contacts: new Map()
});

/** What came in one file, line by line. */
export interface CameFile<F extends BookFile> {
	readonly mode: Mode;
	readonly lines: ReadonlyMap<string, BookLines[F]>;
	/** Things that are no longer there, in so many words. */
	readonly gone: ReadonlySet<string>;
	/** Things whose line stays out, with its number: what was known of them stays. */
	readonly out: ReadonlyMap<string, number>;
	/** The number of each line, by sourcedId. */
	readonly at: ReadonlyMap<string, number>;
}
/** Files that did not come are not there: nothing is said of what is in them. */
export type Came = { readonly [F in BookFile]?: CameFile<F> };

/**
 * The book after files came: a whole (bulk) file takes the place of what was said before, one of
 * changes (delta) adds to it and takes from it. A thing whose line stays out is as it was.
 */
export function bookAfter(before: Book, came: Came): Book {
	const after = emptyBook();
	for (const file of bookFiles) {
		(after as Record<BookFile, unknown>)[file] = linesAfter(
			before[file] as ReadonlyMap<string, BookLines[typeof file]>,
			came[file] as CameFile<typeof file> | undefined
		);
	}
	return after;
}

function linesAfter<F extends BookFile>(
	before: ReadonlyMap<string, BookLines[F]>,
	came: CameFile<F> | undefined
): ReadonlyMap<string, BookLines[F]> {
	if (!came) return before;
	const after = new Map<string, BookLines[F]>(came.mode === 'delta' ? before : []);
	for (const id of came.gone) after.delete(id);
	for (const [id, line] of came.lines) after.set(id, line);
	if (came.mode === 'delta') return after;
	for (const id of came.out.keys()) {
		const known = before.get(id);
		if (known !== undefined && !after.has(id)) after.set(id, known);
	}
	return after;
}
