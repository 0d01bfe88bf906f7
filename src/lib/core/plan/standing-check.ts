import { count } from '../copy/count';
import { block, caution, someNames, type Check } from './check';
import type { Tally } from './tally';

/** What the standing check looks at. */
export interface CheckInput {
	/** How many sections, groups, grades and so on are picked. */
	readonly pickCount: number;
	/** How many people are put in by hand, and whether the writer may do that. */
	readonly byHandIn: number;
	readonly mayAddByHand: boolean;
	/** Whether the writer may let anything leave; and for how many of the students, though they may be written to, not. */
	readonly maySend: boolean;
	readonly notToSend: number;
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
	/** How many boards it stands on: what goes by no way may still stand there. */
	readonly boardCount: number;
	/** What is to be said of the boards, from `boardChecks`. */
	readonly board: readonly Check[];
	/** What is to be said of the feed that the words come from, from `feedChecks`. */
	readonly feed: readonly Check[];
	/** What is to be said of what it asks, from `invitationChecks`. */
	readonly invitation: readonly Check[];
	/** What is to be said of the event it puts into the calendar, from `eventChecks`. */
	readonly event: readonly Check[];
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

/** One question of the check: what is to be said, where something is. */
type Question = (input: CheckInput) => Check | readonly Check[] | null;

/** What only stands in the way where it is so. */
const inTheWay: readonly Question[] = [
	({ pickCount, byHandIn }) =>
		pickCount === 0 && byHandIn === 0
			? block('who', 'Nobody is picked. Pick at least one section, group, grade or school.')
			: null,
	({ forbidden }) =>
		forbidden.length > 0
			? block(
					'who',
					`You may not write to ${forbidden.join(', ')}. Take it out, or ask the school office to send this.`
				)
			: null,
	({ forbiddenStudents: n }) =>
		n > 0
			? block(
					'who',
					`You may not write to ${students(n)} that ${n === 1 ? 'is' : 'are'} picked one by one. Pick your own sections only, or ask the school office to send this.`
				)
			: null,
	({ maySend, notToSend: n }) => {
		if (!maySend)
			return block(
				'result',
				'You may write sheets and not send them. It is kept as your draft: the school office can send it.'
			);
		return n > 0
			? block(
					'who',
					`You may write to ${students(n)} of these and not send to them. Take them out, or ask the school office to send this.`
				)
			: null;
	},
	({ byHandIn, mayAddByHand }) =>
		byHandIn > 0 && !mayAddByHand
			? block('who', 'Only the district office puts single people in by hand. Take them out.')
			: null,
	({ forbiddenPeople }) =>
		forbiddenPeople
			? block(
					'who',
					'You may not write to these staff or people. Take the line out, or ask the district office to send this.'
				)
			: null,
	({ notStaff }) =>
		notStaff > 0
			? block('result', 'Copies for information go to staff only. Take the others out.')
			: null,
	({ missing: n }) => {
		if (n === 0) return null;
		const [are, them] = n === 1 ? ['is', 'it'] : ['are', 'them'];
		return block('who', `${n} of what is picked ${are} no longer on the roster. Take ${them} out.`);
	},
	({ gone }) => gone.map((name) => block('who', `${name} is no longer there. Take it out.`)),
	({ wayCount, boardCount }) =>
		wayCount === 0 && boardCount === 0
			? block('ways', 'No way is chosen. Choose email, text or inbox.')
			: null,
	(input) => ofLevel(input, 'block'),
	({ pickCount, byHandIn, wayCount, tally }) =>
		pickCount + byHandIn > 0 && wayCount > 0 && tally.copies === 0
			? block(
					'result',
					tally.students === 0
						? 'No student is enrolled in what is picked, so nobody would get a copy.'
						: 'Nobody can be reached this way. Choose another way, or look at who is left out.'
				)
			: null
];

const toLookAt: readonly Question[] = [
	({ keptToOwn }) =>
		keptToOwn
			? caution(
					'who',
					'Of the groups, schools, grades and courses picked, only your own students are written to. For the others, ask the school office.'
				)
			: null,
	({ terms: { names, studentsInSeveral } }) =>
		names.length > 1
			? caution(
					'who',
					`Picks from ${names.join(' and ')}: ${students(studentsInSeveral)} in more than one of them, each counted once.`
				)
			: null,
	({ explicit }) =>
		explicit.map((kind) => caution('who', `The list takes in ${kind}, by your choice.`)),
	({ withoutCustody: n }) =>
		n > 0
			? caution(
					'who',
					`${people(n)} without custody ${n === 1 ? 'is' : 'are'} in, by your choice. Look at them in the manifest.`
				)
			: null,
	({ tally: { copies, studentsWithNobody: n } }) =>
		copies > 0 && n > 0
			? caution(
					'result',
					`For ${students(n)} nobody gets a copy. Each stands in the tally with the reason.`
				)
			: null,
	({ tally }) => {
		const meant = tally.people + tally.leftOut;
		return tally.leftOutBy
			.filter(({ people: n }) => n * 3 > meant)
			.map(({ text, people: n }) =>
				caution(
					'result',
					`More than a third are left out by one reason, ${count(n)} of ${count(meant)}: ${text}. See whether another way reaches them.`
				)
			);
	},
	({ tally, sectionsWithNobody }) =>
		tally.copies > 0 && sectionsWithNobody.length > 0
			? caution('result', `Nobody can be reached in ${someNames(sectionsWithNobody)}.`)
			: null,
	(input) => ofLevel(input, 'caution'),
	({ heavyDay: { people: n, messages, day } }) =>
		n > 0
			? caution(
					'when',
					`${people(n)} ${n === 1 ? 'has' : 'have'} ${messages} messages or more on ${day} already. See whether it can go on another day.`
				)
			: null
];

const fine: readonly Question[] = [
	({ tally }) =>
		tally.copies > 0 && tally.students > 0 && tally.studentsWithNobody === 0
			? {
					level: 'fine',
					where: 'result',
					text: 'Every student has somebody who gets a copy.'
				}
			: null,
	(input) => ofLevel(input, 'fine')
];

/** What was said of the feed, what it asks, the wording, the time, the boards and the calendar, of one level. */
const ofLevel = (
	{ feed, invitation, wording, timing, board, event }: CheckInput,
	level: Check['level']
): Check[] =>
	[...feed, ...invitation, ...wording, ...timing, ...board, ...event].filter(
		(c) => c.level === level
	);

/**
 * The standing check: what blocks, what to look at, what is fine, in this order. The same list
 * stands beside the wording and is asked again when the dispatch is sent.
 */
export const standingCheck = (input: CheckInput): Check[] =>
	[...inTheWay, ...toLookAt, ...fine].flatMap((ask) => ask(input) ?? []);
