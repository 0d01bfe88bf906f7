import type { Effect } from './group-habits';
import type { Habit, Leaving, Weighed } from './past-copy';
import { inside, logit, meanStrength, odds, strengthOf } from './shrink';

/** How little an hour or day weighs by itself where there are too few to tell how they differ. */
const fewTimes = 50;
/** More than this no hour moves the odds by: what is seen of few is not to run away. */
const mostOdds = 1.5;

/** What hours, or days, add to the odds and to the logarithms of minutes. */
interface Effects {
	readonly odds: readonly number[];
	readonly log: readonly number[];
}

const clamp = (x: number): number => Math.max(-mostOdds, Math.min(mostOdds, x));

/** What each of `n` times does beyond what its readers do anyway and what is known already, drawn to nothing. */
function effectsOf(
	copies: readonly Weighed[],
	habits: ReadonlyMap<number, Habit>,
	spread: number,
	{
		n,
		timeOf,
		known
	}: {
		readonly n: number;
		readonly timeOf: (c: Weighed) => number;
		readonly known: (c: Weighed) => { readonly odds: number; readonly log: number };
	}
): Effects {
	const seen = Array.from({ length: n }, () => ({ of: 0, read: 0, expected: 0, room: 0, logs: 0 }));
	for (const c of copies) {
		const at = seen[timeOf(c)]!;
		const habit = habits.get(c.personId)!;
		const before = known(c);
		const p = odds(logit(habit.share) + before.odds);
		at.of += c.weight;
		at.expected += c.weight * p;
		at.room += c.weight * p * (1 - p);
		if (c.log === null) continue;
		at.read += c.weight;
		at.logs += c.weight * (c.log - habit.middle - before.log);
	}
	const strength =
		strengthOf(
			seen
				.filter((s) => s.of > 0)
				.map((s) => ({ of: s.of, count: s.read, expected: inside(s.expected / s.of) }))
		) ?? fewTimes;
	const pace =
		meanStrength(
			seen.map((s) => ({ of: s.read, sum: s.logs, expected: 0 })),
			spread ** 2
		) ?? fewTimes;
	return {
		// One step of Newton from no effect.
		odds: seen.map((s) =>
			s.room < 1e-9 ? 0 : clamp(((s.read - s.expected) / s.room) * (s.of / (s.of + strength)))
		),
		log: seen.map((s) => (s.read === 0 ? 0 : s.logs / (s.read + pace)))
	};
}

/** What hours (0 to 23) and days (0 Monday to 6) do. */
export interface LeavingEffects {
	readonly hours: Effects;
	readonly days: Effects;
}

/** Learns what the hour a copy leaves at does, and the day beyond it. */
export function learnLeaving(
	copies: readonly Weighed[],
	habits: ReadonlyMap<number, Habit>,
	spread: number
): LeavingEffects {
	const hours = effectsOf(copies, habits, spread, {
		...{ n: 24, timeOf: (c) => c.hour, known: () => ({ odds: 0, log: 0 }) }
	});
	const days = effectsOf(copies, habits, spread, {
		n: 7,
		timeOf: (c) => c.weekday,
		known: (c) => ({ odds: hours.odds[c.hour]!, log: hours.log[c.hour]! })
	});
	return { hours, days };
}

/** What leaving at an hour of a day adds. */
export const leavingEffect = (
	{ hours, days }: LeavingEffects,
	{ hour, weekday }: Leaving
): Effect => ({
	odds: hours.odds[hour]! + days.odds[weekday]!,
	log: hours.log[hour]! + days.log[weekday]!
});
