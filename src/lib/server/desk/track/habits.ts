import {
	habitOf,
	priorOf,
	tellDays,
	type Habit,
	type HabitPrior,
	type HabitSample
} from '../../../core/track/habit';
import { now } from '../../clock';
import { readMany } from '../../db/many';
import type { Query } from '../../db/open';
import { ways, type Way } from '../../../core/roster/way';
import { wentWell } from '../../db/copy-state';
import { groupBy } from '../../../core/group-by';
import type { PersonRow } from '../../db/models/roster';

const dayMs = 86_400_000;
/** How far back habits look, and how many people everybody's habit is taken from. */
const pastDays = 400;
const mostPeople = 4_000;
/** Everybody's habit changes slowly: it is counted anew after so long, ms of the job's time. */
const priorMs = 6 * 3_600_000;

/** What one has asked for oneself is read by everybody: an answer of ours says nothing about a habit. */
const tellsOfReading = `left_at >= $from AND left_at < $to AND ${wentWell}
	AND delivery.id NOT IN (SELECT delivery_id FROM conversation_copy)`;

interface Sample extends HabitSample {
	readonly personId: number;
	readonly way: Way;
}

/** The copies of some people that are old enough to tell, those at an address they share among them. A copy that failed or was not needed says nothing about its reader. */
async function samplesOf(db: Query, personIds: readonly number[], time: number): Promise<Sample[]> {
	return readMany(
		db,
		'personId, way, left_at, read_at',
		`FROM (SELECT person_id AS personId, way, left_at, read_at FROM delivery
				WHERE person_id IN (SELECT value FROM json_each($ids)) AND ${tellsOfReading}
			UNION ALL SELECT delivery_also.person_id, way, left_at, read_at FROM delivery_also
				JOIN delivery ON delivery.id = delivery_id
				WHERE delivery_also.person_id IN (SELECT value FROM json_each($ids)) AND ${tellsOfReading})`,
		([personId, way, left, read]): Sample => {
			const minutes = read === null ? null : ((read as number) - (left as number)) / 60_000;
			return {
				personId: personId as number,
				way: way as Way,
				leftAt: left as number,
				minutes: minutes !== null && minutes <= tellDays * 1440 ? Math.max(0, minutes) : null
			};
		},
		{
			ids: JSON.stringify(personIds),
			from: time - pastDays * dayMs,
			to: time - tellDays * dayMs
		}
	);
}

type Priors = Readonly<Record<Way, HabitPrior>>;
const kept = new WeakMap<Query, { readonly at: number; readonly priors: Promise<Priors> }>();

/** What everybody's copies come to, by way. */
async function priorsOf(db: Query, time: number): Promise<Priors> {
	const before = kept.get(db);
	if (before && Math.abs(time - before.at) < priorMs) return before.priors;
	const priors = (async (): Promise<Priors> => {
		const people = await db.all<Pick<PersonRow, 'id'>>(
			`SELECT id FROM person WHERE EXISTS (SELECT 1 FROM delivery WHERE person_id = person.id)
			ORDER BY (id * 7919) % 10007 LIMIT ${mostPeople}`
		);
		const samples = await samplesOf(
			db,
			people.map((p) => p.id),
			time
		);
		const byWay = groupBy(samples, (s) => s.way);
		return Object.fromEntries(
			ways.map((way) => [
				way,
				priorOf([...groupBy(byWay.get(way) ?? [], (s) => s.personId).values()], time)
			])
		) as Record<Way, HabitPrior>;
	})();
	kept.set(db, { at: time, priors });
	priors.catch(() => kept.delete(db));
	return priors;
}

/** Reading habits of some people with every way, those without copies too. */
export async function habitsOf(
	db: Query,
	personIds: readonly number[]
): Promise<ReadonlyMap<number, Readonly<Record<Way, Habit>>>> {
	const time = await now(db);
	const priors = await priorsOf(db, time);
	const samples = groupBy(await samplesOf(db, personIds, time), (s) => `${s.personId} ${s.way}`);
	return new Map(
		personIds.map((id) => [
			id,
			Object.fromEntries(
				ways.map((way) => [way, habitOf(way, samples.get(`${id} ${way}`) ?? [], priors[way], time)])
			) as Record<Way, Habit>
		])
	);
}
