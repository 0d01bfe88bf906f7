import { everyLanguage, nameOfLanguage } from '../../../core/copy/language';
import { may } from '../../access/may';
import type { User } from '../../access/user';
import type { Query } from '../../db/open';
import type { FormLists } from './types';

/** What the forms of people offer: languages, those that are read here first; schools that the user may put somebody into; staff roles there are. */
export async function formLists(db: Query, user: User): Promise<FormLists> {
	const read = await db.all<{ language: string }>(
		'SELECT language FROM person_now GROUP BY language ORDER BY count(*) DESC LIMIT 12'
	);
	const every = everyLanguage();
	const first = read.map(({ language: tag }) => ({ tag, name: nameOfLanguage(tag) }));
	const here = new Set(first.map((l) => l.tag));
	return {
		languages: [...first, ...every.filter((l) => !here.has(l.tag))],
		schools: (
			await db.all<{ id: number; name: string }>('SELECT id, name FROM school ORDER BY name')
		).filter((school) => may(user, 'look-after', school.id)),
		wholeDistrict: may(user, 'look-after', null),
		roles: (
			await db.all<{ role: string }>('SELECT DISTINCT role FROM staff ORDER BY role LIMIT 100')
		).map((r) => r.role),
		relations: (
			await db.all<{ relation: string }>(
				'SELECT relation FROM contact_now GROUP BY relation ORDER BY count(*) DESC LIMIT 30'
			)
		).map((r) => r.relation)
	};
}
