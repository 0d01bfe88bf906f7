import type { ForecastRow } from '../../db/models/expect';
import type { Query } from '../../db/open';
import type { CurvePoint, KeptForecast } from './types';

/** What was said of a dispatch before it was read; null where nothing was. */
export async function keptForecast(db: Query, dispatchId: number): Promise<KeptForecast | null> {
	const row = await db.one<Omit<ForecastRow, 'dispatchId' | 'judged' | 'plan'>>(
		`SELECT made_at AS madeAt, leaves_at AS leavesAt, by_at AS byAt, students, expected, low, high, curve, covered
		FROM forecast WHERE dispatch_id = $id`,
		{ id: dispatchId }
	);
	if (!row) return null;
	const { madeAt, byAt, students, expected, low, high, covered } = row;
	return {
		...{ madeAt, by: byAt, students, low, high, covered, expected: Math.round(expected) },
		curve: JSON.parse(row.curve) as CurvePoint[]
	};
}
