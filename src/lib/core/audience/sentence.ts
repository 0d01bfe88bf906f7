import {
	isPeopleLine,
	type Audience,
	type AudienceLine,
	type ComingState,
	type Condition,
	type MeantKind,
	type People,
	type StudentSet
} from './audience';
import type { MarkTest } from '../roster/marker';

/** What an audience can name. */
export type NamedKind =
	'section' | 'course' | 'term' | 'school' | 'group' | 'person' | 'dispatch' | 'list' | 'marker';

/**
 * A name for every id, each fit to find the one thing again: "Homeroom 2-A", or with what tells it
 * apart in brackets, "Homeroom 2-A (Fall 2026)". Undefined for what is no longer there.
 */
export interface NameBook {
	nameOf(kind: NamedKind, id: number): Name | undefined;
	/** "Spanish" for "es". */
	language(tag: string): string;
}

export interface Name {
	readonly name: string;
	/** What tells it from others of its name; none where nothing is needed. */
	readonly apart: readonly string[];
}

export const meantWords: Readonly<Record<Exclude<MeantKind['kind'], 'relation'>, string>> = {
	students: 'students',
	guardians: 'guardians',
	'all-guardians': 'all guardians whether with custody or without',
	emergency: 'emergency contacts',
	'other-contacts': 'other contacts',
	'section-staff': 'teachers'
};

/** A name that holds a word or sign the sentence is built with stands in quotes. */
const joints =
	/[",;()#“”]|^\s|\s$|\s\s|[^\S ]|\.$|(^| )(and|in|at|by|of)( |$)|^(course|term|school|grade|group|the|any|all|no|who|but|with|without|not)( |$)/i;

/** A name as it stands in a sentence: in quotes where it could be taken for something else. */
const quoteName = (name: string): string =>
	joints.test(name) || name === '' ? `"${name.replaceAll('"', '""')}"` : name;

/** A name with what tells it apart: `"Diesel and Electrics-A" (Fall 2026)`. */
const nameWords = ({ name, apart }: Name): string =>
	quoteName(name) + (apart.length > 0 ? ` (${apart.map(apartWord).join(', ')})` : '');

/** In brackets only what ends a word there is put into quotes. */
const apartWord = (word: string): string =>
	/[(),"“”]|^\s|\s$|\s\s|[^\S ]/.test(word) || word === ''
		? `"${word.replaceAll('"', '""')}"`
		: word;

/** "A", "A and B", "A, B and C": as `nameList` in wording, over what is quoted already. */
function listWords(words: readonly string[]): string {
	if (words.length < 2) return words[0] ?? '';
	return `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;
}

/** What is no longer there keeps its number, so that it can be told from the rest and taken out. */
const named = (book: NameBook, kind: NamedKind, ids: readonly number[]): string =>
	ids.length === 0
		? `no ${kind} yet`
		: listWords(
				ids.map((id) => {
					const name = book.nameOf(kind, id);
					return name ? nameWords(name) : `#${id} (no longer there)`;
				})
			);

/** "guardians", "each grandmother". */
const meantWord = (kind: MeantKind): string =>
	kind.kind === 'relation' ? `each ${quoteName(kind.relation)}` : meantWords[kind.kind];

/** Who is meant, to stand before "in": "students", "guardians and teachers of students", "students, and guardians of students,". */
export function whoWords(to: readonly MeantKind[]): string {
	if (to.length === 0) return 'nobody';
	const others = to.filter((t) => t.kind !== 'students').map(meantWord);
	if (others.length === 0) return 'students';
	const ofStudents = `${listWords(others)} of students`;
	return others.length < to.length ? `students, and ${ofStudents},` : ofStudents;
}

