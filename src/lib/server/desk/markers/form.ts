import { may } from '../../access/may';
import type { User } from '../../access/user';
import { districtDay } from '../../db/district';
import type { Query } from '../../db/open';
import type { MarkerForm } from './types';

/** What the form of a new marker offers. */
export async function markerForm(db: Query, user: User): Promise<MarkerForm> {
	return {
		schools: (
			await db.all<{ id: number; name: string }>('SELECT id, name FROM school ORDER BY name')
		).filter((school) => may(user, 'make-marker', school.id)),
		wholeDistrict: may(user, 'make-marker', null),
		terms: await db.all(
			'SELECT id, name FROM term WHERE ends_on > $today ORDER BY starts_on, ends_on LIMIT 40',
			{ today: await districtDay(db) }
		)
	};
}
