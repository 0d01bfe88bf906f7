import { wantedBy } from '../../../core/plan/wanted';
import { forecast } from '../../../core/track/expect/forecast';
import type { Db } from '../../db/open';
import { expecting } from '../expect/expecting';
import type { Sheet } from '../sheet/sheet';
import type { Planned } from './plan-sheet';
import type { ExpectLine } from '../expect/types';

/** What is to be expected of a sheet by the time that is wanted; null where nobody gets a copy. */
export async function expectLine(
	db: Db,
	{ cover, wanted }: Pick<Sheet, 'cover' | 'wanted'>,
	{ manifest, roster, times, zone }: Planned
): Promise<ExpectLine | null> {
	if (manifest.copies.length === 0) return null;
	const by = wantedBy(wanted, manifest.leavesAt, zone);
	const ready = await expecting(db, { manifest, roster, clocks: times.clocks }, cover);
	if ('unknown' in ready) return { by, unknown: ready.unknown };
	const found = forecast(ready.model, ready.families, { by, bonds: ready.bonds });
	if (!found) return { by, unknown: [] };
	const { students, expected, low, high } = found;
	return {
		by,
		...{ students, expected: Math.round(expected), low, high },
		of: manifest.students.length === 0 ? 'people' : 'students'
	};
}
