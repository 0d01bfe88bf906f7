import { isDeepStrictEqual } from 'node:util';
import { readSchoolsOwn, writeSchoolOwn, type SchoolsOwn } from '../../db/school-own';
import { readDistrict, writeDistrict, type District } from '../../db/district';
import type { Query } from '../../db/open';

/** What forms of the settings change: what the district decides, and what its schools have of their own. */
export interface Settled {
	readonly district: District;
	readonly schools: SchoolsOwn;
}

export const readSettled = async (db: Query): Promise<Settled> => ({
	district: await readDistrict(db),
	schools: await readSchoolsOwn(db)
});

/** Puts down what differs. */
export async function writeSettled(tx: Query, before: Settled, after: Settled): Promise<void> {
	if (!isDeepStrictEqual(before.district, after.district)) await writeDistrict(tx, after.district);
	for (const [id, own] of after.schools)
		if (!isDeepStrictEqual(own, before.schools.get(id))) await writeSchoolOwn(tx, id, own);
}
