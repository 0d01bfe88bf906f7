import { count } from '../../../core/copy/count';
import { phoneText } from '../../../core/format/phone';
import type { Came } from '../../../core/format/oneroster/book';
import type { RosterFile } from '../../../core/format/oneroster/files';
import {
	noCounts,
	type Counts,
	type Share,
	type Tab,
	type What
} from '../../../core/roster/counts';
import {
	keyOf,
	type AnyThing,
	type FieldValue,
	type Thing,
	type ThingKind,
	type Things
} from '../../../core/roster/things';
import type { Change } from '../../../core/roster/difference';
import type { Compared } from './compare';
import type { ListedChange } from './look-file';
import { disputesOf, type Done } from './plan-work';
import type { AnyRow } from './row-tables';
import { groupBy } from '../../../core/group-by';

/** Where each kind is listed; households follow from the rest and are only counted. */
const tabOf: Readonly<Record<ThingKind, Tab | null>> = {
	school: 'sections',
	term: 'sections',
	course: 'sections',
	section: 'sections',
	person: 'people',
	home: null,
	post: 'staff',
	contact: 'contacts',
	living: null,
	enrolment: 'enrolments',
	teaching: 'staff'
};

/** Fields as they are called where they are shown; the others say themselves. */
const fieldWords: Readonly<Record<string, string>> = {
	givenName: 'given name',
	familyName: 'family name',
	gradeLevel: 'grade',
	hasInbox: 'inbox',
	identifier: 'district number',
	startsOn: 'begins',
	endsOn: 'ends before',
	sms: 'number'
};

const whatOf = ({ step }: Done): What => (step.what === 'back' ? 'new' : step.what);

