import {
	emptyBook,
	type Book,
	type Came,
	type CameFile
} from '../../../../../src/lib/core/format/oneroster/book';
import { rosterFiles, type RosterFile } from '../../../../../src/lib/core/format/oneroster/files';
import type {
	ClassLine,
	EnrollmentLine,
	Lines,
	SessionLine,
	UserLine
} from '../../../../../src/lib/core/format/oneroster/lines';

/** Lines of each file, in the order in which they stand. */
export type SomeLines = { readonly [F in RosterFile]?: readonly Lines[F][] };

export function bookOf(lines: SomeLines): Book {
	const book = emptyBook();
	for (const file of rosterFiles)
		for (const line of lines[file] ?? [])
			(book[file] as Map<string, { readonly id: string }>).set(line.id, line);
	return book;
}

/** Lines as they come in files of their own, from line 2 on. */
export function cameOf(
	lines: SomeLines,
	mode: 'bulk' | 'delta' = 'bulk',
	more: Readonly<Partial<Record<RosterFile, { gone?: string[]; out?: [string, number][] }>>> = {}
): Came {
	const came: Record<string, CameFile<RosterFile>> = {};
	for (const file of rosterFiles) {
		const list = lines[file];
		if (!list) continue;
		came[file] = {
			mode,
			lines: new Map(list.map((line) => [line.id, line])),
			gone: new Set(more[file]?.gone),
			out: new Map(more[file]?.out),
			at: new Map(list.map((line, i) => [line.id, i + 2]))
		};
	}
	return came as Came;
}

export const userLine = (id: string, more: Partial<UserLine> = {}): UserLine => ({
	id,
	enabled: true,
	givenName: id,
	familyName: 'Amaro',
	identifier: null,
	email: null,
	sms: null,
	phone: null,
	agents: [],
	grade: null,
	role: 'student',
	orgs: ['heron'],
	...more
});
export const classLine = (id: string, more: Partial<ClassLine> = {}): ClassLine => ({
	id,
	title: id,
	classCode: '',
	course: 'boats',
	school: 'heron',
	terms: ['winter'],
	periods: '',
	...more
});
export const enrollmentLine = (
	section: string,
	user: string,
	more: Partial<EnrollmentLine> = {}
): EnrollmentLine => ({
	id: `${section}-${user}`,
	class: section,
	user,
	role: 'student',
	primary: false,
	beginDate: null,
	endDate: null,
	...more
});
export const session = (
	id: string,
	startDate: string,
	endDate: string,
	parent: string | null = null
): SessionLine => ({ id, title: id, type: 'term', startDate, endDate, parent });

/** A school with a course, a winter term and one class. */
export const ground: SomeLines = {
	orgs: [
		{ id: 'district', name: 'Brackwater Isles', type: 'district' },
		{ id: 'heron', name: 'Heron Landing', type: 'school' }
	],
	academicSessions: [session('winter', '2026-12-01', '2027-03-22')],
	courses: [{ id: 'boats', title: 'Boats', courseCode: 'B', org: 'district' }],
	classes: [classLine('1-A')]
};
