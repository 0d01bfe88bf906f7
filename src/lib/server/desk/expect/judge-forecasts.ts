import { judge, type Outcome } from '../../../core/track/expect/judge';
import { now } from '../../clock';
import { forecast, type ForecastRow } from '../../db/models/expect';
import type { Db, Query } from '../../db/open';
import { coverageBy } from '../track/coverage';
import { languagesOf } from '../track/family-languages';

/** So long after its time a forecast is judged, ms: by then also what mail servers and programs tell late is here. */
const settleMs = 12 * 3_600_000;
const atOnce = 20;

type Due = Pick<ForecastRow, 'dispatchId' | 'leavesAt' | 'byAt'>;

/** What the plain rivals would have said of a dispatch that leaves at an instant: the share of all students of those judged by then, and of the last of them; half where there is none. */
async function rivalsOf(db: Query, leavesAt: number): Promise<{ usual: number; last: number }> {
	const bind = { leavesAt };
	const usual = await db.one<{ share: number | null }>(
		`SELECT sum(covered) * 1.0 / nullif(sum(students), 0) AS share FROM forecast
		WHERE judged IS NOT NULL AND by_at <= $leavesAt`,
		bind
	);
	const last = await db.one<{ share: number | null }>(
		`SELECT covered * 1.0 / nullif(students, 0) AS share FROM forecast
		WHERE judged IS NOT NULL AND by_at <= $leavesAt ORDER BY leaves_at DESC, dispatch_id DESC LIMIT 1`,
		bind
	);
	return { usual: usual?.share ?? 0.5, last: last?.share ?? 0.5 };
}

/** Whether copies were kept back by somebody before their time came: what came then is not what was forecast. */
const wasStopped = async (
	db: Query,
	{ dispatchId, byAt }: Omit<Due, 'leavesAt'>
): Promise<boolean> =>
	(await db.one(
		`SELECT 1 FROM event JOIN delivery ON delivery.id = delivery_id
		WHERE dispatch_id = $dispatchId AND kind = 'stopped' AND code IN ('by-hand', 'put-back', 'right-lost') AND at <= $byAt LIMIT 1`,
		{ dispatchId, byAt }
	)) !== undefined;

async function judgeOne(db: Db, { dispatchId: id, leavesAt, byAt }: Due): Promise<void> {
	const coverage = (await coverageBy(db, [id])).get(id);
	const times = coverage?.kept.times ?? new Map<number, number>();
	const languages = await languagesOf(db, id);
	const said = await db.all<{ id: number; chance: number; school: number | null; own: string }>(
		`SELECT person_id AS id, chance, school_id AS school, language AS own FROM forecast_chance
		JOIN person ON person.id = person_id WHERE dispatch_id = $id`,
		{ id }
	);
	const outcomes = said.map(({ id: personId, chance, school, own }): Outcome => ({
		...{ chance, covered: (times.get(personId) ?? Infinity) <= byAt },
		school: String(school ?? 0),
		language: languages.get(personId) ?? own
	}));
	const judged = (await wasStopped(db, { dispatchId: id, byAt }))
		? null
		: JSON.stringify(judge(outcomes, await rivalsOf(db, leavesAt)));
	await db.write((tx) =>
		tx.rows(forecast).change(
			{ dispatchId: id },
			{
				covered: outcomes.filter((o) => o.covered).length,
				judged
			}
		)
	);
}

/** Judges the forecasts whose time has come, in the order of their times. Resolves to how many. */
export async function judgeForecasts(db: Db): Promise<number> {
	const due = await db.all<Due>(
		`SELECT dispatch_id AS dispatchId, leaves_at AS leavesAt, by_at AS byAt FROM forecast
		WHERE covered IS NULL AND by_at < $until ORDER BY by_at, dispatch_id LIMIT ${atOnce}`,
		{ until: (await now(db)) - settleMs }
	);
	for (const row of due) await judgeOne(db, row);
	return due.length;
}
