import type { TimedManifest } from '../../../core/plan/times';
import type { Roster } from '../../../core/roster/roster';
import type { Way } from '../../../core/roster/way';
import type { Clocks } from '../../../core/time/clocks';
import type { CoverRule } from '../../../core/track/coverage';
import { copiesAhead, readersAhead, studentsAhead } from '../../../core/track/expect/ahead';
import {
	familiesOf,
	type CopyAhead,
	type Families,
	type StudentAhead
} from '../../../core/track/expect/families';
import type { Bonds } from '../../../core/track/expect/forecast';
import { readingModel, type ReadingModel } from '../../../core/track/expect/reading-model';
import type { Query } from '../../db/open';
import { habitsKept, learnedLast, type Learned } from './model';

/** A plan, as far as what is to be expected of it hangs on it. */
export interface PlanAhead {
	readonly manifest: TimedManifest;
	readonly roster: Roster;
	readonly clocks: Clocks;
}

/** Everything that a forecast of one plan is made from. */
export interface Expecting {
	readonly learned: Learned;
	readonly model: ReadingModel;
	readonly bonds: Bonds;
	readonly copies: readonly CopyAhead[];
	readonly students: readonly StudentAhead[];
	readonly families: Families;
}

/** Why nothing can be said: nothing has been learned yet, or of some ways that are used too little is known. */
export interface TooLittle {
	readonly unknown: readonly Way[];
}

/** Readies the forecast of a plan by a rule of covering. */
export async function expecting(
	db: Query,
	{ manifest, roster, clocks }: PlanAhead,
	rule: CoverRule
): Promise<Expecting | TooLittle> {
	const learned = await learnedLast(db);
	const used = [...new Set(manifest.copies.map((c) => c.way))];
	const unknown = learned ? used.filter((way) => !learned.everybody[way]) : used;
	if (!learned || unknown.length > 0) return { unknown };
	const copies = copiesAhead(manifest, roster, clocks);
	const students = studentsAhead(manifest, copies, roster, rule);
	return {
		...{ learned, copies, students, bonds: learned.bonds },
		model: readingModel(
			learned.everybody,
			await habitsKept(db, learned),
			readersAhead(manifest, roster)
		),
		families: familiesOf(students, rule)
	};
}