/** Makes the lines of what was done, with names in place of keys. */
export class ChangeList {
	readonly #lineOf: (done: Done) => { file: RosterFile; line: number } | null;
	readonly #leaving: ReadonlyMap<string, number>;
	/** Of new people: the sections they come into, and whose contacts they are. */
	readonly #coming: ReadonlyMap<string, readonly string[]>;
	constructor(
		readonly compared: Pick<Compared, 'before' | 'after' | 'done'>,
		came: Came
	) {
		this.#lineOf = lineFinder(compared.done, came);
		const leaving = new Map<string, number>();
		for (const { change, step } of compared.done) {
			if (change.kind !== 'enrolment' || step.what !== 'gone') continue;
			const student = change.before!.student as string;
			leaving.set(student, (leaving.get(student) ?? 0) + 1);
		}
		this.#leaving = leaving;
		const coming = new Map<string, string[]>();
		const note = (key: string, words: string) => {
			const list = coming.get(key);
			if (list) list.push(words);
			else coming.set(key, [words]);
		};
		for (const { change, step } of compared.done) {
			if (step.what !== 'new' && step.what !== 'back') continue;
			const { kind, after } = change;
			if (kind === 'enrolment')
				note(after!.student as string, this.#section(after!.section as string));
			if (kind === 'contact')
				note(
					after!.person as string,
					`${after!.relation as string} of ${this.#person(after!.student as string)}`
				);
		}
		this.#coming = coming;
	}

	/** Every change that is listed, in the order of its kinds. */
	*all(): Generator<ListedChange> {
		for (const done of this.compared.done) {
			const tab = tabOf[done.change.kind];
			if (tab !== null) yield this.#listed(done, tab);
		}
	}

	#thing<K extends ThingKind>(kind: K, key: string): Thing<K> | undefined {
		const { before, after } = this.compared;
		return (after[kind].get(key) ?? before[kind].get(key)) as Thing<K> | undefined;
	}
	#person(key: string): string {
		const p = this.#thing('person', key);
		return p ? `${p.givenName} ${p.familyName}` : key;
	}
	#section(key: string): string {
		return this.#thing('section', key)?.name ?? key;
	}
	#school(key: string | null): string {
		return key === null ? 'the district' : (this.#thing('school', key)?.name ?? key);
	}

	/** What a thing is called, and what is said beside it. */
	#title({ change }: Done): readonly [title: string, note: string] {
		const thing = (change.after ?? change.before)!;
		switch (change.kind) {
			case 'person': {
				const grade = thing.gradeLevel === null ? '' : `, grade ${thing.gradeLevel as string}`;
				const school = typeof thing.school === 'string' ? `, ${this.#school(thing.school)}` : '';
				return [
					`${thing.givenName as string} ${thing.familyName as string}`,
					thing.kind === 'student' ? `student${grade}${school}` : `adult${school}`
				];
			}
			case 'contact':
				return [
					this.#person(thing.person as string),
					`${thing.relation as string} of ${this.#person(thing.student as string)}`
				];
			case 'enrolment':
				return [
					this.#person(thing.student as string),
					`in ${this.#section(thing.section as string)}`
				];
			case 'teaching':
				return [
					this.#person(thing.person as string),
					`looks after ${this.#section(thing.section as string)}`
				];
			case 'post':
				return [
					this.#person(thing.person as string),
					`${thing.role as string}, ${this.#school(thing.school as string | null)}`
				];
			case 'section': {
				const course = this.#thing('course', thing.course as string);
				return [
					thing.name as string,
					`section, ${course?.title ?? ''}, ${this.#school(course?.school ?? null)}`
				];
			}
			case 'course':
				return [thing.title as string, `course, ${this.#school(thing.school as string)}`];
			default:
				return [thing.name as string, change.kind];
		}
	}

	/** A value as it is read. */
	#value(field: string, value: FieldValue): string {
		if (value === null || value === '') return 'none';
		if (typeof value === 'boolean') return value ? 'yes' : 'no';
		switch (field) {
			case 'school':
				return this.#school(value);
			case 'course':
				return this.#thing('course', value)?.title ?? value;
			case 'term':
				return this.#thing('term', value)?.name ?? value;
			case 'sms':
			case 'phone':
				return phoneText(value);
			default:
				return value;
		}
	}
	#fields(thing: AnyThing, fields: readonly string[]): string[] {
		return fields.flatMap((field) => {
			const value = thing[field];
			if (value === undefined) return [];
			const text = this.#value(field, value);
			// Addresses and numbers say by themselves what they are.
			return field === 'email' && value !== null
				? [text]
				: [`${fieldWords[field] ?? field}: ${text}`];
		});
	}

	#listed(done: Done, tab: Tab): ListedChange {
		const { change, step, here, rowId } = done;
		const what = whatOf(done);
		const [title, note] = this.#title(done);
		const fields = 'set' in step ? Object.keys(step.set) : [];
		const will =
			step.what === 'gone'
				? []
				: step.what === 'new'
					? this.#newWords(change)
					: this.#fields(step.set, fields);
		const was = here && step.what !== 'gone' ? this.#fields(here.thing, fields) : [];
		const at = this.#lineOf(done);
		return {
			tab,
			what,
			line: {
				what,
				key: change.key,
				file: at?.file ?? null,
				line: at?.line ?? null,
				title,
				note,
				was,
				will,
				disputes: disputesOf(done).map(
					(d) =>
						`${fieldWords[d.field] ?? d.field}: mended here to “${this.#value(d.field, d.here)}”`
				),
				follows: this.#follows(done),
				personId: change.kind === 'person' && step.what !== 'new' ? rowId : null
			}
		};
	}

	/** What of a new thing is worth saying. */
	#newWords({ kind, key, after }: Change): string[] {
		const thing = after!;
		switch (kind) {
			case 'person':
				return [
					...(this.#coming.get(key) ?? []).slice(0, 4),
					...this.#fields(
						thing,
						['email', 'sms', 'phone'].filter((slot) => typeof thing[slot] === 'string')
					)
				];
			case 'section':
				return this.#fields(thing, ['term', ...(thing.period === '' ? [] : ['period'])]);
			case 'term':
				return this.#fields(thing, ['startsOn', 'endsOn']);
			default:
				return [];
		}
	}

	/** What follows from a change for whoever writes to these people. */
	#follows({ change, step, here }: Done): string {
		if (change.kind === 'contact') {
			if (step.what === 'gone') return 'is written to no more about this student';
			return '';
		}
		if (change.kind !== 'person') return '';
		if (step.what === 'gone') {
			const sections = this.#leaving.get(change.key) ?? 0;
			return sections === 0
				? 'log stays'
				: `leaves ${count(sections)} ${sections === 1 ? 'section' : 'sections'}; log stays`;
		}
		if (change.after!.kind === 'student') return '';
		const set = step.what === 'changed' || step.what === 'back' ? step.set : change.after!;
		if (step.what === 'changed' && here && typeof set.sms === 'string')
			return 'another number: has not opted in to text';
		if (step.what === 'new') {
			const email = typeof set.email === 'string';
			const text = typeof set.sms === 'string' || typeof set.phone === 'string';
			if (email && text) return 'gets email; not texted until they opt in';
			if (email) return 'gets email';
			return text ? 'not texted until they opt in' : 'nothing to write to';
		}
		return '';
	}
}

