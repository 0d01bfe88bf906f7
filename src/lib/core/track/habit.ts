import { stretchWords } from '../time/stretch';
import { betaQuantile } from './beta';
import type { Way } from '../roster/way';

/** One copy of the past that is old enough to tell: when it left, and how long until it was read. */
export interface HabitSample {
	/** Instant, ms. */
	readonly leftAt: number;
	/** Minutes; null where it was not read in time. */
	readonly minutes: number | null;
}

/** So long after a copy has left it counts as read or not read; what comes later says nothing about habit, days. */
export const tellDays = 3;
/** Newer copies weigh more: after so many days half as much. */
const halfLifeDays = 120;
const dayMs = 86_400_000;

const weightOf = (leftAt: number, now: number): number =>
	2 ** (-Math.max(0, now - leftAt) / (halfLifeDays * dayMs));

/** Copies added up, each by its weight: how many there are, how many of them were read, and the logarithms of their minutes. */
function weighed(samples: readonly HabitSample[], now: number) {
	let copies = 0;
	let read = 0;
	let logs = 0;
	for (const { leftAt, minutes } of samples) {
		const weight = weightOf(leftAt, now);
		copies += weight;
		if (minutes === null) continue;
		read += weight;
		logs += weight * Math.log(Math.max(1, minutes));
	}
	return { copies, read, logs };
}

/** What many people's copies by one way come to, from which few copies of one person are seen. */
export interface HabitPrior {
	/** Share of copies that are read. */
	readonly mean: number;
	/** How many copies of one's own weigh as much as what is known of everybody. */
	readonly strength: number;
	/** Mean of the logarithm of minutes until reading. */
	readonly logMinutes: number;
}

/** What is assumed while nothing is known at all: half are read, within an hour or so. */
export const noPrior: HabitPrior = { mean: 0.5, strength: 2, logMinutes: Math.log(60) };

/** Bounds of a prior's strength: it neither vanishes nor drowns what a person does. */
const weakest = 2;
const strongest = 30;

/**
 * The prior from many people's copies, by the method of moments for shares that differ from person
 * to person (beta-binomial; e.g. Kleinman 1973): the more people differ, the less it weighs.
 */
export function priorOf(people: readonly (readonly HabitSample[])[], now: number): HabitPrior {
	let all = 0;
	let read = 0;
	let logs = 0;
	const shares: { share: number; copies: number }[] = [];
	for (const samples of people) {
		const own = weighed(samples, now);
		if (own.copies === 0) continue;
		all += own.copies;
		read += own.read;
		logs += own.logs;
		shares.push({ share: own.read / own.copies, copies: own.copies });
	}
	if (shares.length < 10) return noPrior;
	const mean = Math.min(0.99, Math.max(0.01, read / all));
	// How far shares lie apart beyond what their numbers alone would give.
	const spread = shares.reduce((s, p) => s + p.copies * (p.share - mean) ** 2, 0) / all;
	const perCopy = shares.length / all;
	const chance = mean * (1 - mean) * perCopy;
	const between = Math.max(1e-6, (spread - chance) / Math.max(1e-6, 1 - perCopy));
	return {
		mean,
		strength: Math.min(strongest, Math.max(weakest, strengthFrom(mean, between))),
		logMinutes: read > 0 ? logs / read : noPrior.logMinutes
	};
}

/** The strength (a + b) of a beta distribution with a mean and a variance. */
export const strengthFrom = (mean: number, variance: number): number =>
	(mean * (1 - mean)) / variance - 1;

/** A person's habit with one way: an estimate with its interval, and what stands behind it. */
export interface Habit {
	readonly way: Way;
	/** Copies that are old enough to tell, and how many of them were read. */
	readonly copies: number;
	readonly read: number;
	/** Estimated share of copies that are read, drawn to everybody's where there are few. */
	readonly share: number;
	/** Bounds between which it lies with 90 of 100. */
	readonly low: number;
	readonly high: number;
	/** Usual time until reading, minutes; null where nothing was read. */
	readonly minutes: number | null;
	/** Everybody's share, for comparison. */
	readonly usual: number;
}

/** What a person's copies by one way come to: everybody's share as a beta distribution, moved by what this person did. */
export function habitOf(
	way: Way,
	samples: readonly HabitSample[],
	prior: HabitPrior,
	now: number
): Habit {
	const { copies: n, read: r, logs } = weighed(samples, now);
	const a = prior.mean * prior.strength + r;
	const b = (1 - prior.mean) * prior.strength + n - r;
	/** As much as two copies of one's own is what is known of everybody's pace. */
	const pace = 2;
	return {
		way,
		copies: samples.length,
		read: samples.filter((s) => s.minutes !== null).length,
		share: a / (a + b),
		low: betaQuantile(0.05, a, b),
		high: betaQuantile(0.95, a, b),
		minutes: r > 0 ? Math.exp((logs + pace * prior.logMinutes) / (r + pace)) : null,
		usual: prior.mean
	};
}

/** Of fewer copies nothing is said but that they are few. */
const fewestToTell = 4;

const tenths = (share: number): string => {
	const n = Math.round(share * 10);
	return n === 0 ? 'hardly any' : n === 10 ? 'nearly all' : `about ${n} of 10`;
};
const shortThings: Readonly<Record<Way, string>> = {
	email: 'emails',
	text: 'texts',
	inbox: 'in the inbox'
};
const things: Readonly<Record<Way, string>> = {
	email: 'emails',
	text: 'texts',
	inbox: 'letters in the inbox'
};

/** The way a person reads best and how well, in a few words for a list: "4 of 5 texts, within 20 min"; nothing where too little is known of any. */
export function bestHabitWords(habits: readonly Habit[]): string {
	const known = habits.filter((h) => h.copies >= fewestToTell);
	if (known.length === 0) return '';
	const best = known.reduce((a, b) => (b.share > a.share ? b : a));
	const pace = best.minutes === null ? '' : `, within ${stretchWords(best.minutes)}`;
	return `${best.read} of ${best.copies} ${shortThings[best.way]}${pace}`;
}

/** A habit in words: what was seen first, then what it comes to; of few copies no more than that they are few. */
export function habitWords({ way, copies, read, share, minutes, usual }: Habit): string {
	if (copies === 0) return `No ${things[way]} have arrived yet; others read ${tenths(usual)}.`;
	const seen = `Read ${read} of ${copies} ${things[way]}`;
	if (copies < fewestToTell) return `${seen}: too few to tell; others read ${tenths(usual)}.`;
	const pace = minutes === null ? '' : `, usually within ${stretchWords(minutes)}`;
	return `${seen}; to be expected: ${tenths(share)}${pace}.`;
}
