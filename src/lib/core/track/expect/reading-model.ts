import { groupBy } from '../../group-by';
import { ways, type Way } from '../../roster/way';
import { groupHabit, learnGroups, usualOf, type Groups, type Usual } from './group-habits';
import { fewHomes, Homes } from './home-habits';
import { leavingEffect, learnLeaving, type LeavingEffects } from './leaving-effects';
import { normalBelow } from './normal';
import { fewPeople, ownHabits, seenOfPeople, spreadAround, type OwnHabit } from './own-habits';
import {
	tellMinutes,
	weighed,
	type Leaving,
	type PastCopy,
	type Reader,
	type ReaderOf
} from './past-copy';
import { inside, logit, odds, pullOf, type Pull } from './shrink';

/**
 * Who reads what, by which way, how soon: learned from the copies of the past, and asked for whatever is to be sent.
 *
 * For a person i and a way w a copy is read within t minutes with the chance
 *
 *     s(i, w, h) · Φ((ln t − m(i, w, h)) / σ(w)) / Φ((ln T − m(i, w, h)) / σ(w)),   t ≤ T
 *
 * where T is three days, s the share that is read at all within T, m the middle of the logarithms of minutes until then
 * (log-normal times: common practice for how long people take to react), σ their spread, and h the hour and day it leaves.
 *
 * s and m of a person are drawn to those of their household, these to those of its language and school, and these to
 * everybody’s, each by as much as such really differ ({@link strengthOf}); hour and weekday move the odds and the times of
 * everybody alike. Copies weigh less the older they are. At which age they weigh half is each one’s own: of several, each counts
 * by how well it would have foretold, one after another, what that person did (Bayesian model averaging; Hoeting et al. 1999), so
 * that who changes their habits is soon taken for what they do now, and who does not is known by all they did.
 */

/** What a person does with copies by one way, leaving at one hour of one day. */
interface Reading {
	/** The share that is read within {@link tellMinutes}. */
	readonly share: number;
	/** Half of what is read is read within so many minutes. */
	readonly minutes: number;
}

/** Fewer copies by a way, or of fewer dispatches, say nothing about it. */
const fewestToTell = { copies: 60, dispatches: 3 } as const;

/** What is known of a way but for each one’s own habit. */
export interface WayHabits extends Groups {
	readonly usual: Usual;
	/** How strongly homes are drawn to their groups, and people to their homes. */
	readonly home: Pull;
	readonly own: Pull;
	/** Spread of the logarithms of minutes, around each one’s own middle. */
	readonly spread: number;
	readonly leaving: LeavingEffects;
}

/** What is assumed of a way while nothing is known at all: half are read, within an hour or so. */
export const unlearned: WayHabits = {
	usual: { share: 0.5, middle: Math.log(60), variance: 1 },
	...{ schools: {}, languages: {}, home: fewHomes, own: fewPeople, spread: 1 },
	leaving: {
		hours: { odds: Array<number>(24).fill(0), log: Array<number>(24).fill(0) },
		days: { odds: Array<number>(7).fill(0), log: Array<number>(7).fill(0) }
	}
};

/** What has been learned of everybody, by way; a way of which too little is known is missing. It is plain data, to be kept. */
export type Everybody = Readonly<Partial<Record<Way, WayHabits>>>;

/** What each one does, by way. */
export type EachOne = Readonly<Record<Way, ReadonlyMap<number, OwnHabit>>>;

const homesBeside = (
	copies: Parameters<typeof learnGroups>[0],
	readerOf: ReaderOf,
	of: Groups & Pick<WayHabits, 'usual'>
) => new Homes(copies, readerOf, (reader) => groupHabit(of.usual, of, reader));

function learnWay(past: readonly PastCopy[], readerOf: ReaderOf, now: number): WayHabits {
	const copies = weighed(past, now);
	const usual = usualOf(copies);
	const groups = learnGroups(copies, readerOf, usual);
	const homes = homesBeside(copies, readerOf, { ...groups, usual });
	const home = pullOf(homes.all, usual.variance, fewHomes);
	const people = seenOfPeople(copies, homes, home);
	const own = pullOf([...people.values()], usual.variance, fewPeople);
	const habits = ownHabits(copies, people, own, now);
	const spread = spreadAround(copies, habits, usual.variance);
	return { ...groups, usual, home, own, spread, leaving: learnLeaving(copies, habits, spread) };
}