/** How many things change, by what becomes of them and where they are listed. */
export function countsOf(done: readonly Done[]): {
	readonly counts: Counts;
	readonly homes: number;
} {
	const counts = noCounts();
	let homes = 0;
	for (const one of done) {
		const tab = tabOf[one.change.kind];
		if (tab !== null) counts[whatOf(one)][tab] += 1;
		else if (one.change.kind === 'home') homes += 1;
	}
	return { counts, homes };
}

/** How much of what the source has said goes or changes. */
export function sharesOf(before: Things, done: readonly Done[]): Share[] {
	const touched = { students: 0, sections: 0, enrolments: 0 };
	for (const { change, step } of done) {
		if (step.what !== 'gone' && step.what !== 'changed') continue;
		if (change.kind === 'person' && (change.before ?? change.after)!.kind === 'student')
			touched.students += 1;
		else if (change.kind === 'section') touched.sections += 1;
		else if (change.kind === 'enrolment') touched.enrolments += 1;
	}
	let students = 0;
	for (const { kind } of before.person.values()) if (kind === 'student') students += 1;
	return [
		{ of: 'students', touched: touched.students, known: students },
		{ of: 'sections', touched: touched.sections, known: before.section.size },
		{ of: 'enrolments', touched: touched.enrolments, known: before.enrolment.size }
	];
}

/** New contacts of whom nobody has said whether they have custody, by relation; the most first. */
export function unsaidOf(put: readonly AnyRow[]): { relation: string; contacts: number }[] {
	const by = groupBy(
		put.filter((row) => row.custody === null && row.guardian === 1),
		(row) => row.relation as string
	);
	return [...by]
		.map(([relation, rows]) => ({ relation, contacts: rows.length }))
		.sort((a, b) => b.contacts - a.contacts);
}

/** The line that a change stands in: of a tie that of either of its ends. */
function lineFinder(
	done: readonly Done[],
	came: Came
): (done: Done) => { file: RosterFile; line: number } | null {
	const enrolments = new Map<string, number>();
	if (done.some((d) => d.change.kind === 'enrolment' || d.change.kind === 'teaching'))
		for (const [id, line] of came.enrollments?.lines ?? [])
			enrolments.set(keyOf(line.class, line.user), came.enrollments!.at.get(id)!);
	const at = (file: RosterFile, key: string) => {
		const line = came[file]?.at.get(key);
		return line === undefined ? null : { file, line };
	};
	return ({ change: { kind, key, after }, step }) => {
		if (after === null || step.what === 'gone') return null;
		switch (kind) {
			case 'person':
				return at('users', key);
			case 'school':
				return at('orgs', key);
			case 'term':
				return at('academicSessions', key);
			case 'course':
				return at('courses', key.split('\n')[0]!);
			case 'section':
				return at('classes', key);
			case 'contact':
				return at('users', after.student as string) ?? at('users', after.person as string);
			case 'post':
				return at('users', after.person as string);
			case 'enrolment':
			case 'teaching': {
				const line = enrolments.get(key);
				return line === undefined ? null : { file: 'enrollments', line };
			}
			default:
				return null;
		}
	};
}
