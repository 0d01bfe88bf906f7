import { reasonsText, reasonText, type Reason } from '../audience/reasons';
import type { TakenOut } from '../audience/resolved';
import { studentsSpokenOf } from './left-out';
import type { Manifest } from './manifest';

/**
 * How a student of the picks comes to have nobody who is written to: the people asked for cannot be
 * reached, none of them is on file at all, or the student was taken out again.
 */
export type StudentLeftKind = 'unreached' | 'alone' | 'out';

/** A student of an audience of whom no copy speaks, and why: every one is here exactly once. */
export interface StudentLeft {
	readonly kind: StudentLeftKind;
	readonly studentId: number;
	/** Each of the people who were asked for, with the reasons; none where none is on file or the student is out. */
	readonly people: readonly { readonly personId: number; readonly reasons: readonly Reason[] }[];
	/** The line (counted from 0) that took the student out, or that it was done by hand; null where they are not out. */
	readonly by: TakenOut['by'] | null;
}

/** Puts together what is known of the students of whom no copy speaks. */
export function leftStudents(
	withNobody: readonly number[],
	takenOut: readonly TakenOut[],
	leftOut: Manifest['leftOut']
): StudentLeft[] {
	const people = new Map(withNobody.map((id) => [id, [] as StudentLeft['people'][number][]]));
	for (const { personId, studentIds, reasons } of leftOut) {
		for (const id of studentIds) people.get(id)?.push({ personId, reasons });
	}
	return [
		...Array.from(people, ([studentId, list]): StudentLeft => ({
			kind: list.length === 0 ? 'alone' : 'unreached',
			studentId,
			people: list,
			by: null
		})),
		...takenOut.map(({ studentId, by }): StudentLeft => ({
			kind: 'out',
			studentId,
			people: [],
			by
		}))
	];
}

/** Students no copy speaks of; not those who were taken out. */
export function studentsWithNobody({
	students,
	copies
}: Pick<Manifest, 'students' | 'copies'>): number[] {
	const spokenOf = studentsSpokenOf(copies);
	return students.filter((id) => !spokenOf.has(id));
}

/** {@link leftStudents} of a manifest. */
export const studentsLeft = (
	manifest: Pick<Manifest, 'students' | 'copies' | 'leftOut' | 'takenOut'>
): StudentLeft[] => leftStudents(studentsWithNobody(manifest), manifest.takenOut, manifest.leftOut);

/** Why nobody is written to for a student, as a phrase. `lines` are the audience's lines in words. */
export function whyLeft(
	{ kind, people, by }: StudentLeft,
	nameOf: (personId: number) => string,
	lines: readonly string[]
): string {
	if (kind === 'alone') return 'None of the people asked for is on file';
	if (by === 'hand') return reasonText({ code: 'by-hand' });
	if (by !== null) return reasonText({ code: 'by-line', line: by }, lines);
	return people.map((p) => `${nameOf(p.personId)}: ${reasonsText(p.reasons, lines)}`).join('; ');
}

/** Sections in which no student has anybody who gets a copy, of those that students are shown under. */
export function sectionsWithNobody(manifest: Manifest): number[] {
	const nobody = new Set(studentsWithNobody(manifest));
	const reached = new Map<number, boolean>();
	for (const id of manifest.students) {
		const sectionId = manifest.sectionOf.get(id);
		if (sectionId === undefined || sectionId === null) continue;
		reached.set(sectionId, (reached.get(sectionId) ?? false) || !nobody.has(id));
	}
	return [...reached].filter(([, somebody]) => !somebody).map(([id]) => id);
}

/** What such a student is called in a file, where others have their relation. */
export const studentLeftWords: Readonly<Record<StudentLeftKind, string>> = {
	unreached: 'student for whom nobody gets a copy',
	alone: 'student for whom nobody is on file',
	out: 'student taken out'
};
