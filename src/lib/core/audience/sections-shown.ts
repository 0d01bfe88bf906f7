import type { Roster } from '../roster/roster';
import { isPeopleLine, type Audience } from './audience';
import { picksBringing } from './named';
import type { Facts } from './facts';

/** The section each student is shown under: a picked one before any other they are in. */
export function sectionsShown(
	roster: Roster,
	audience: Audience,
	students: ReadonlySet<number>,
	facts: Facts
): Map<number, number | null> {
	const picked = new Map<number, number>();
	for (const line of audience.lines) {
		if (line.verb !== 'and' || isPeopleLine(line)) continue;
		for (const pick of picksBringing(line.of)) {
			if (pick.kind === 'uncovered') {
				// What follows up speaks of the same section as what it follows up.
				for (const dispatchId of pick.ids) {
					for (const id of facts.uncovered(dispatchId)) {
						const section = facts.stoodUnder(dispatchId, id);
						if (section !== null && roster.section(section) && !picked.has(id)) {
							picked.set(id, section);
						}
					}
				}
			}
			if (pick.kind !== 'sections') continue;
			for (const sectionId of pick.ids) {
				for (const id of roster.studentsIn(sectionId)) {
					if (!picked.has(id)) picked.set(id, sectionId);
				}
			}
		}
	}
	const shown = new Map<number, number | null>();
	for (const id of students) {
		shown.set(id, picked.get(id) ?? roster.sectionsOf(id).at(-1)?.id ?? null);
	}
	return shown;
}
