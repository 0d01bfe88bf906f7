import type { Way } from '../roster/way';
import { stretchWords } from '../time/stretch';
import { betaQuantile } from './beta';
import type { OwnHabit } from './expect/own-habits';

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

/** A person’s habit, as the model knows it: `own` is what they do, drawn to those they live with (what is to be expected of them where they have had none), `usual` everybody’s share. */
export function habitOf(way: Way, own: OwnHabit, usual: number): Habit {
	const { share, middle, weight, copies, read } = own;
	const [a, b] = [share * weight, (1 - share) * weight];
	return {
		...{ way, copies, read, share, usual },
		low: betaQuantile(0.05, a, b),
		high: betaQuantile(0.95, a, b),
		minutes: read > 0 ? Math.exp(middle) : null
	};
}

/** Of fewer copies nothing is said but that they are few. */
const fewestToTell = 4;

const tenths = (share: number): string => {
	const n = Math.round(share * 10);
	return n === 0 ? 'hardly any' : n === 10 ? 'nearly all' : `about ${n} of 10`;
};
/** Copies by a way, as they are counted. */
export const wayThings: Readonly<Record<Way, string>> = {
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
	return `${best.read} of ${best.copies} ${wayThings[best.way]}${pace}`;
}

/** A habit in words: what was seen first, then what it comes to; of few copies no more than that they are few. */
export function habitWords({ way, copies, read, share, minutes, usual }: Habit): string {
	if (copies === 0) return `No ${things[way]} have arrived yet; others read ${tenths(usual)}.`;
	const seen = `Read ${read} of ${copies} ${things[way]}`;
	if (copies < fewestToTell) return `${seen}: too few to tell; others read ${tenths(usual)}.`;
	const pace = minutes === null ? '' : `, usually within ${stretchWords(minutes)}`;
	return `${seen}; to be expected: ${tenths(share)}${pace}.`;
}
