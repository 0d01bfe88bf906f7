import type { DispatchReach, ReachChange, RosterFieldLine } from '$lib/server/desk/reach/types';

const changedLine = (
	line: RosterFieldLine,
	change: ReachChange['sections'][number]
): RosterFieldLine => {
	const standing = new Map(change.rings.map((r) => [r.studentId, r.standing]));
	return {
		...line,
		covered: change.covered,
		unreachable: change.unreachable,
		rings:
			line.rings &&
			line.rings.map((ring) => ({
				...ring,
				standing: standing.get(ring.studentId) ?? ring.standing
			}))
	};
};

/** A page of Reach with what has changed since. */
export function changedReach(reach: DispatchReach, change: ReachChange): DispatchReach {
	const sections = new Map(change.sections.map((s) => [s.sectionId, s]));
	const lines = new Map(change.lines.map((l) => [l.id, l]));
	return {
		...reach,
		asOf: change.asOf,
		coverage: {
			...reach.coverage,
			...change.coverage,
			field: reach.coverage.field.map((line) => {
				const own = sections.get(line.sectionId);
				return own ? changedLine(line, own) : line;
			})
		},
		copies: {
			...reach.copies,
			...change.copies,
			deliveries: reach.copies.deliveries.map((line) => lines.get(line.id) ?? line)
		}
	};
}

/** Whether a change can be laid over a page: it is of the same plan, and nothing is missing between them. */
export const fits = ({ asOf, dispatch }: DispatchReach, change: ReachChange): boolean =>
	change.since <= asOf.event &&
	change.asOf.plan === asOf.plan &&
	change.state === dispatch.state &&
	!change.answered;

/** Whether lines of a page are older than a change that does not say them. */
export function missesLines(reach: DispatchReach, change: ReachChange): boolean {
	if (change.lines.length > 0) return false;
	const touched = new Set(change.touched);
	return reach.copies.deliveries.some((line) => touched.has(line.id));
}
