import { count } from '../copy/count';
import type { StudentLeftKind } from '../plan/students-left';
import { stretchWords } from '../time/stretch';
import type { ClockStyle } from '../copy/clock-style';
import { dayTime } from '../time/zone';
import {
	coverageSentence,
	coverWords,
	type Coverage,
	type CoverageUnit,
	type CoverRule
} from './coverage';
import { stateWords } from './evidence-words';
import { deliveryStates, type DeliveryState } from './evidence';
import type { Growth } from './growth';
import { percentWords, type Share } from './share';
import type { Way } from '../roster/way';

/** What an account is made from: counts of the rows that were sent. */
export interface AccountInput {
	readonly subject: string;
	readonly sender: string;
	/** The audience as a sentence. */
	readonly audience: string;
	/** The ways, at once or in turn, as a phrase. */
	readonly ways: string;
	readonly zone: string;
	/** How a time of day is written. */
	readonly style?: ClockStyle;
	/** Instants, ms: of the first and last copy that left, and of the count. */
	readonly firstAt: number | null;
	readonly lastAt: number | null;
	readonly now: number;
	/** Whether nothing more is to leave, and whether it is over. */
	readonly allLeft: boolean;
	readonly ended: boolean;
	readonly unit: CoverageUnit;
	readonly rule: CoverRule;
	readonly coverage: Omit<Coverage, 'standing'>;
	/** People who were written to, each once. */
	readonly people: number;
	readonly byWay: readonly {
		readonly way: Way;
		readonly copies: number;
		readonly states: Readonly<Partial<Record<DeliveryState, number>>>;
	}[];
	/** People without a copy, by the reason. */
	readonly leftOut: readonly { readonly why: string; readonly people: number }[];
	/** Students of whom no copy speaks, by how that came about. */
	readonly studentsLeft: Readonly<Record<StudentLeftKind, number>>;
	/** Students taken out again, by what took them out. */
	readonly takenOut: readonly { readonly why: string; readonly students: number }[];
	/** Copies that failed, by the reason. */
	readonly failed: readonly { readonly why: string; readonly copies: number }[];
	readonly bySchool: readonly (Share & { readonly name: string })[];
	readonly growth: Growth | null;
}

/** A line of an account: what, how many, and a remark. */
interface AccountRow {
	readonly label: string;
	readonly value: string;
	readonly note: string;
}
/** What a part of an account is about. */
type AccountPartKey = 'to' | 'left-out' | 'students' | 'failed' | 'growth' | 'schools';

interface AccountPart {
	readonly key: AccountPartKey;
	/** What it is called, and with its sum where it has one. */
	readonly name: string;
	readonly heading: string;
	readonly rows: readonly AccountRow[];
}

/** The account of a dispatch: to whom, by what, who has read it, and to whom not and why. The same words on the screen, in the mail and on paper. */
export interface Account {
	readonly title: string;
	/** The one sentence that matters. */
	readonly sentence: string;
	/** When, by whom, to whom. */
	readonly about: readonly string[];
	readonly parts: readonly AccountPart[];
}

const row = (label: string, value: string | number, note = ''): AccountRow => ({
	label,
	value: typeof value === 'number' ? count(value) : value,
	note
});
const part = (
	key: AccountPartKey,
	name: string,
	sum: string | null,
	rows: readonly AccountRow[]
): AccountPart => ({ key, name, heading: sum === null ? name : `${name}: ${sum}`, rows });
const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);
const many = (n: number, one: string, more: string): string =>
	`${count(n)} ${n === 1 ? one : more}`;

const sum = (counts: readonly number[]): number => counts.reduce((all, n) => all + n, 0);

const toWhom = ({ people, byWay }: AccountInput): AccountPart =>
	part(
		'to',
		'To whom',
		`${many(people, 'person', 'people')}, ${many(sum(byWay.map((w) => w.copies)), 'copy', 'copies')}`,
		byWay.map(({ way, copies, states }) =>
			row(
				capital(way),
				copies,
				deliveryStates
					.filter((s) => states[s])
					.map((s) => `${count(states[s]!)} ${stateWords[s]}`)
					.join(', ')
			)
		)
	);

const notToWhom = ({ leftOut }: AccountInput): AccountPart =>
	part(
		'left-out',
		'Not to whom, and why',
		many(sum(leftOut.map((l) => l.people)), 'person', 'people'),
		leftOut.map((l) => row(l.why, l.people))
	);

const studentsWithout = ({ studentsLeft, takenOut }: AccountInput): AccountPart =>
	part('students', 'Students without a copy', String(sum(Object.values(studentsLeft))), [
		...(studentsLeft.unreached > 0
			? [row('Nobody could be written to', studentsLeft.unreached)]
			: []),
		...(studentsLeft.alone > 0
			? [row('None of the people asked for is on file', studentsLeft.alone)]
			: []),
		...takenOut.map((t) => row(t.why, t.students))
	]);

const copiesFailed = ({ failed }: AccountInput): AccountPart =>
	part(
		'failed',
		'Copies that failed',
		String(sum(failed.map((f) => f.copies))),
		failed.map((f) => row(capital(f.why), f.copies))
	);

const howItGrew = ({ growth, coverage }: AccountInput): AccountPart =>
	part(
		'growth',
		'How reading grew',
		null,
		(growth?.marks ?? []).map((m, i, all) =>
			row(
				i === all.length - 1 ? 'At this count' : `After ${stretchWords(m.minutes)}`,
				`${count(m.count)} of ${count(coverage.students)}`
			)
		)
	);

const bySchool = (input: AccountInput): AccountPart =>
	part(
		'schools',
		'By school',
		null,
		input.bySchool.map((s) => row(s.name, `${count(s.count)} of ${count(s.of)}`, percentWords(s)))
	);

/** When it left, and whether more is to leave. */
function howFar({ firstAt, lastAt, zone, style, ended, allLeft }: AccountInput): string {
	const left =
		firstAt === null
			? 'Nothing has left yet.'
			: lastAt !== null && lastAt - firstAt >= 60_000
				? `Left from ${dayTime(firstAt, zone, undefined, style)} to ${dayTime(lastAt, zone, undefined, style)}.`
				: `Left ${dayTime(firstAt, zone, undefined, style)}.`;
	const standing = ended
		? 'It has ended.'
		: allLeft
			? 'All copies have left; reading goes on.'
			: 'Not all copies have left yet.';
	return `${left} ${standing}`;
}

/** Makes the account of a dispatch. Parts that say nothing are left away. */
export function accountOf(input: AccountInput): Account {
	const { coverage, unit, rule, zone, now } = input;
	const parts = [toWhom, notToWhom, studentsWithout, copiesFailed, howItGrew, bySchool];
	return {
		title: input.subject,
		sentence: `${coverageSentence({ ...coverage, standing: new Map() }, unit)}.`,
		about: [
			`${input.audience}, by ${input.ways}.`,
			`Sent by ${input.sender}. ${howFar(input)}`,
			unit === 'students' ? `A student is covered when ${coverWords[rule]}.` : '',
			`Counted ${dayTime(now, zone, undefined, input.style)}.`
		].filter(Boolean),
		parts: parts.map((make) => make(input)).filter((p) => p.rows.length > 0)
	};
}

/** An account as plain paragraphs, for a letter. */
export const accountText = (account: Account): string =>
	[
		account.sentence,
		account.about.join('\n'),
		...account.parts.map((p) =>
			[
				p.heading,
				...p.rows.map((r) => `- ${r.label}: ${r.value}${r.note ? ` (${r.note})` : ''}`)
			].join('\n')
		)
	].join('\n\n');
