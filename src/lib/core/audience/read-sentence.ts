import { z } from 'zod';
import type { AudienceLine, Condition, MeantKind, People, StudentSet } from './audience';
import { SentenceWords, Stop } from './sentence-words';
import { meantWords, type NamedKind } from './sentence';
import { mostMarkCharacters, type MarkTest } from '../roster/marker';

/** A name that means nothing here, or more than one thing; its message says so. */
export class NotFound extends Error {}

/** What reading a sentence asks of the roster. */
export interface NameFinder {
	/** The id of what is meant; `apart` is what stood in brackets behind its name, part by part. Throws {@link NotFound} where it is nothing or not one thing. */
	find(kind: NamedKind, name: string, apart: readonly string[]): number;
	/** Whether a person is a student: a list of students holds nobody else. */
	isStudent(personId: number): boolean;
	/** "es" for "Spanish"; undefined for what is no language here. */
	languageTag(name: string): string | undefined;
	/** Whether there is such a grade level, role of staff or relation. */
	isWord(kind: 'grade' | 'role' | 'relation', word: string): boolean;
}

/** What a sentence says: the lines, and who is in or out by hand. */
interface ReadAudience {
	readonly lines: readonly AudienceLine[];
	readonly handIn: readonly number[];
	readonly handOut: readonly number[];
}

export type ReadSentence =
	| { readonly ok: true; readonly audience: ReadAudience }
	/** `at` counts UTF-16 units from the start: where a text field puts its caret. */
	| { readonly ok: false; readonly at: number; readonly why: string };

const meantByWord = Object.entries(meantWords)
	.map(([kind, words]) => ({ kind: kind as keyof typeof meantWords, words }))
	// The longest first: "all guardians …" before "guardians".
	.sort((a, b) => b.words.length - a.words.length);

const isDay = (text: string) => z.iso.date().safeParse(text).success;

/** Nested deeper than an audience may be, reading stops before the stack does. */
const deepest = 8;

/**
 * Reads the sentence that `audienceWords` writes back into data. It reads what that function
 * writes, and a little more: any white space, either kind of quotes, capitals anywhere in the words
 * of the sentence. Grammar, in short: clauses divided by ", and" and ", but not"; a clause is who
 * "in" a set, or people, each with conditions that begin ", who".
 */
export function readSentence(text: string, names: NameFinder): ReadSentence {
	try {
		return { ok: true, audience: new Reader(text, names).audience() };
	} catch (error) {
		if (error instanceof Stop) return { ok: false, at: error.at, why: error.why };
		throw error;
	}
}

class Reader extends SentenceWords {
	constructor(
		text: string,
		readonly names: NameFinder
	) {
		super(text);
	}

