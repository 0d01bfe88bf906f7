import {
	isPeopleLine,
	picksIn,
	type Audience,
	type AudienceLine,
	type Pick,
	type StudentSet
} from './audience';

/** What an audience names: its picks, and what it asks about beside the roster. */

/** The picks that bring students in: what is excepted brings nobody. */
export function picksBringing(set: StudentSet): Pick[] {
	switch (set.kind) {
		case 'any':
		case 'all':
			return set.of.flatMap(picksBringing);
		case 'except':
			return picksBringing(set.from);
		default:
			return [set];
	}
}

/** Every pick of a line; none for people picked for themselves. */
const picksOfLine = (line: AudienceLine): Pick[] => (isPeopleLine(line) ? [] : picksIn(line.of));

/** Every pick of an audience. */
export const picksOf = (audience: Audience): Pick[] => audience.lines.flatMap(picksOfLine);

/** The earlier dispatches that an audience asks about. */
export const dispatchesOf = (audience: Audience): number[] => [
	...new Set([
		...picksOf(audience).flatMap((p) => (p.kind === 'uncovered' ? p.ids : [])),
		...audience.lines.flatMap((l) =>
			l.only.flatMap((c) => (c.kind === 'outcome' || c.kind === 'coming' ? c.dispatchId : []))
		)
	])
];

/** The markers that an audience asks about. */
export const markersOf = (audience: Audience): number[] => [
	...new Set(
		audience.lines.flatMap((l) => l.only.flatMap((c) => (c.kind === 'marker' ? c.markerId : [])))
	)
];

/** The fixed lists that an audience uses. */
export const listsOf = (audience: Audience): number[] => [
	...new Set(
		audience.lines.flatMap((l) =>
			isPeopleLine(l) && l.people.kind === 'list' ? l.people.keptId : []
		)
	)
];

/** The open groups whose joined ones an audience means. */
export const joinedGroupsOf = (audience: Audience): number[] => [
	...new Set(
		audience.lines.flatMap((l) =>
			isPeopleLine(l) && l.people.kind === 'joined' ? l.people.groupIds : []
		)
	)
];

/** The sections an audience names, each once, in the order they were picked. */
export function sectionsOf(audience: Audience): number[] {
	return [...new Set(picksOf(audience).flatMap((p) => (p.kind === 'sections' ? p.ids : [])))];
}
