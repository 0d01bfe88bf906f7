import { wantedBy, wantedSchema } from '../../../core/plan/wanted';
import { ways, type Way } from '../../../core/roster/way';
import { zoneOf } from '../../../core/time/clocks';
import { timingSchema } from '../../../core/time/timing';
import type { CoverRule } from '../../../core/track/coverage';
import { curveTimes } from '../../../core/track/expect/curve-times';
import { familiesOf } from '../../../core/track/expect/families';
import { forecast as forecastOf, type Forecast } from '../../../core/track/expect/forecast';
import { readingModel } from '../../../core/track/expect/reading-model';
import { now } from '../../clock';
import { readTimes } from '../../db/calendar';
import { rowSet } from '../../db/many';
import type { DispatchRow } from '../../db/models/dispatch';
import { forecast } from '../../db/models/expect';
import type { Db } from '../../db/open';
import { habitsKept, learnedLast, type Learned } from './model';
import { rowsAhead } from './rows-ahead';
import type { CurvePoint } from './types';

/** What left longer ago is not forecast any more: that would be no forecast, ms. */
const lateMs = 30 * 60_000;
/** So many in one go, so that what waits behind is not held up. */
const atOnce = 20;

const chanceRows = rowSet('$rows', ['person_id', 'chance']);

type Open = Pick<DispatchRow, 'id' | 'plan' | 'wanted' | 'timing'> & {
	readonly rule: CoverRule;
	readonly leavesAt: number;
	readonly ways: string;
};

/** Dispatches whose copies are planned, and of which nothing is kept yet of what is to be expected; of those that wait, also where they were planned anew. */
const openNow = (db: Db, time: number): Promise<Open[]> =>
	db.all<Open>(
		`SELECT dispatch.id, dispatch.plan, wanted, timing, cover AS rule, dispatch.leaves_at AS leavesAt,
			(SELECT json_group_array(DISTINCT way) FROM delivery WHERE dispatch_id = dispatch.id) AS ways
		FROM dispatch LEFT JOIN forecast ON dispatch_id = dispatch.id
		WHERE state IN ('scheduled', 'sent') AND kind != 'answer' AND written = 1 AND dispatch.leaves_at > $since
			AND (forecast.plan IS NULL OR state = 'scheduled' AND (forecast.plan != dispatch.plan OR forecast.leaves_at != dispatch.leaves_at))
			AND EXISTS (SELECT 1 FROM delivery WHERE dispatch_id = dispatch.id)
		ORDER BY dispatch.leaves_at LIMIT ${atOnce}`,
		{ since: time - lateMs }
	);

/** Works out and keeps what is to be expected of one dispatch. */
async function keepOne(db: Db, learned: Learned, row: Open, time: number): Promise<void> {
	const { clocks } = await readTimes(db);
	const { clock } = timingSchema.parse(JSON.parse(row.timing));
	const by = wantedBy(
		wantedSchema.parse(JSON.parse(row.wanted)),
		row.leavesAt,
		zoneOf(clocks, clock)
	);
	const { students, readerOf } = await rowsAhead(db, row.id, row.rule, clocks);
	const model = readingModel(learned.everybody, await habitsKept(db, learned), readerOf);
	const families = familiesOf(students, row.rule);
	const at = (instant: number): Forecast | null =>
		forecastOf(model, families, { by: instant, bonds: learned.bonds });
	const found = at(by);
	if (!found) return;
	const copies = [...new Set(students.flatMap((s) => s.copies))];
	const curve = curveTimes(row.leavesAt, by, copies).map((instant): CurvePoint => {
		const { expected, low, high } = at(instant)!;
		return { at: instant, expected, low, high };
	});
	await db.write(async (tx) => {
		const still = await tx.one('SELECT 1 FROM dispatch WHERE id = $id AND plan = $plan', {
			id: row.id,
			plan: row.plan
		});
		// Planned anew or called back meanwhile: the next one is made of that.
		if (!still) return;
		await tx.run('DELETE FROM forecast WHERE dispatch_id = $id', { id: row.id });
		await tx.run('DELETE FROM forecast_chance WHERE dispatch_id = $id', { id: row.id });
		const { students: n, expected, low, high } = found;
		await tx.rows(forecast).add({
			...{ dispatchId: row.id, plan: row.plan, madeAt: time, leavesAt: row.leavesAt, byAt: by },
			...{ students: n, expected, low, high, curve: JSON.stringify(curve) }
		});
		await tx.run(
			`INSERT INTO forecast_chance (dispatch_id, person_id, chance)
			SELECT $id, person_id, chance FROM ${chanceRows.table}`,
			{
				id: row.id,
				rows: chanceRows.json(
					students.map((s, i) => ({
						person_id: s.studentId,
						chance: Math.round(found.chances[i]! * 1e4) / 1e4
					}))
				)
			}
		);
	});
}

/** Keeps what is to be expected of each dispatch whose copies have been planned, before its readers have read. Resolves to how many were kept. */
export async function keepForecasts(db: Db): Promise<number> {
	const learned = await learnedLast(db);
	if (!learned) return 0;
	const time = await now(db);
	const known = ways.filter((way) => learned.everybody[way]);
	let kept = 0;
	for (const row of await openNow(db, time)) {
		if (!(JSON.parse(row.ways) as Way[]).every((way) => known.includes(way))) continue;
		await keepOne(db, learned, row, time);
		kept += 1;
	}
	return kept;
}
