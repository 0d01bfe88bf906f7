import { toE164 } from '../../format/phone';
import { fold } from '../../format/fold';
import { readYes, readDay, readLanguage } from './values';
import { listFieldNames, listFields, type ListColumns, type ListField } from './fields';

/** Words of a heading that say that a column is about the student, and not about the contact. */
const ofStudent = ['student', 'child', 'pupil', 'learner', 'sta'];

/** Words of a heading by which a column is known; of several that fit, the one with the most words counts. From the ways offices head their lists (common practice). */
const known: Readonly<Record<ListField, readonly string[]>> = {
	studentNumber: [
		'student number',
		'student id',
		'student no',
		'student identifier',
		'student code'
	],
	studentName: ['student name', 'student', 'student full name'],
	studentGivenName: ['student given name', 'student first name', 'student first', 'student given'],
	studentFamilyName: [
		'student family name',
		'student last name',
		'student surname',
		'student last'
	],
	studentGrade: ['student grade', 'grade', 'grade level', 'year level', 'student grade level'],
	studentSchool: ['school', 'school name', 'student school', 'building', 'campus'],
	number: ['contact id', 'contact number', 'guardian id', 'parent id', 'person id', 'contact no'],
	name: [
		'name',
		'full name',
		'contact name',
		'guardian name',
		'parent name',
		'contact',
		'parent guardian'
	],
	givenName: [
		'first name',
		'given name',
		'first',
		'forename',
		'contact first name',
		'guardian first name',
		'parent first name'
	],
	familyName: [
		'last name',
		'family name',
		'surname',
		'last',
		'contact last name',
		'guardian last name',
		'parent last name'
	],
	relation: ['relation', 'relationship', 'relation to student', 'relationship to student'],
	guardian: ['is guardian', 'legal guardian', 'guardian'],
	custody: ['custody', 'has custody', 'custodial', 'legal custody'],
	correspondence: [
		'correspondence',
		'mailings',
		'receives mail',
		'mailing',
		'gets mail',
		'receives correspondence'
	],
	emergency: ['emergency', 'emergency contact', 'is emergency contact'],
	livesWith: ['lives with', 'lives with student', 'same household', 'household', 'resides with'],
	language: [
		'language',
		'home language',
		'preferred language',
		'correspondence language',
		'speaks'
	],
	email: [
		'email',
		'e mail',
		'email address',
		'mail address',
		'contact email',
		'guardian email',
		'parent email'
	],
	sms: [
		'mobile',
		'cell',
		'cell phone',
		'mobile phone',
		'mobile number',
		'cell number',
		'text number',
		'sms'
	],
	phone: [
		'phone',
		'telephone',
		'home phone',
		'phone number',
		'work phone',
		'other phone',
		'landline'
	],
	texts: [
		'text consent',
		'text opt in',
		'sms consent',
		'sms opt in',
		'may text',
		'opted in',
		'ok to text',
		'opt in',
		'consent to text'
	],
	textsSince: [
		'text consent date',
		'opt in date',
		'opted in on',
		'consent date',
		'sms consent date',
		'date of consent'
	]
};

const wordsOf = (heading: string): string[] =>
	fold(heading.replace(/([a-z])([A-Z])/g, '$1 $2'))
		.split(/[^\p{L}\p{N}]+/u)
		.filter(Boolean);

/** How well a heading says a field: the words of it that are accounted for; 0 for not at all. */
function fit(heading: string, field: ListField): number {
	// Our own words, as they go out, say it beyond doubt.
	if (fold(heading.trim()) === fold(listFields[field])) return 100;
	const words = wordsOf(heading).map((w) => (ofStudent.includes(w) ? 'student' : w));
	if (words.length === 0) return 0;
	let best = 0;
	for (const name of known[field]) {
		const parts = name.split(' ');
		if (!parts.every((part) => words.includes(part))) continue;
		// Of two that fit, the one that leaves fewer words over.
		best = Math.max(best, parts.length + parts.length / words.length);
	}
	// A column about the student is none about the contact, but what ties the two names both.
	const about = words.includes('student');
	const both = field === 'relation' || field === 'livesWith';
	return about && !field.startsWith('student') && !both ? 0 : best;
}

/** Most of the cells that hold something are so. */
const mostly = (cells: readonly string[], is: (cell: string) => boolean): boolean => {
	const full = cells.filter((cell) => cell.trim() !== '');
	return full.length > 0 && full.filter(is).length / full.length >= 0.8;
};

const relations = new Set(
	'mother father parent guardian stepmother stepfather grandmother grandfather aunt uncle neighbor neighbour sister brother friend'.split(
		' '
	)
);

/** What a column holds, by its cells alone; undefined where they tell nothing. */
function byContent(cells: readonly string[], country: string): ListField[] {
	if (mostly(cells, (c) => /^\S+@\S+\.\S+$/.test(c.trim()))) return ['email'];
	if (mostly(cells, (c) => /\d{3}/.test(c) && toE164(c, country) !== null)) return ['sms', 'phone'];
	if (mostly(cells, (c) => relations.has(fold(c.trim())))) return ['relation'];
	if (mostly(cells, (c) => /\p{L}/u.test(c) && readLanguage(c) !== undefined)) return ['language'];
	return [];
}

/** Whether what stands in a column can be what its heading says. */
function speaksAgainst(field: ListField, cells: readonly string[]): boolean {
	switch (field) {
		case 'email':
			return !mostly(cells, (c) => c.includes('@')) && mostly(cells, () => true);
		case 'guardian':
		case 'custody':
		case 'correspondence':
		case 'emergency':
		case 'livesWith':
		case 'texts':
			return mostly(cells, () => true) && !mostly(cells, (c) => readYes(c) !== undefined);
		case 'textsSince':
			return (
				mostly(cells, () => true) && !mostly(cells, (c) => readDay(c, 'month-first') !== undefined)
			);
		default:
			return false;
	}
}

/**
 * What each column of a list is, by its heading and by what stands in it. Each field is given once, to
 * the column that says it best; the rest is passed over until somebody says otherwise. `rows` are some
 * of the lines below the heading; numbers are read as in a country (ISO 3166-1).
 */
export function matchColumns(
	heading: readonly string[],
	rows: readonly (readonly string[])[],
	country: string
): ListColumns {
	const cellsOf = (i: number) => rows.map((row) => row[i] ?? '');
	const columns: (ListField | null)[] = heading.map(() => null);
	const taken = new Set<ListField>();
	const give = (i: number, field: ListField) => {
		columns[i] = field;
		taken.add(field);
	};
	const fits = heading
		.flatMap((title, i) => listFieldNames.map((field) => ({ i, field, fit: fit(title, field) })))
		.filter((f) => f.fit > 0 && !speaksAgainst(f.field, cellsOf(f.i)))
		.sort((a, b) => b.fit - a.fit);
	for (const { i, field } of fits) if (columns[i] === null && !taken.has(field)) give(i, field);
	heading.forEach((_, i) => {
		if (columns[i] !== null) return;
		const field = byContent(cellsOf(i), country).find((f) => !taken.has(f));
		if (field) give(i, field);
	});
	return columns;
}
