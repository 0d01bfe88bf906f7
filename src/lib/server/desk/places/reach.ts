import { nameOfLanguage } from '../../../core/copy/language';
import {
	adultsOf,
	hasAdultReading,
	isReachable,
	reachable,
	type ReachedBy
} from '../../../core/plan/reachable';
import { fullName, type Roster } from '../../../core/roster/roster';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import { readRoster } from '../../db/roster';
import { lineOf, placeByKey } from './place';
import type { ReachLine, ReachView } from './types';

const perPage = 50;

/** Which names are asked for. */
export interface ReachAsked {
	readonly by: ReachedBy;
	/** BCP 47 tag that an adult reads; '-' for students without an adult; empty for any. */
	readonly language: string;
	readonly page: number;
}

/** Students by their names, with who is written to for them. */
export const reachLines = (
	roster: Roster,
	ids: readonly number[],
	noteOf: (id: number) => string = () => ''
): ReachLine[] =>
	ids.map((id) => ({
		studentId: id,
		name: fullName(roster.person(id)!),
		note: noteOf(id),
		adults: adultsOf(roster, id)
	}));

/** The names behind a number of how well a place can be reached; null where the user may not see it. */
export async function reachOfPlace(
	db: Db,
	user: User,
	key: string,
	{ by, language, page }: ReachAsked
): Promise<ReachView | null> {
	const roster = await readRoster(db);
	const place = await placeByKey(db, user, roster, key);
	if (!place) return null;
	const tag = language === '-' ? '' : language;
	const found = place.students.filter(
		(id) => isReachable(roster, id, by) && (language === '' || hasAdultReading(roster, id, tag))
	);
	const byName = found
		.map((id) => ({ id, person: roster.person(id)! }))
		.sort(
			(a, b) =>
				a.person.familyName.localeCompare(b.person.familyName) ||
				a.person.givenName.localeCompare(b.person.givenName) ||
				a.id - b.id
		);
	const pages = Math.max(1, Math.ceil(found.length / perPage));
	const shown = Math.min(page, pages);
	const schools = new Map(
		(await db.all<{ id: number; name: string }>('SELECT id, short_name AS name FROM school')).map(
			(s) => [s.id, s.name]
		)
	);
	const noteOf = (id: number) => {
		const { gradeLevel, schoolId } = roster.person(id)!;
		return [gradeLevel === null ? '' : `Grade ${gradeLevel}`, schools.get(schoolId ?? 0) ?? '']
			.filter(Boolean)
			.join(', ');
	};
	return {
		place: lineOf(roster, place),
		languages: reachable(roster, place.students).languages.map((l) => ({
			...l,
			name: l.language === '' ? 'nobody to write to' : nameOfLanguage(l.language)
		})),
		found: found.length,
		page: shown,
		people: reachLines(
			roster,
			byName.slice((shown - 1) * perPage, shown * perPage).map((s) => s.id),
			noteOf
		)
	};
}