/** Learns what everybody does from copies of the past, at an instant (ms): of all, or of a part of the homes that was drawn by chance. */
export function learnEverybody(
	copies: readonly PastCopy[],
	readerOf: ReaderOf,
	now: number
): Everybody {
	const learned: Partial<Record<Way, WayHabits>> = {};
	for (const [way, own] of groupBy(copies, (c) => c.way)) {
		if (own.length < fewestToTell.copies) continue;
		if (new Set(own.map((c) => c.dispatchId)).size < fewestToTell.dispatches) continue;
		learned[way] = learnWay(own, readerOf, now);
	}
	return learned;
}

/** What is to be expected of somebody of whom no copy is known: what their group does. */
export const expectedOf = (known: WayHabits, reader: Reader): OwnHabit => ({
	...groupHabit(known.usual, known, reader),
	...{ weight: known.own.share, copies: 0, read: 0 }
});

/** What people do, by what is known of everybody and by the copies of all who live with them. Whoever has had none by a way is known by their home, and is missing where that is not known either. */
export function learnEachOne(
	everybody: Everybody,
	people: readonly number[],
	copies: readonly PastCopy[],
	readerOf: ReaderOf,
	now: number
): EachOne {
	const byWay = groupBy(copies, (c) => c.way);
	const of = (way: Way): Map<number, OwnHabit> => {
		const known = everybody[way];
		if (!known) return new Map();
		const mine = weighed(byWay.get(way) ?? [], now);
		const homes = homesBeside(mine, readerOf, known);
		const habits = ownHabits(mine, seenOfPeople(mine, homes, known.home), known.own, now);
		for (const id of people) {
			if (habits.has(id) || !homes.knows(id)) continue;
			const { share, middle } = homes.expectedOf(id, known.home);
			habits.set(id, { share, middle, weight: known.own.share, copies: 0, read: 0 });
		}
		return habits;
	};
	return Object.fromEntries(ways.map((way) => [way, of(way)])) as Record<
		Way,
		Map<number, OwnHabit>
	>;
}

/** What a person does with copies by one way, leaving at one hour of one day. */
interface Reading {
	/** The share that is read within {@link tellMinutes}. */
	readonly share: number;
	/** Half of what is read is read within so many minutes. */
	readonly minutes: number;
}

/** What has been learned of how people read. */
export interface ReadingModel {
	/** Whether enough is known of a way. */
	knows(way: Way): boolean;
	/** What a person does with a copy by a way; null where too little is known of the way. */
	reading(personId: number, way: Way, leaving: Leaving): Reading | null;
	/** The chance that they have read it within so many minutes; null where too little is known of the way. */
	chance(personId: number, way: Way, leaving: Leaving, minutes: number): number | null;
}

/** The part of what is read that is read within so many minutes. */
function readWithin({ minutes: middle }: Reading, spread: number, minutes: number): number {
	if (minutes <= 0) return 0;
	if (minutes >= tellMinutes) return 1;
	const log = Math.log(middle);
	const told = normalBelow((Math.log(tellMinutes) - log) / spread);
	return Math.min(1, normalBelow((Math.log(minutes) - log) / spread) / Math.max(1e-9, told));
}

/** What is to be expected of anybody, by what has been learned. */
export function readingModel(
	everybody: Everybody,
	eachOne: EachOne,
	readerOf: ReaderOf
): ReadingModel {
	const readingOf = (personId: number, way: Way, leaving: Leaving): Reading | null => {
		const known = everybody[way];
		if (!known) return null;
		const habit = eachOne[way].get(personId) ?? groupHabit(known.usual, known, readerOf(personId));
		const effect = leavingEffect(known.leaving, leaving);
		return {
			share: odds(logit(inside(habit.share)) + effect.odds),
			minutes: Math.exp(habit.middle + effect.log)
		};
	};
	return {
		knows: (way) => everybody[way] !== undefined,
		reading: readingOf,
		chance(personId, way, leaving, minutes) {
			const own = readingOf(personId, way, leaving);
			return own && own.share * readWithin(own, everybody[way]!.spread, minutes);
		}
	};
}

/** Learns from copies of the past all at once, at an instant (ms). */
export function learn(copies: readonly PastCopy[], readerOf: ReaderOf, now: number): ReadingModel {
	const everybody = learnEverybody(copies, readerOf, now);
	const people = [...new Set(copies.map((c) => c.personId))];
	return readingModel(everybody, learnEachOne(everybody, people, copies, readerOf, now), readerOf);
}
