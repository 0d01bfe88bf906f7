import { habitOf, type Habit } from '../../../core/track/habit';
import {
	expectedOf,
	learnEachOne,
	unlearned,
	type Everybody
} from '../../../core/track/expect/reading-model';
import { ways, type Way } from '../../../core/roster/way';
import { now } from '../../clock';
import { readTimes } from '../../db/calendar';
import type { Query } from '../../db/open';
import { learnedLast } from './model';
import { pastCopiesOf } from './past-copies';
import { readersOf } from './readers';

/** Reading habits of some people with every way, those without copies too: by what was learned of everybody, and by their own copies as they stand now. */
export async function habitsOf(
	db: Query,
	personIds: readonly number[]
): Promise<ReadonlyMap<number, Readonly<Record<Way, Habit>>>> {
	const time = await now(db);
	const { clocks } = await readTimes(db);
	const readers = await readersOf(db, personIds);
	const readerOf = (id: number) => readers.get(id)!;
	const learned = (await learnedLast(db))?.everybody ?? {};
	const everybody = Object.fromEntries(
		ways.map((way) => [way, learned[way] ?? unlearned])
	) as Required<Everybody>;
	const copies = await pastCopiesOf(db, readers, clocks, time);
	const each = learnEachOne(everybody, personIds, copies, readerOf, time);
	const habit = (id: number, way: Way): Habit =>
		habitOf(
			way,
			each[way].get(id) ?? expectedOf(everybody[way], readerOf(id)),
			everybody[way].usual.share
		);
	return new Map(
		personIds.map((id) => [
			id,
			Object.fromEntries(ways.map((way) => [way, habit(id, way)])) as Record<Way, Habit>
		])
	);
}
