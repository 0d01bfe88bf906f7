import type { Turn } from '../../../core/plan/turns';
import type { Way } from '../../../core/roster/way';
import { byClock } from '../../../core/track/expect/ahead';
import { effortOf, type Effort } from '../../../core/track/expect/effort';
import { expectedCovered, leavingChances } from '../../../core/track/expect/forecast';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import { expecting, type Expecting } from '../expect/expecting';
import type { Sheet } from '../sheet/sheet';
import type { TextMeasure } from './measure-texts';
import { planSheet, type Planned } from './plan-sheet';

/** A sheet whose ways are compared, and by when (instant, ms) it is to be known. */
export interface Comparing {
	readonly db: Db;
	readonly user: User;
	readonly sheet: Sheet;
	readonly by: number;
	/** The ways among which others than its own are tried. */
	readonly usable: readonly Way[];
	readonly measure: TextMeasure;
	/** How many parts a text has, by whom it is to and of whom it speaks: the same whatever is chosen. */
	readonly parts: Map<string, number>;
}

/** A choice of ways, and which of them wait for the others. */
export interface Choice {
	readonly ways: Sheet['ways'];
	readonly turns: readonly Turn[];
}

/** A choice with what comes of it. */
export interface Tried extends Choice {
	readonly planned: Planned;
	readonly ready: Expecting;
	/** Students covered by then, on average. */
	readonly expected: number;
	readonly effort: Effort;
}

/** Plans a sheet by other ways than its own, as it would be sent, and says what comes of it; null where too little is known of one of them, or nobody can be written to. */
export async function tryWays(
	{ db, user, sheet, by, measure, parts }: Comparing,
	{ ways, turns }: Choice
): Promise<Tried | null> {
	const planned = await planSheet(db, user, { ...sheet, ways, turns: [...turns] });
	const { manifest, roster, times, zone } = planned;
	if (manifest.copies.length === 0) return null;
	const ready = await expecting(db, { manifest, roster, clocks: times.clocks }, sheet.cover);
	if ('unknown' in ready) return null;
	const { model, bonds, copies, families } = ready;
	const expected = expectedCovered(model, families, { by, bonds });
	const leaves = leavingChances(model, copies, bonds);
	if (expected === null || leaves === null) return null;
	const partsOf = (i: number): number => {
		const copy = manifest.copies[i]!;
		const key = `${copy.personId} ${copy.studentIds.join(' ')}`;
		let n = parts.get(key);
		if (n === undefined) parts.set(key, (n = measure.lengthOf(copy).parts));
		return n;
	};
	const clockOf = byClock();
	const dayOf = (at: number) => clockOf(at, zone).day;
	const effort = effortOf(copies, leaves, {
		partsOf,
		dayOf,
		homesOf: (id) => roster.householdsOf(id)
	});
	return { ways, turns, planned, ready, expected, effort };
}
