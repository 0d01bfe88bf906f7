import {
	bookAfter,
	bookFiles,
	emptyBook,
	type Book,
	type BookFile,
	type BookLines,
	type Came
} from './book';
import type { Fault, Wrong } from './fault';
import type { SessionLine } from './lines';

/** A book in which everything that a line of the newest files names is there, and what had to stay out of it. */
export interface LookedUp {
	readonly book: Book;
	readonly faults: readonly Fault[];
}

/** What is wrong with a line beyond the line itself: a cell that has to go, or (null) all of it. */
type Verdict<L> =
	| { readonly line: L; readonly wrong: readonly Wrong[] }
	| { readonly line: null; readonly wrong: Wrong };

/**
 * Looks up what the lines that came name in each other, in the order in which they do. A line that
 * names what is not there stays out, and its thing is as it was; what names that one then, too.
 */
export function lookUp(before: Book, came: Came): LookedUp {
	const all = bookAfter(before, came);
	const sound = emptyBook();
	const faults: Fault[] = [];
	const out = new Map<BookFile, Map<string, number>>(
		bookFiles.map((file) => [file, new Map(came[file]?.out ?? [])])
	);
	/** Why something is not in the book: nothing says it, or its own line stays out. */
	const absent = (column: string, id: string, file: BookFile): Wrong => {
		const line = out.get(file)!.get(id);
		return line === undefined
			? { code: 'unknown', column, id, file }
			: { code: 'out-itself', column, id, file, line };
	};
	const verdicts = judges(sound, all, absent);
	for (const file of bookFiles) {
		const place = sound[file] as Map<string, BookLines[BookFile]>;
		const lines = came[file]?.lines as ReadonlyMap<string, BookLines[BookFile]> | undefined;
		const judge = verdicts[file] as (line: BookLines[BookFile]) => Verdict<BookLines[BookFile]>;
		for (const [id, line] of all[file] as ReadonlyMap<string, BookLines[BookFile]>) {
			const verdict = judge(line);
			const at = lines?.get(id) === line ? came[file]!.at.get(id)! : null;
			if (at !== null) {
				const list = verdict.line === null ? [verdict.wrong] : verdict.wrong;
				for (const wrong of list)
					faults.push({ file, line: at, id, wrong, rest: verdict.line !== null });
			}
			if (verdict.line !== null) place.set(id, verdict.line);
			else if (at !== null) {
				out.get(file)!.set(id, at);
				// As it was, if that still holds.
				const known = (before[file] as ReadonlyMap<string, BookLines[BookFile]>).get(id);
				const still = known && judge(known);
				if (still?.line) place.set(id, still.line);
			}
		}
	}
	return { book: sound, faults: [...faults, ...withoutRoles(sound, came)] };
}

/** People of the newest file to whom nothing gives a role: they would be in no list, and nobody would know why. */
function withoutRoles(book: Book, came: Came): Fault[] {
	const lines = came.users?.lines;
	if (!lines || book.roles.size === 0) return [];
	const held = new Set([...book.roles.values()].map((r) => r.user));
	const file = 'users' as const;
	return [...lines.values()].flatMap((line) =>
		line.role === null && !held.has(line.id)
			? [{ file, line: came.users!.at.get(line.id)!, id: line.id, wrong: noRole, rest: false }]
			: []
	);
}
const noRole: Wrong = { code: 'no-role' };

/** What each file's lines have to find. They are asked in the order of the files: what they name has been judged. */
function judges(
	book: Book,
	all: Book,
	absent: (column: string, id: string, file: BookFile) => Wrong
): { readonly [F in BookFile]: (line: BookLines[F]) => Verdict<BookLines[F]> } {
	const fine = <L>(line: L): Verdict<L> => ({ line, wrong: none });
	return {
		orgs: fine,
		academicSessions(line) {
			const wrong = parentFault(line, all.academicSessions, absent);
			return wrong ? { line: { ...line, parent: null }, wrong: [wrong] } : fine(line);
		},
		courses: (line) =>
			book.orgs.has(line.org)
				? fine(line)
				: { line, wrong: [absent('orgSourcedId', line.org, 'orgs')] },
		classes(line) {
			if (!book.courses.has(line.course))
				return { line: null, wrong: absent('courseSourcedId', line.course, 'courses') };
			const school = book.orgs.get(line.school);
			if (!school) return { line: null, wrong: absent('schoolSourcedId', line.school, 'orgs') };
			if (school.type !== 'school')
				return {
					line: null,
					wrong: {
						code: 'no-school',
						column: 'schoolSourcedId',
						id: line.school,
						is: school.type
					}
				};
			const missing = line.terms.filter((id) => !book.academicSessions.has(id));
			if (missing.length === 0) return fine(line);
			const wrong = missing.map((id) => absent('termSourcedIds', id, 'academicSessions'));
			return missing.length === line.terms.length
				? { line: null, wrong: wrong[0]! }
				: { line: { ...line, terms: line.terms.filter((id) => !missing.includes(id)) }, wrong };
		},
		users(line) {
			if (line.role === null && line.orgs.length === 0 && line.agents.length === 0)
				return fine(line);
			const orgs = line.orgs.filter((id) => book.orgs.has(id));
			const agents = line.agents.filter((id) => all.users.has(id));
			if (orgs.length === line.orgs.length && agents.length === line.agents.length)
				return fine(line);
			const wrong = [
				...line.orgs
					.filter((id) => !orgs.includes(id))
					.map((id) => absent('orgSourcedIds', id, 'orgs')),
				...line.agents
					.filter((id) => !agents.includes(id))
					.map((id) => absent('agentSourcedIds', id, 'users'))
			];
			return line.role !== null && orgs.length === 0
				? { line: null, wrong: wrong[0]! }
				: { line: { ...line, orgs, agents }, wrong };
		},
		roles(line) {
			if (!book.users.has(line.user))
				return { line: null, wrong: absent('userSourcedId', line.user, 'users') };
			return book.orgs.has(line.org)
				? fine(line)
				: { line: null, wrong: absent('orgSourcedId', line.org, 'orgs') };
		},
		enrollments(line) {
			if (!book.classes.has(line.class))
				return { line: null, wrong: absent('classSourcedId', line.class, 'classes') };
			return book.users.has(line.user)
				? fine(line)
				: { line: null, wrong: absent('userSourcedId', line.user, 'users') };
		},
		// Students are not in a contact list: whether they are here is asked of the database.
		contacts: fine
	};
}
const none: readonly Wrong[] = [];

/** Whether the parents of a session are there and come to an end. */
function parentFault(
	line: SessionLine,
	sessions: ReadonlyMap<string, SessionLine>,
	absent: (column: string, id: string, file: BookFile) => Wrong
): Wrong | null {
	if (line.parent === null) return null;
	if (!sessions.has(line.parent)) return absent('parentSourcedId', line.parent, 'academicSessions');
	const passed = [line.id];
	for (let at: string | null = line.parent; at !== null; at = sessions.get(at)?.parent ?? null) {
		if (at === line.id) return { code: 'circle', ids: [...passed, line.id] };
		if (passed.includes(at)) return null;
		passed.push(at);
	}
	return null;
}
