import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import { person, type PersonRow } from '../../db/models/roster';
import type { Query } from '../../db/open';
import { usualTimeOf } from '../../db/school-own';
import type { PageHead } from './types';

/** The language somebody reads, BCP 47. */
export const languageOfReader = async (db: Query, personId: number): Promise<string> =>
	(await db.rows(person).one({ id: personId }, ['language']))?.language ?? 'en';

/** Somebody for whom a page is written, and by whose clock. */
export interface PageReader extends Pick<PersonRow, 'givenName' | 'familyName' | 'language'> {
	/** Their own where they have one, else that of their students' schools. */
	readonly zone: string;
	readonly ownZone: string | null;
}

/** For whom a page is, and what stands at its head. */
export async function pageFor(
	db: Query,
	personId: number
): Promise<{ readonly reader: PageReader; readonly head: PageHead }> {
	const row = (await db.one<Omit<PageReader, 'zone'>>(
		`SELECT given_name AS givenName, family_name AS familyName, language, zone AS ownZone FROM person
		LEFT JOIN own_time ON person_id = person.id WHERE person.id = $personId`,
		{ personId }
	)) ?? { givenName: '', familyName: '', language: 'en', ownZone: null };
	const { name, clock } = await readDistrict(db);
	const zone = row.ownZone ?? (await usualTimeOf(db, personId)).zone;
	const reader = { ...row, zone };
	return {
		reader,
		head: {
			person: `${row.givenName} ${row.familyName}`.trim(),
			...{ language: row.language, district: name, clock, zone, now: await now(db) }
		}
	};
}
