import type { ClockStyle } from './clock-style';
import { DateTime } from 'luxon';
import { dateOfField, markerOfField } from './fields';
import { nameList } from './names';
import { phrasesFor } from './phrases';
import { valuesOf, type Values } from './template';

/** A section as a copy can speak of it. */
export interface SectionFacts {
	readonly name: string;
	readonly period: string;
	/** Names of those who teach it. */
	readonly teachers: readonly string[];
}

/** A student as a copy can speak of them. */
export interface StudentFacts {
	readonly id: number;
	readonly given: string;
	readonly full: string;
	readonly grade: string | null;
	readonly school: string | null;
	/** The section that brought the student in, where one did. */
	readonly section: SectionFacts | null;
	/** What markers that the wording speaks of say of the student, by their numbers: "yes", an ISO date, words. */
	readonly marks?: ReadonlyMap<number, string>;
	/** Whether the copy goes to this very student. */
	readonly own: boolean;
}

/** What a copy can say of its recipient. */
export interface CopyFacts {
	readonly given: string;
	readonly full: string;
	readonly students: readonly StudentFacts[];
	/** IANA zone the reader lives in, where it is known to be another than the school's. */
	readonly zone?: string | null;
}

/** What holds for every copy of a dispatch in one language. */
export interface LanguageFacts {
	readonly language: string;
	/** IANA zone that the wording's times are meant in: the school's. */
	readonly zone: string;
	/** IANA zone they are shown in, where the reader has one of their own. */
	readonly readerZone?: string | null;
	/** Instant at which it leaves, ms. */
	readonly leavesAt: number;
	readonly sender: string;
	/** How a time of day is written in English; other languages write it their own way. */
	readonly style?: ClockStyle;
}

const lists = new Map<string, Intl.ListFormat>();
/** "Ana, Rui and Lia" as a language says it. */
export function listIn(language: string, names: readonly string[]): string {
	if (names.length < 2 || language === 'en') return nameList(names);
	let format = lists.get(language);
	if (!format) {
		format = new Intl.ListFormat(language, { type: 'conjunction' });
		lists.set(language, format);
	}
	return format.format(names);
}

const each = <T>(list: readonly T[]): T[] => [...new Set(list)];

const days = new Map<string, Intl.DateTimeFormat>();
/** An instant as a day, or day and time, in a language and zone; digits as the language's country writes them. */
function dayIn(
	{ language, style }: Pick<LanguageFacts, 'language' | 'style'>,
	zone: string,
	at: number,
	withTime: boolean
): string {
	const key = `${language} ${zone} ${withTime} ${style ?? ''}`;
	let format = days.get(key);
	if (!format) {
		format = new Intl.DateTimeFormat(language === 'en' ? 'en-US' : language, {
			timeZone: zone,
			dateStyle: 'full',
			...(withTime ? { timeStyle: 'short' } : {}),
			...(language === 'en' && style === '24' ? { hourCycle: 'h23' } : {})
		});
		days.set(key, format);
	}
	return format.format(at);
}

/** "PST", as the language says it. */
const zoneName = (language: string, zone: string, at: number): string =>
	new Intl.DateTimeFormat(language === 'en' ? 'en-US' : language, {
		timeZone: zone,
		timeZoneName: 'short'
	})
		.formatToParts(at)
		.find((p) => p.type === 'timeZoneName')?.value ?? zone;

/** The values that are the same for every copy in a language, by the zone of its reader; worked out once for each. */
export function valuesByZone(
	facts: Omit<LanguageFacts, 'readerZone'>,
	names: readonly string[]
): (readerZone: string | null | undefined) => Values {
	const usual = languageValues(facts, names);
	const others = new Map<string, Values>();
	return (readerZone) => {
		if (!readerZone || readerZone === facts.zone) return usual;
		let own = others.get(readerZone);
		if (!own) others.set(readerZone, (own = languageValues({ ...facts, readerZone }, names)));
		return own;
	};
}