/** A set in words, to stand after "students in". */
function setWords(set: StudentSet, book: NameBook): string {
	const several = (words: string, of: readonly StudentSet[]) =>
		`${words} of (${of.map((s) => setWords(s, book)).join('; ')})`;
	switch (set.kind) {
		case 'sections':
			return named(book, 'section', set.ids);
		case 'courses':
			return `course ${named(book, 'course', set.ids)} in ${named(book, 'term', [set.termId])}`;
		case 'terms':
			return `term ${named(book, 'term', set.ids)}`;
		case 'schools':
			return `school ${named(book, 'school', set.ids)}`;
		case 'grades':
			return `grade ${listWords(set.levels.map(quoteName)) || 'no grade yet'}`;
		case 'groups':
			return `group ${named(book, 'group', set.ids)}`;
		case 'students':
			return `the list of ${named(book, 'person', set.ids)}`;
		case 'uncovered':
			return `the list not covered by ${named(book, 'dispatch', set.ids)}`;
		case 'any':
		case 'all':
			return several(set.kind, set.of);
		case 'except':
			return `(${setWords(set.from, book)}) except (${setWords(set.minus, book)})`;
	}
}

function conditionWords(condition: Condition, book: NameBook): string {
	switch (condition.kind) {
		case 'language':
			return `who read ${listWords(condition.tags.map((t) => quoteName(book.language(t))))}`;
		case 'email':
			return condition.works ? 'who have a working email' : 'who have no working email';
		case 'text':
			return condition.optedIn ? 'who opted in to text' : 'who have not opted in to text';
		case 'household':
			return condition.shared ? 'who live with the student' : 'who live elsewhere';
		case 'outcome':
			return `${condition.read ? 'who have read' : 'who have not read'} ${named(book, 'dispatch', [condition.dispatchId])}`;
		case 'coming':
			return `who ${comingStateWords[condition.is]} ${named(book, 'dispatch', [condition.dispatchId])}`;
		case 'marker':
			return `${markWords(condition.is)} the marker ${named(book, 'marker', [condition.markerId])}`;
	}
}

/** Before the name of an invitation, after "who". */
export const comingStateWords: Readonly<Record<ComingState, string>> = {
	comes: 'come to',
	waits: 'stand in line for',
	not: 'do not come to',
	unsaid: 'have not answered'
};

/** Before "the marker": words that a marker says stand in quotes, so that they are taken for nothing else. */
function markWords(is: MarkTest): string {
	switch (is.test) {
		case 'has':
			return 'who have';
		case 'lacks':
			return 'who lack';
		case 'is':
			return `who have "${is.value.replaceAll('"', '""')}" in`;
		case 'before':
		case 'from':
			return `who have a day ${is.test} ${is.day} in`;
	}
}

/** People picked for themselves. */
function peopleWords(people: People, book: NameBook): string {
	switch (people.kind) {
		case 'staff': {
			const roles =
				people.roles.length === 0
					? 'all staff'
					: `staff with the role ${listWords(people.roles.map(quoteName))}`;
			return people.schoolIds.length === 0
				? roles
				: `${roles} at ${named(book, 'school', people.schoolIds)}`;
		}
		case 'joined':
			return `all who joined the group ${named(book, 'group', people.groupIds)}`;
		case 'named':
			return `the people ${named(book, 'person', people.ids)}`;
		case 'list':
			return `the fixed list ${named(book, 'list', [people.keptId])}`;
	}
}

/** One line as a clause: "guardians of students in Homeroom 2-A". */
export function lineWords(line: AudienceLine, book: NameBook): string {
	const only = line.only.map((c) => `, ${conditionWords(c, book)}`).join('');
	return isPeopleLine(line)
		? `${peopleWords(line.people, book)}${only}`
		: `${whoWords(line.to)} in ${setWords(line.of, book)}${only}`;
}

/** The whole audience as a sentence that begins with a capital and has no full stop. `readSentence` makes the audience of it again. */
export function audienceWords(audience: Audience, book: NameBook): string {
	const clauses = audience.lines.map((line, i) => {
		const words = lineWords(line, book);
		if (i === 0 && line.verb === 'and') return words;
		return `${line.verb === 'and' ? 'and' : 'but not'} ${words}`;
	});
	for (const [way, word] of [
		['in', 'with'],
		['out', 'without']
	] as const) {
		const ids = audience.byHand.filter((h) => h.way === way).map((h) => h.personId);
		if (ids.length > 0) clauses.push(`${word} ${named(book, 'person', ids)} by hand`);
	}
	const sentence = clauses.join(', ');
	return sentence === '' ? 'Nobody yet' : sentence[0]!.toUpperCase() + sentence.slice(1);
}
