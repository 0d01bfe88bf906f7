import { isPeopleLine, type Audience } from '../../../core/audience/audience';
import { picksOf } from '../../../core/audience/named';
import type { NamedKind } from '../../../core/audience/sentence';
import type { Roster } from '../../../core/roster/roster';
import { nameBook } from '../../db/names';
import type { Query } from '../../db/open';

/** What of an audience's picks is no longer there, counted. */
export async function missingPicks(db: Query, audience: Audience, roster: Roster): Promise<number> {
	const book = await nameBook(db, audience);
	const kinds: Readonly<Record<string, NamedKind>> = {
		sections: 'section',
		courses: 'course',
		terms: 'term',
		schools: 'school',
		groups: 'group',
		students: 'person'
	};
	const gone = (kind: NamedKind | undefined, ids: readonly number[]) =>
		kind ? ids.filter((id) => book.nameOf(kind, id) === undefined).length : 0;
	let missing = 0;
	for (const pick of picksOf(audience)) {
		if (pick.kind === 'grades') continue;
		missing += gone(kinds[pick.kind], pick.ids);
		// An adult in a list of students would be nobody.
		if (pick.kind === 'students') {
			missing += pick.ids.filter((id) => roster.person(id)?.kind === 'adult').length;
		}
		if (pick.kind === 'courses') missing += gone('term', [pick.termId]);
	}
	for (const line of audience.lines) {
		if (!isPeopleLine(line)) continue;
		if (line.people.kind === 'named') missing += gone('person', line.people.ids);
		if (line.people.kind === 'joined') missing += gone('group', line.people.groupIds);
		if (line.people.kind === 'staff') missing += gone('school', line.people.schoolIds);
	}
	return missing;
}
