import type { BookFile } from './book';

/** Where something stands in a roster file; lines are counted from 1, the heading is line 1. */
interface Place {
	readonly file: BookFile;
	readonly line: number;
}

/** What is wrong with a line, as data; {@link faultText} makes the phrase. */
export type Wrong =
	/** A cell that a line cannot do without is empty. */
	| { readonly code: 'empty'; readonly column: string }
	| {
			readonly code: 'too-long';
			readonly column: string;
			readonly length: number;
			readonly most: number;
	  }
	| { readonly code: 'no-date'; readonly column: string; readonly value: string }
	| { readonly code: 'no-address'; readonly column: string; readonly value: string; why: string }
	| { readonly code: 'no-number'; readonly column: string; readonly value: string }
	| {
			readonly code: 'not-one-of';
			readonly column: string;
			readonly value: string;
			readonly of: readonly string[];
	  }
	/** The first line that has the same sourcedId. */
	| { readonly code: 'twice'; readonly id: string; readonly first: number }
	/** What a cell names is in no line of the file where it should be. */
	| {
			readonly code: 'unknown';
			readonly column: string;
			readonly id: string;
			readonly file: BookFile;
	  }
	/** What a cell names stands in a line that stays out itself. */
	| {
			readonly code: 'out-itself';
			readonly column: string;
			readonly id: string;
			readonly file: BookFile;
			readonly line: number;
	  }
	| { readonly code: 'cells'; readonly has: number; readonly heading: number }
	| { readonly code: 'ends-before'; readonly starts: string; readonly ends: string }
	/** Sessions are each other's parents. */
	| { readonly code: 'circle'; readonly ids: readonly string[] }
	/** An organisation that should be a school and is none. */
	| {
			readonly code: 'no-school';
			readonly column: string;
			readonly id: string;
			readonly is: string;
	  }
	/** A person without any role, or with one that has no part here. */
	| { readonly code: 'no-role' }
	/** Of a contact list: no student, or more than one, is what a line says. */
	| { readonly code: 'no-student'; readonly value: string }
	| { readonly code: 'several-students'; readonly value: string; readonly students: number }
	/** A student of two households: a list cannot say in which somebody lives. */
	| { readonly code: 'two-homes' }
	| { readonly code: 'no-language'; readonly column: string; readonly value: string }
	/** Of a card (vCard) that cannot be used: why. */
	| { readonly code: 'card'; readonly name: string; readonly why: string }
	/** The quotes of a line are not as they should be. */
	| { readonly code: 'quotes' };

/** A line of a file with something wrong in it. */
export interface Fault extends Place {
	/** The sourcedId of the line, where it can be read. */
	readonly id: string | null;
	readonly wrong: Wrong;
	/** Whether the rest of the line comes in without that cell; else the whole line stays out. */
	readonly rest: boolean;
}

/** As much of a value as a sentence can bear. */
const short = (value: string): string => (value.length > 60 ? `${value.slice(0, 57)}…` : value);

/** What is wrong, what of it, and what becomes of the line: "“kelp garden” is no mail address (email): it has no @. The rest of the line comes in." */
export function faultText({ wrong, rest }: Pick<Fault, 'wrong' | 'rest'>): string {
	return `${wrongText(wrong)}${rest ? ' The rest of the line comes in.' : ''}`;
}

function wrongText(wrong: Wrong): string {
	switch (wrong.code) {
		case 'empty':
			return `${wrong.column} is empty.`;
		case 'too-long':
			return `${wrong.column} is ${wrong.length} characters long; ${wrong.most} are taken.`;
		case 'no-date':
			return `“${short(wrong.value)}” is no date (${wrong.column}). It has to be a year, month and day, as 2027-03-09.`;
		case 'no-address':
			return `“${short(wrong.value)}” is no mail address (${wrong.column}): ${wrong.why}.`;
		case 'no-number':
			return `“${short(wrong.value)}” is no phone number (${wrong.column}).`;
		case 'not-one-of':
			return `${wrong.column} is “${short(wrong.value)}”; it can be ${wrong.of.join(', ')}.`;
		case 'twice':
			return wrong.id.includes('\n')
				? `The same contact of the same student is in line ${wrong.first} already; that line counts.`
				: `The sourcedId “${short(wrong.id)}” is in line ${wrong.first} already; that line counts.`;
		case 'unknown':
			return `${wrong.column} names “${short(wrong.id)}”, which is in no line of ${wrong.file}.csv.`;
		case 'out-itself':
			return `${wrong.column} names “${short(wrong.id)}”, whose own line stays out (${wrong.file}.csv, line ${wrong.line}).`;
		case 'cells':
			return `The line has ${wrong.has} cells, the heading ${wrong.heading}.`;
		case 'ends-before':
			return `It ends (${wrong.ends}) before it begins (${wrong.starts}).`;
		case 'circle':
			return `Its parents go round in a circle: ${wrong.ids.map(short).join(', ')}.`;
		case 'no-school':
			return `${wrong.column} names “${short(wrong.id)}”, which is a ${short(wrong.is)} and no school.`;
		case 'no-role':
			return 'The person has no role at any school or the district.';
		case 'no-student':
			return `No student here is “${short(wrong.value)}”. Bring the roster first, or correct it.`;
		case 'several-students':
			return `${wrong.students} students are “${short(wrong.value)}”. Say which by number, grade or school.`;
		case 'two-homes':
			return 'The student lives in two households: say on their page in which of them.';
		case 'no-language':
			return `“${short(wrong.value)}” is no language (${wrong.column}). Write its English name or its tag, as “Portuguese” or “pt”.`;
		case 'card':
			return `The card${wrong.name === '' ? '' : ` of “${short(wrong.name)}”`} stays out: ${wrong.why}`;
		case 'quotes':
			return 'Its quotes do not close as they should.';
	}
}
