import { listWords } from '../../../core/copy/list-words';
import { placeLocal } from '../../../core/time/local';
import type { SchoolEvent } from '../../../core/time/school-event';
import type { User } from '../../access/user';
import { eventZones } from '../../db/calendar';
import type { Query } from '../../db/open';
import { readClocks } from '../../db/school-own';
import type { Sheet } from '../sheet/sheet';
import { ownBoards } from './boards-of-sheet';
import type { Planned } from './plan-sheet';

/** An event as a sheet puts it into the calendar, and in whose it will stand. */
export interface EventOfSheet extends Pick<
	SchoolEvent,
	| ('title' | 'startsLocal' | 'endsLocal' | 'allDay' | 'startsAt' | 'endsAt' | 'place')
	| ('schoolIds' | 'sectionIds')
> {
	/** Names of the schools and sections, or of the district; empty where it would stand in nobody’s. */
	readonly names: readonly string[];
	/** Whether something of the audience has no calendar of its own. */
	readonly notAll: boolean;
}

/**
 * The event of a sheet, for the sections, courses and schools that its audience names as a whole, and to all of which
 * whoever writes it writes; null where the sheet has none. A group has no calendar.
 */
export async function eventOfSheet(
	db: Query,
	user: User,
	{ event, wording }: Pick<Sheet, 'event' | 'wording'>,
	{ spoken }: Pick<Planned, 'spoken'>
): Promise<EventOfSheet | null> {
	if (event === null) return null;
	const { on, names: all } = await ownBoards(db, user, spoken);
	const { district, schools, courses } = on;
	const sections = await db.all<{ id: number; name: string }>(
		`SELECT id, name FROM section_now AS section WHERE id IN (SELECT value FROM json_each($sections))
			OR (course_id, term_id) IN (SELECT value ->> '$.id', value ->> '$.termId' FROM json_each($courses)) ORDER BY name, id`,
		{ sections: JSON.stringify(on.sections), courses: JSON.stringify(courses) }
	);
	// An event of the whole district names no school and no section.
	const schoolIds = district ? [] : schools;
	const sectionIds = district ? [] : sections.map((s) => s.id);
	const some = district || schoolIds.length + sectionIds.length > 0;
	const zone = (await eventZones(db, await readClocks(db)))({ schoolIds, sectionIds });
	const { startsLocal, endsLocal, allDay } = event;
	return {
		title: event.title.trim() || listWords(wording.words.subject.trim()).slice(0, 200),
		...{ startsLocal, endsLocal, allDay, place: event.place.trim(), schoolIds, sectionIds },
		startsAt: placeLocal(startsLocal, zone).at,
		endsAt: placeLocal(endsLocal, zone).at,
		names: some ? all : [],
		notAll: on.notFor.length > 0 || on.groups.length > 0
	};
}
