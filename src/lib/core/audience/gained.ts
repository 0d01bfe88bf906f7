import {
	isPeopleLine,
	type Audience,
	type AudienceLine,
	type StudentLine,
	type StudentSet
} from './audience';

/**
 * The audience of a sheet that leaves whenever a student gains a marker. It is about students: people
 * picked for themselves, and those put in by hand, would get it anew for each of them.
 */
const studentLines = (audience: Audience, of: (line: StudentLine) => StudentLine): Audience => ({
	...audience,
	lines: audience.lines.flatMap((line): AudienceLine[] =>
		isPeopleLine(line) ? (line.verb === 'but-not' ? [line] : []) : [of(line)]
	),
	byHand: audience.byHand.filter((h) => h.way === 'out')
});

/** Whether an audience names anybody who would get it anew for each student. */
export const namesForThemselves = (audience: Audience): boolean =>
	audience.lines.some((line) => isPeopleLine(line) && line.verb === 'and') ||
	audience.byHand.some((h) => h.way === 'in');

/** A line without what it asks of the marker itself: a student who has gained it lacks it no more, and is meant all the same. */
const withoutMarker = (line: StudentLine, markerId: number): StudentLine => ({
	...line,
	only: line.only.filter((c) => c.kind !== 'marker' || c.markerId !== markerId)
});

/** The audience, asking of its students that they have the marker, or lack it. */
const asking = (audience: Audience, markerId: number, test: 'has' | 'lacks'): Audience =>
	studentLines(audience, (said) => {
		if (said.verb === 'but-not') return said;
		const line = withoutMarker(said, markerId);
		return { ...line, only: [...line.only, { kind: 'marker', markerId, is: { test } }] };
	});

/** Whom it may still come to: the people of the students who lack the marker. */
export const mayStillGain = (audience: Audience, markerId: number): Audience =>
	asking(audience, markerId, 'lacks');

/** The audience as it is said of what has left: of those who have the marker, without naming thousands of them. */
export const whoHaveIt = (audience: Audience, markerId: number): Audience =>
	asking(audience, markerId, 'has');

/** Whom it comes to now: the people of those students of it who have gained the marker. */
export const haveGained = (
	audience: Audience,
	markerId: number,
	studentIds: readonly number[]
): Audience =>
	studentLines(audience, (said) => {
		if (said.verb === 'but-not') return said;
		const line = withoutMarker(said, markerId);
		const gained: StudentSet = { kind: 'students', ids: [...studentIds] };
		return { ...line, of: { kind: 'all', of: [line.of, gained] } };
	});