	audience(): ReadAudience {
		if (this.takes('nobody yet')) {
			this.end();
			return { lines: [], handIn: [], handOut: [] };
		}
		const lines: AudienceLine[] = [];
		let [handIn, handOut]: [number[], number[]] = [[], []];
		let first = true;
		while (!this.atEnd()) {
			if (!first && !this.takes(',')) this.stop('Here a comma, or the end, is wanted');
			if (this.takes('without')) handOut = this.#byHand();
			else if (this.takes('with')) handIn = this.#byHand();
			else if (this.takes('but not')) lines.push(this.#line('but-not'));
			else {
				if (!first && !this.takes('and')) {
					this.stop('After a comma comes "and", "but not", "who", "with" or "without"');
				}
				lines.push(this.#line('and'));
			}
			first = false;
		}
		if (first) this.stop('The sentence is empty. Begin with "Guardians of students in"');
		return { lines, handIn, handOut };
	}

	#byHand(): number[] {
		const ids = this.#named('person');
		this.wants('by hand');
		return ids;
	}

	#line(verb: AudienceLine['verb']): AudienceLine {
		const people = this.#people();
		if (people) return { verb, people, only: this.#conditions() };
		const to = this.#who();
		this.wants('in');
		const of = this.#set(0);
		return { verb, to, of, only: this.#conditions() };
	}

	#people(): People | null {
		if (this.takes('the fixed list')) {
			return {
				kind: 'list',
				keptId: this.#one('list', 'One fixed list to a line; put the other in a line of its own.')
			};
		}
		if (this.takes('the people')) return { kind: 'named', ids: this.#named('person') };
		const every = this.takes('all staff');
		if (!every && !this.takes('staff with the role')) return null;
		const roles = every ? [] : this.#words('role');
		return { kind: 'staff', roles, schoolIds: this.takes('at') ? this.#named('school') : [] };
	}

	#who(): MeantKind[] {
		const to: MeantKind[] = [];
		if (this.takes('students')) {
			to.push({ kind: 'students' });
			if (!this.takes(', and')) return to;
			to.push(...this.#others());
			this.wants(',');
			return to;
		}
		return this.#others();
	}

	/** "guardians, teachers and each aunt of students". */
	#others(): MeantKind[] {
		const to: MeantKind[] = [];
		do {
			if (this.takes('each')) to.push({ kind: 'relation', relation: this.#word('relation') });
			else {
				const found = meantByWord.find(({ words }) => this.takes(words));
				if (!found) {
					this.stop(
						'Here stands who is meant: "students", "guardians", "teachers", "emergency contacts", "each aunt", or "all staff", "the people", "the fixed list"'
					);
				}
				to.push({ kind: found!.kind });
			}
		} while (this.takes(',') || this.takes('and'));
		this.wants('of students');
		return to;
	}

	#set(depth: number): StudentSet {
		if (depth > deepest) this.stop('This is nested deeper than an audience may be');
		for (const kind of ['any', 'all'] as const) {
			if (!this.takes(`${kind} of`)) continue;
			this.wants('(');
			const of: StudentSet[] = [];
			if (!this.takes(')')) {
				do of.push(this.#set(depth + 1));
				while (this.takes(';'));
				this.wants(')');
			}
			return { kind, of };
		}
		if (this.takes('(')) {
			const from = this.#set(depth + 1);
			this.wants(')');
			this.wants('except');
			this.wants('(');
			const minus = this.#set(depth + 1);
			this.wants(')');
			return { kind: 'except', from, minus };
		}
		if (this.takes('the list not covered by')) {
			return { kind: 'uncovered', ids: this.#named('dispatch') };
		}
		if (this.takes('the list of')) {
			const at = this.at;
			const ids = this.#named('person');
			// Who is not there any more keeps the number, and is said to be gone.
			const other = ids.find((id) => !this.names.isStudent(id));
			if (other !== undefined) {
				throw new Stop(
					at,
					'A list of students holds students only. Others are picked by "the people" and their names.'
				);
			}
			return { kind: 'students', ids };
		}
		if (this.takes('course')) {
			const ids = this.#named('course');
			this.wants('in');
			return { kind: 'courses', ids, termId: this.#one('term', 'One term is wanted here.') };
		}
		if (this.takes('term')) return { kind: 'terms', ids: this.#named('term') };
		if (this.takes('school')) return { kind: 'schools', ids: this.#named('school') };
		if (this.takes('group')) return { kind: 'groups', ids: this.#named('group') };
		if (this.takes('grade')) {
			return { kind: 'grades', levels: this.takes('no grade yet') ? [] : this.#words('grade') };
		}
		return { kind: 'sections', ids: this.#named('section') };
	}

	#conditions(): Condition[] {
		const conditions: Condition[] = [];
		while (this.takes(', who')) conditions.push(this.#condition());
		return conditions;
	}

	#condition(): Condition {
		if (this.takes('have a working email')) return { kind: 'email', works: true };
		if (this.takes('have no working email')) return { kind: 'email', works: false };
		if (this.takes('opted in to text')) return { kind: 'text', optedIn: true };
		if (this.takes('have not opted in to text')) return { kind: 'text', optedIn: false };
		if (this.takes('live with the student')) return { kind: 'household', shared: true };
		if (this.takes('live elsewhere')) return { kind: 'household', shared: false };
		const is = this.#markTest();
		if (is)
			return { kind: 'marker', markerId: this.#one('marker', 'One marker is wanted here.'), is };
		for (const [words, read] of [
			['have read', true],
			['have not read', false]
		] as const) {
			if (!this.takes(words)) continue;
			const dispatchId = this.#one('dispatch', 'One dispatch is wanted here.');
			return { kind: 'outcome', dispatchId, read };
		}
		if (this.takes('read')) {
			const at = this.at;
			const tags: string[] = [];
			do {
				const word = this.name();
				const tag = this.names.languageTag(word);
				if (tag === undefined) throw new Stop(at, `"${word}" is no language of anyone here.`);
				tags.push(tag);
			} while (this.takesComma() || this.takes('and'));
			return { kind: 'language', tags };
		}
		return this.stop(
			'After "who" comes "read" and a language, "have a working email", "opted in to text", "live with the student", "lack the marker" and its name, or "have not read" and a dispatch'
		);
	}

	/** What is asked of a marker, up to its name; undefined where none is asked about. */
	#markTest(): MarkTest | undefined {
		if (this.takes('have the marker')) return { test: 'has' };
		if (this.takes('lack the marker')) return { test: 'lacks' };
		for (const test of ['before', 'from'] as const) {
			if (!this.takes(`have a day ${test}`)) continue;
			this.space();
			const day = /^\d{4}-\d\d-\d\d(?!\d)/.exec(this.text.slice(this.at))?.[0];
			if (day === undefined || !isDay(day)) this.stop('Here a day like 2027-03-12 is wanted');
			this.at += day!.length;
			this.wants('in the marker');
			return { test, day: day! };
		}
		const before = this.at;
		if (!this.takes('have')) return undefined;
		this.space();
		if (!/["“”]/.test(this.text[this.at] ?? '')) {
			this.at = before;
			return undefined;
		}
		const at = this.at;
		const value = this.name();
		if (value === '' || value.length > mostMarkCharacters)
			throw new Stop(at, `Between the quotes stand 1 to ${mostMarkCharacters} characters.`);
		this.wants('in the marker');
		return { test: 'is', value };
	}

	/** The id of the one name that is wanted. */
	#one(kind: NamedKind, why: string): number {
		const at = this.at;
		const [id, ...more] = this.#named(kind);
		if (id === undefined || more.length > 0) throw new Stop(at, why);
		return id;
	}

	/** The ids of a list of names. */
	#named(kind: NamedKind): number[] {
		if (this.takes(`no ${kind} yet`)) return [];
		const ids: number[] = [];
		do {
			this.space();
			const start = this.at;
			const number = /^#(\d{1,15})/.exec(this.text.slice(this.at));
			if (number) {
				this.at += number[0].length;
				this.brackets();
				ids.push(Number(number[1]));
				continue;
			}
			const name = this.name();
			ids.push(this.#find(kind, name, start));
		} while (this.takesComma() || this.takes('and'));
		return ids;
	}

	/** What a name means; where it means nothing, reading stops at it. */
	#find(kind: NamedKind, name: string, start: number): number {
		const apart = this.brackets();
		try {
			return this.names.find(kind, name, apart);
		} catch (error) {
			if (error instanceof NotFound) throw new Stop(start, error.message);
			throw error;
		}
	}

	#words(kind: 'grade' | 'role'): string[] {
		const words: string[] = [];
		do words.push(this.#word(kind));
		while (this.takesComma() || this.takes('and'));
		return words;
	}

	/** A word that must be known, unless it stands in quotes: then it may be one that nobody has any more. */
	#word(kind: 'grade' | 'role' | 'relation'): string {
		this.space();
		const at = this.at;
		const quoted = /["“”]/.test(this.text[at] ?? '');
		const word = this.name();
		if (quoted || this.names.isWord(kind, word)) return word;
		throw new Stop(at, `There is no ${kind} "${word}" here; in quotes it is taken all the same.`);
	}
}