/** What a copy can say of its recipient; students in the order of their names. */
export const copyFacts = (
	reader: {
		readonly givenName: string;
		readonly familyName: string;
		readonly zone?: string | null;
	},
	students: readonly StudentFacts[]
): CopyFacts => ({
	zone: reader.zone ?? null,
	given: reader.givenName,
	full: `${reader.givenName} ${reader.familyName}`.trim(),
	students: [...students].sort((a, b) => (a.given < b.given ? -1 : a.given > b.given ? 1 : 0))
});

/** What a marker says, in a language: a yes and a day in its words. */
function markIn(language: string, value: string): string {
	if (value === 'yes') return phrasesFor(language).yes;
	const day = dateOfField(`date:${value}`);
	return day && day.time === null
		? dayIn({ language }, 'UTC', Date.parse(`${day.day}T12:00:00Z`), false)
		: value;
}

/** The values that are the same for every copy in a language: sender, day, and the dates that the wording names. */
function languageValues(facts: LanguageFacts, names: readonly string[]): Values {
	const values = new Map([
		['sender', facts.sender],
		['today', dayIn(facts, facts.readerZone ?? facts.zone, facts.leavesAt, false)]
	]);
	for (const name of names) {
		const date = dateOfField(name);
		if (!date) continue;
		const at = DateTime.fromISO(`${date.day}T${date.time ?? '12:00'}`, { zone: facts.zone });
		// A day by itself is the same day everywhere; a time is shown by the reader's clock, which is then named.
		values.set(
			name,
			date.time === null || !facts.readerZone || facts.readerZone === facts.zone
				? dayIn(facts, facts.zone, at.toMillis(), date.time !== null)
				: `${dayIn(facts, facts.readerZone, at.toMillis(), true)} (${zoneName(facts.language, facts.readerZone, at.toMillis())})`
		);
	}
	return valuesOf(values);
}

/** The sections of a copy, each once. */
export function sectionsOf({ students }: CopyFacts): SectionFacts[] {
	if (students.length === 1) return students[0]!.section ? [students[0]!.section] : [];
	const found = new Map<string, SectionFacts>();
	for (const { section } of students) {
		if (section) found.set(`${section.name} ${section.period}`, section);
	}
	return [...found.values()];
}

/** What several students have, said once, as a language lists it. */
const listed = (language: string, words: readonly (string | null)[]): string =>
	// Most copies speak of one student: no list needs to be made.
	words.length === 1
		? (words[0] ?? '')
		: listIn(language, each(words.flatMap((w) => (w ? [w] : []))));

/** What a marker says of the students of a copy; null where a field is of none. */
function markOf(field: string, students: readonly StudentFacts[], language: string): string | null {
	const marker = field.startsWith('marker:') ? markerOfField(field) : null;
	if (!marker) return null;
	const said = students.map((s) => s.marks?.get(marker.id));
	return listed(
		language,
		said.map((value) => (value === undefined ? null : markIn(language, value)))
	);
}

/** The values of one copy, each worked out when it is asked for: what is `common` to all copies in a language, and its own. */
export function copyValues(facts: CopyFacts, common: Values, language: string): Values {
	const { students } = facts;
	const list = (words: readonly (string | null)[]) => listed(language, words);
	return (field) => {
		switch (field) {
			case 'recipient':
				return facts.full;
			case 'first_name':
				return facts.given;
			case 'student':
				return list(students.map((s) => s.given));
			case 'student_full':
				return list(students.map((s) => s.full));
			case 'grade':
				return list(students.map((s) => s.grade));
			case 'school':
				return list(students.map((s) => s.school));
			case 'section':
				return list(sectionsOf(facts).map((s) => s.name));
			case 'period':
				return list(sectionsOf(facts).map((s) => s.period));
			case 'teacher':
				return list(sectionsOf(facts).flatMap((s) => s.teachers));
			default:
				return markOf(field, students, language) ?? common(field);
		}
	};
}
