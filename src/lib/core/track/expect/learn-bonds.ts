import { groupBy } from '../../group-by';
import type { Bonds } from './forecast';
import { tellMinutes, type PastCopy, type ReaderOf } from './past-copy';
import type { ReadingModel } from './reading-model';
import { boundFrom, noneOf, type SeenTogether } from './together';

/** A spread from one dispatch to the next is not told from fewer. */
const fewestDispatches = 5;

/**
 * How what is read hangs together, from copies of the past and what the model gives each of them: the ways of one person, the
 * readers of one home (whom a way’s own bond is in already), and what a dispatch moves for all whom it is for, by the method of
 * moments: how far what was read of each lies from what was to be expected, beyond what chance alone would give.
 */
export function learnBonds(
	model: ReadingModel,
	copies: readonly PastCopy[],
	readerOf: ReaderOf
): Bonds {
	// Of what waited for its turn only those have a copy who had read nothing: that says nothing of what hangs together.
	const inTurn = new Set(copies.filter((c) => c.step > 0).map((c) => c.dispatchId));
	const people = [
		...groupBy(
			copies.filter((c) => !inTurn.has(c.dispatchId)),
			(c) => `${c.dispatchId} ${c.personId}`
		).values()
	];
	const missOf = (c: PastCopy) => 1 - (model.chance(c.personId, c.way, c, tellMinutes) ?? 0.5);
	const known = people.filter((of) =>
		of.every((c) => model.reading(c.personId, c.way, c) !== null)
	);
	const ways = boundFrom(
		known.map((of): SeenTogether => ({
			misses: of.map(missOf),
			none: of.every((c) => c.minutes === null),
			weight: 1
		}))
	);
	const persons = known.map((of) => ({
		dispatchId: of[0]!.dispatchId,
		home: readerOf(of[0]!.personId).householdId,
		miss: noneOf(of.map(missOf), ways),
		none: of.every((c) => c.minutes === null)
	}));
	const homes = [
		...groupBy(
			persons.filter((p) => p.home !== null),
			(p) => `${p.dispatchId} ${p.home}`
		).values()
	];
	const home = boundFrom(
		homes.map((of): SeenTogether => ({
			misses: of.map((p) => p.miss),
			none: of.every((p) => p.none),
			weight: 1
		}))
	);
	const units = [
		...homes.map((of) => ({
			dispatchId: of[0]!.dispatchId,
			miss: noneOf(
				of.map((p) => p.miss),
				home
			),
			none: of.every((p) => p.none)
		})),
		...persons.filter((p) => p.home === null)
	];
	return { ways, home, dispatch: dispatchSpread(units) };
}

/** The spread of the logarithm of odds from one dispatch to the next, beyond chance; 0 where too few are known. */
function dispatchSpread(
	units: readonly { readonly dispatchId: number; readonly miss: number; readonly none: boolean }[]
): number {
	let [squares, chance, n] = [0, 0, 0];
	for (const of of groupBy(units, (u) => u.dispatchId).values()) {
		const room = of.reduce((sum, u) => sum + u.miss * (1 - u.miss), 0);
		if (room < 1) continue;
		const off = of.reduce((sum, u) => sum + (u.none ? 0 : 1) - (1 - u.miss), 0);
		// One step of Newton towards the odds it had; its variance is one over the room.
		squares += (off / room) ** 2;
		chance += 1 / room;
		n += 1;
	}
	return n < fewestDispatches ? 0 : Math.sqrt(Math.max(0, (squares - chance) / n));
}
