import { SentenceWords, Stop } from './sentence-words';
import type { NamedKind } from './sentence';

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

/** The words of a sentence, with names that are found. */
export class NamedWords extends SentenceWords {
	constructor(
		text: string,
		readonly names: NameFinder
	) {
		super(text);
	}

	/** The id of the one name that is wanted. */
	protected one(kind: NamedKind, why: string): number {
		const at = this.at;
		const [id, ...more] = this.named(kind);
		if (id === undefined || more.length > 0) throw new Stop(at, why);
		return id;
	}

	/** The ids of a list of names. */
	protected named(kind: NamedKind): number[] {
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
			ids.push(this.find(kind, name, start));
		} while (this.takesComma() || this.takes('and'));
		return ids;
	}

	/** What a name means; where it means nothing, reading stops at it. */
	protected find(kind: NamedKind, name: string, start: number): number {
		const apart = this.brackets();
		try {
			return this.names.find(kind, name, apart);
		} catch (error) {
			if (error instanceof NotFound) throw new Stop(start, error.message);
			throw error;
		}
	}

	protected words(kind: 'grade' | 'role'): string[] {
		const words: string[] = [];
		do words.push(this.word(kind));
		while (this.takesComma() || this.takes('and'));
		return words;
	}

	/** A word that must be known, unless it stands in quotes: then it may be one that nobody has any more. */
	protected word(kind: 'grade' | 'role' | 'relation'): string {
		this.space();
		const at = this.at;
		const quoted = /["“”]/.test(this.text[at] ?? '');
		const word = this.name();
		if (quoted || this.names.isWord(kind, word)) return word;
		throw new Stop(at, `There is no ${kind} "${word}" here; in quotes it is taken all the same.`);
	}
}
