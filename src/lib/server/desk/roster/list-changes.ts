import { count } from '../../../core/copy/count';
import { nameOfLanguage } from '../../../core/copy/language';
import { phoneText } from '../../../core/format/phone';
import type { Came } from '../../../core/format/oneroster/book';
import type { Tab } from '../../../core/roster/counts';
import type { Change } from '../../../core/roster/difference';
import { fieldWord } from '../../../core/roster/field-words';
import type { AnyThing, FieldValue, Thing, ThingKind } from '../../../core/roster/things';
import type { Compared } from './compare';
import { tabOf, whatOf } from './count-changes';
import { lineFinder, type FindLine } from './line-of-change';
import type { ListedChange } from './look-file';
import { disputesOf, type Done } from './plan-work';

/** Makes the lines of what was done, with names in place of keys. */
export class ChangeList {
	readonly #lineOf: FindLine;
	readonly #leaving: ReadonlyMap<string, number>;
	/** Of new people: the sections they come into, and whose contacts they are. */
	readonly #coming: ReadonlyMap<string, readonly string[]>;
	constructor(
		readonly compared: Pick<Compared, 'before' | 'after' | 'done' | 'studentNames'>,
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
		return p
			? `${p.givenName} ${p.familyName}`.trim()
			: (this.compared.studentNames.get(key) ?? key);
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
			case 'sectionStaff':
				return [
					this.#person(thing.person as string),
					`looks after ${this.#section(thing.section as string)}`
				];
			case 'staffRole':
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
			case 'language':
				return nameOfLanguage(value);
			case 'texts':
				return value === 'in' ? 'opted in' : 'opted out';
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
			return field === 'email' && value !== null ? [text] : [`${fieldWord(field)}: ${text}`];
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
					(d) => `${fieldWord(d.field)}: mended here to “${this.#value(d.field, d.here)}”`
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
						['email', 'sms', 'phone', 'language'].filter((slot) => typeof thing[slot] === 'string')
					)
				];
			case 'contact':
				return this.#fields(thing, ['custody', 'correspondence', 'emergency']);
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
			const lost =
				'set' in step && (step.set.custody === false || step.set.correspondence === false);
			if (step.what === 'gone' || lost) return 'is written to no more about this student';
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
			if (text && set.texts === 'in') return email ? 'gets email and texts' : 'gets texts';
			if (email && text) return 'gets email; not texted until they opt in';
			if (email) return 'gets email';
			return text ? 'not texted until they opt in' : 'nothing to write to';
		}
		return '';
	}
}
