import { count } from '../copy/count';
import type { Tally } from './tally';
import { nameList } from '../copy/names';

/** One line of the standing check. `where` names the part of the sheet it belongs to. */
export interface Check {
	readonly level: 'block' | 'caution' | 'fine';
	readonly where:
		'who' | 'ways' | 'subject' | 'body' | 'letter' | 'files' | 'languages' | 'when' | 'result';
	/** What is so, and what to do. */
	readonly text: string;
	/** Names of the people it is about, where they are to be listed. */
	readonly names?: readonly string[];
}

/** What the standing check looks at. */
export interface CheckInput {
	/** How many sections, groups, grades and so on are picked. */
	readonly pickCount: number;
	/** How many people are put in by hand, and whether the writer may do that. */
	readonly byHandIn: number;
	readonly mayAddByHand: boolean;
	/** How many students picked one by one the writer may not write to. */
	readonly forbiddenStudents: number;
	/** Whether groups, schools, grades or courses were picked, of which only the writer's own students are written to. */
	readonly keptToOwn: boolean;
	/** Names of picked sections the writer may not write to. */
	readonly forbidden: readonly string[];
	/** How many picked sections are no longer on the roster. */
	readonly missing: number;
	/** Names of the terms the picks speak of, and how many students are in more than one of them. */
	readonly terms: { readonly names: readonly string[]; readonly studentsInSeveral: number };
	/** Kinds of people that come in only by an explicit choice, as words. */
	readonly explicit: readonly string[];
	readonly wayCount: number;
	/** What is to be said of the wording, from `wordingChecks`. */
	readonly wording: readonly Check[];
	/** What is to be said of the time, from `timingChecks`. */
	readonly timing: readonly Check[];
	readonly tally: Tally;
	/** Names of sections in which nobody gets a copy for any student. */
	readonly sectionsWithNobody: readonly string[];
	/** How many of the people have that many messages on the day it leaves, whoever sends them, and this would be one more. */
	readonly heavyDay: { readonly people: number; readonly messages: number; readonly day: string };
	/** Fixed lists and earlier dispatches that are no longer there. */
	readonly gone: readonly string[];
	/** Whether there are people picked for themselves whom the writer may not write to. */
	readonly forbiddenPeople: boolean;
	/** How many of those who are to have a copy for information are not on the staff. */
	readonly notStaff: number;
	/** Adults without custody who are in by the lines' explicit choice or a fixed list. */
	readonly withoutCustody: number;
}

const students = (n: number) => `${count(n)} ${n === 1 ? 'student' : 'students'}`;
const people = (n: number) => `${count(n)} ${n === 1 ? 'person' : 'people'}`;

/** "A, B, C and 4 more": as many names as one reads, of all that there are. */
export const someNames = (
	names: readonly string[],
	most = 3,
	count: number = names.length
): string =>
	count <= most
		? nameList(names)
		: `${names.slice(0, most).join(', ')} and ${count - Math.min(most, names.length)} more`;

/**
 * The standing check: what blocks, what to look at, what is fine, in this order. The same list
 * stands beside the wording and is asked again when the dispatch is sent.
 */
export function standingCheck(input: CheckInput): Check[] {
	const { tally } = input;
	const checks: Check[] = [];
	const say = (level: Check['level'], where: Check['where'], text: string) =>
		checks.push({ level, where, text });

	if (input.pickCount === 0 && input.byHandIn === 0) {
		say('block', 'who', 'Nobody is picked. Pick at least one section, group, grade or school.');
	}
	if (input.forbidden.length > 0) {
		say(
			'block',
			'who',
			`You may not write to ${input.forbidden.join(', ')}. Take it out, or ask the school office to send this.`
		);
	}
	if (input.forbiddenStudents > 0) {
		say(
			'block',
			'who',
			`You may not write to ${students(input.forbiddenStudents)} that ${input.forbiddenStudents === 1 ? 'is' : 'are'} picked one by one. Pick your own sections only, or ask the school office to send this.`
		);
	}
	if (input.byHandIn > 0 && !input.mayAddByHand) {
		say('block', 'who', 'Only the district office puts single people in by hand. Take them out.');
	}
	if (input.forbiddenPeople) {
		say(
			'block',
			'who',
			'You may not write to these staff or people. Take the line out, or ask the district office to send this.'
		);
	}
	if (input.notStaff > 0) {
		say('block', 'result', 'Copies for information go to staff only. Take the others out.');
	}
	if (input.missing > 0) {
		say(
			'block',
			'who',
			`${input.missing} of what is picked ${input.missing === 1 ? 'is' : 'are'} no longer on the roster. Take ${input.missing === 1 ? 'it' : 'them'} out.`
		);
	}
	for (const gone of input.gone) say('block', 'who', `${gone} is no longer there. Take it out.`);
	if (input.wayCount === 0) say('block', 'ways', 'No way is chosen. Choose email, text or inbox.');
	const about = (level: Check['level']) =>
		checks.push(...[...input.wording, ...input.timing].filter((c) => c.level === level));
	about('block');
	if (input.pickCount + input.byHandIn > 0 && input.wayCount > 0 && tally.copies === 0) {
		say(
			'block',
			'result',
			tally.students === 0
				? 'No student is enrolled in what is picked, so nobody would get a copy.'
				: 'Nobody can be reached this way. Choose another way, or look at who is left out.'
		);
	}

	if (input.keptToOwn) {
		say(
			'caution',
			'who',
			'Of the groups, schools, grades and courses picked, only your own students are written to. For the others, ask the school office.'
		);
	}
	if (input.terms.names.length > 1) {
		say(
			'caution',
			'who',
			`Picks from ${input.terms.names.join(' and ')}: ${students(input.terms.studentsInSeveral)} in more than one of them, each counted once.`
		);
	}
	for (const kind of input.explicit) {
		say('caution', 'who', `The list takes in ${kind}, by your choice.`);
	}
	if (input.withoutCustody > 0) {
		say(
			'caution',
			'who',
			`${people(input.withoutCustody)} without custody ${input.withoutCustody === 1 ? 'is' : 'are'} in, by your choice. Look at them in the manifest.`
		);
	}
	if (tally.copies > 0 && tally.studentsWithNobody > 0) {
		say(
			'caution',
			'result',
			`For ${students(tally.studentsWithNobody)} nobody gets a copy. Each stands in the tally with the reason.`
		);
	}
	const meant = tally.people + tally.leftOut;
	for (const { text, people: n } of tally.leftOutBy) {
		if (n * 3 > meant) {
			say(
				'caution',
				'result',
				`More than a third are left out by one reason, ${count(n)} of ${count(meant)}: ${text}. See whether another way reaches them.`
			);
		}
	}
	if (tally.copies > 0 && input.sectionsWithNobody.length > 0) {
		say('caution', 'result', `Nobody can be reached in ${someNames(input.sectionsWithNobody)}.`);
	}
	about('caution');
	if (input.heavyDay.people > 0) {
		const { people: n, messages, day } = input.heavyDay;
		say(
			'caution',
			'when',
			`${people(n)} ${n === 1 ? 'has' : 'have'} ${messages} messages or more on ${day} already. See whether it can go on another day.`
		);
	}

	if (tally.copies > 0 && tally.students > 0 && tally.studentsWithNobody === 0) {
		say('fine', 'result', 'Every student has somebody who gets a copy.');
	}
	about('fine');
	return checks;
}

/** Whether anything stands in the way of sending. */
export const isBlocked = (checks: readonly Check[]): boolean =>
	checks.some((c) => c.level === 'block');
