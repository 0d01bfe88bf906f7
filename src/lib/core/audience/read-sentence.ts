import type { AudienceLine, MeantKind, People, StudentSet } from './audience';
import { ConditionWords } from './read-condition';
import { meantWords } from './sentence';
import type { NameFinder } from './sentence-names';
import { Stop } from './sentence-words';

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

class Reader extends ConditionWords {
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
		const ids = this.named('person');
		this.wants('by hand');
		return ids;
	}

	#line(verb: AudienceLine['verb']): AudienceLine {
		const people = this.#people();
		if (people) return { verb, people, only: this.conditions() };
		const to = this.#who();
		this.wants('in');
		const of = this.#set(0);
		return { verb, to, of, only: this.conditions() };
	}

	#people(): People | null {
		if (this.takes('the fixed list')) {
			return {
				kind: 'list',
				keptId: this.one('list', 'One fixed list to a line; put the other in a line of its own.')
			};
		}
		if (this.takes('the people')) return { kind: 'named', ids: this.named('person') };
		if (this.takes('all who joined the group'))
			return { kind: 'joined', groupIds: this.named('group') };
		const every = this.takes('all staff');
		if (!every && !this.takes('staff with the role')) return null;
		const roles = every ? [] : this.words('role');
		return { kind: 'staff', roles, schoolIds: this.takes('at') ? this.named('school') : [] };
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
			if (this.takes('each')) to.push({ kind: 'relation', relation: this.word('relation') });
			else {
				const found = meantByWord.find(({ words }) => this.takes(words));
				if (!found) {
					this.stop(
						'Here stands who is meant: "students", "guardians", "teachers", "emergency contacts", "each aunt", or "all staff", "all who joined the group", "the people", "the fixed list"'
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
			return { kind: 'uncovered', ids: this.named('dispatch') };
		}
		if (this.takes('the list of')) {
			const at = this.at;
			const ids = this.named('person');
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
			const ids = this.named('course');
			this.wants('in');
			return { kind: 'courses', ids, termId: this.one('term', 'One term is wanted here.') };
		}
		if (this.takes('term')) return { kind: 'terms', ids: this.named('term') };
		if (this.takes('school')) return { kind: 'schools', ids: this.named('school') };
		if (this.takes('group')) return { kind: 'groups', ids: this.named('group') };
		if (this.takes('grade')) {
			return { kind: 'grades', levels: this.takes('no grade yet') ? [] : this.words('grade') };
		}
		return { kind: 'sections', ids: this.named('section') };
	}
}
