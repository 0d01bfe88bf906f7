import { staffSchools } from '../../access/allowed';
import { workSchool } from '../../access/work-clock';
import type { User } from '../../access/user';
import { zoneOf } from '../../../core/time/clocks';
import { readClocks } from '../../db/school-own';
import type { Query } from '../../db/open';
import type { ClockChoice } from './types';

/** The clocks that a sheet's times can be meant by: the district's first, then those of schools that show another time, and of the one somebody works at. */
export async function clockChoices(
	db: Query,
	user: User
): Promise<{ readonly own: number | null; readonly clocks: readonly ClockChoice[] }> {
	const clocks = await readClocks(db);
	const own = await workSchool(db, user);
	const seen = staffSchools(user);
	const wanted = [...clocks.schools.keys()].filter(
		(id) => clocks.schools.get(id) !== clocks.zone && (seen === null || seen.includes(id))
	);
	const ids = [...new Set([...wanted, ...(own === null ? [] : [own])])];
	const schools = await db.all<{ id: number; name: string }>(
		'SELECT id, name FROM school WHERE id IN (SELECT value FROM json_each($ids)) ORDER BY name',
		{ ids: JSON.stringify(ids) }
	);
	return {
		own,
		clocks: [
			{ schoolId: null, name: 'the district', zone: clocks.zone },
			...schools.map(({ id, name }) => ({ schoolId: id, name, zone: zoneOf(clocks, id) }))
		]
	};
}
