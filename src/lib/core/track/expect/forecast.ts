import { groupBy } from '../../group-by';
import { bandByMoments } from './band-by-moments';
import type { ByReader, CopyAhead, Families, Family } from './families';
import { normalPoints } from './normal';
import { bandOf, countChances, expectedCount, mixed, type Trial } from './poisson-binomial';
import type { ReadingModel } from './reading-model';
import { inside, logit, odds } from './shrink';
import { noneOf } from './together';

/** How much hangs together, as it was learned: {@link boundFrom} for ways of one person and for readers of one home, and the spread of the odds from one dispatch to the next. */
export interface Bonds {
	readonly ways: number;
	readonly home: number;
	/** Standard deviation of the logarithm of odds. */
	readonly dispatch: number;
}

/** What is to be expected by a time. */
export interface Forecast {
	readonly students: number;
	/** Of these, how many are covered on average. */
	readonly expected: number;
	/** Between which it lies in nine of ten such cases. */
	readonly low: number;
	readonly high: number;
	/** The chance of each student to be covered, in their order. */
	readonly chances: readonly number[];
	/** How many families are not on average: so many are to be told by phone. */
	readonly calls: number;
}

/** The share of cases that lie within the band. */
const bandShare = 0.9;

/** By when (instant, ms), and what hangs together. */
export interface At {
	readonly by: number;
	readonly bonds: Bonds;
}

/** The chance that a copy has not been read by an instant; its way is known. */
const missedBy = (model: ReadingModel, copy: CopyAhead, by: number): number =>
	copy.at >= by ? 1 : 1 - model.chance(copy.personId, copy.way, copy, (by - copy.at) / 60_000)!;

/** The chance that one reader has read none of their copies. */
const unread = (model: ReadingModel, copies: readonly CopyAhead[], { by, bonds }: At): number =>
	copies.length === 1
		? missedBy(model, copies[0]!, by)
		: noneOf(
				copies.map((copy) => missedBy(model, copy, by)),
				bonds.ways
			);

/** The chance that nobody reads any of some copies. */
function nobodyReads(model: ReadingModel, homes: ByReader, at: At): number {
	let none = 1;
	for (const people of homes)
		none *= noneOf(
			people.map((copies) => unread(model, copies, at)),
			at.bonds.home
		);
	return none;
}

/** The chance that a family is covered. */
function coveredChance(model: ReadingModel, { enough, oneOfEach }: Family, at: At): number {
	const missed = nobodyReads(model, enough, at);
	let all = 1;
	for (const set of oneOfEach) all *= 1 - nobodyReads(model, set, at);
	return 1 - missed + missed * all;
}

/** What each family comes to by a time; null where too little is known of a way that is used. */
const trialsOf = (model: ReadingModel, { families, ways }: Families, at: At): Trial[] | null =>
	ways.every((way) => model.knows(way))
		? families.map((family) => ({ size: family.size, chance: coveredChance(model, family, at) }))
		: null;

/** One of several cases, with its weight: they come to 1. */
interface Case {
	readonly weight: number;
	readonly trials: readonly Trial[];
}

/**
 * What all of a dispatch have in common, that it interests more or less, moves the odds of all alike: the mean over a normal
 * distribution as a sum of seven cases.
 */
function casesOf(trials: readonly Trial[], spread: number): Case[] {
	const apart = trials.map((t) => (t.chance <= 0 ? -Infinity : logit(inside(t.chance))));
	return normalPoints.map(({ at, weight }) => ({
		weight,
		trials: trials.map((t, i) => ({ size: t.size, chance: odds(apart[i]! + at * spread) }))
	}));
}

const meanOf = (cases: readonly Case[], of: (trials: readonly Trial[]) => number): number =>
	cases.reduce((sum, c) => sum + c.weight * of(c.trials), 0);

/** How many students are covered by a time on average; null where too little is known of a way that is used. */
export function expectedCovered(model: ReadingModel, families: Families, at: At): number | null {
	const trials = trialsOf(model, families, at);
	return trials && meanOf(casesOf(trials, at.bonds.dispatch), expectedCount);
}

/** Of more families than this the band is by moments: one after another they would take seconds. */
const many = 2_000;

/** The band of some cases. */
const bandOfCases = (cases: readonly Case[]): { readonly low: number; readonly high: number } =>
	cases[0]!.trials.length > many
		? bandByMoments(cases, bandShare)
		: bandOf(
				mixed(cases.map((c) => ({ weight: c.weight, chances: countChances(c.trials) }))),
				bandShare
			);

/**
 * What a dispatch comes to by a time: students covered on average, the band of nine of ten cases, the chance of each. Students of
 * one family are covered together, families each for themselves but for what moves all: a Poisson-binomial distribution for each
 * of seven cases. A copy of a later turn counts as any other, since it is left away only where its reader has read already. Null
 * where too little is known of a way that is used.
 */
export function forecast(model: ReadingModel, families: Families, at: At): Forecast | null {
	const trials = trialsOf(model, families, at);
	if (!trials) return null;
	const cases = casesOf(trials, at.bonds.dispatch);
	return {
		students: families.familyOf.length,
		expected: meanOf(cases, expectedCount),
		...bandOfCases(cases),
		chances: families.familyOf.map((number) => trials[number]!.chance),
		calls: meanOf(cases, (of) => of.reduce((sum, t) => sum + 1 - t.chance, 0))
	};
}

/** The chance that each of some copies leaves: 1 but for those of a later turn, whose readers may have read by then; null where too little is known of a way. */
export function leavingChances(
	model: ReadingModel,
	copies: readonly CopyAhead[],
	bonds: Bonds
): number[] | null {
	if (copies.every((c) => c.step === 0)) return copies.map(() => 1);
	if (!copies.every((c) => model.knows(c.way))) return null;
	const mine = groupBy(copies, (c) => c.personId);
	return copies.map((copy) => {
		if (copy.step === 0) return 1;
		const before = mine.get(copy.personId)!.filter((c) => c.step < copy.step);
		return noneOf(
			before.map((c) => missedBy(model, c, copy.at)),
			bonds.ways
		);
	});
}
