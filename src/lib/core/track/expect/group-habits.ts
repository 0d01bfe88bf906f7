import { mapped, Sums, type Habit, type Reader, type ReaderOf, type Weighed } from './past-copy';
import {
	drawn,
	drawnMean,
	inside,
	logit,
	meanStrength,
	odds,
	strengthOf,
	type SeenMean,
	type SeenShare
} from './shrink';

/** What everybody does, and how far apart people’s minutes lie. */
export interface Usual extends Habit {
	/** Variance of the logarithms of minutes. */
	readonly variance: number;
}

/** What everybody does by a way. */
export function usualOf(copies: readonly Weighed[]): Usual {
	const all = copies.reduce((sum, c) => sum.add(c), new Sums());
	const middle = all.read > 0 ? all.logs / all.read : Math.log(60);
	return {
		share: inside((all.read + 1) / (all.of + 2)),
		middle,
		variance: Math.max(0.05, all.read > 1 ? all.squares / all.read - middle ** 2 : 1)
	};
}

/** How little a group weighs by itself where there are too few groups to tell how they differ. */
const fewGroups = 40;

/** What a group, or a time, adds to the odds, and to the logarithms of minutes. */
export interface Effect {
	readonly odds: number;
	readonly log: number;
}

/** What sets each group apart from what was to be expected of those in it, drawn to nothing by as much as groups really differ. */
function effectsOf(
	copies: readonly Weighed[],
	groupOf: (c: Weighed) => string,
	expectedOf: (c: Weighed) => Habit,
	variance: number
): Readonly<Record<string, Effect>> {
	const seen = new Map<string, { sums: Sums; share: number; middle: number }>();
	for (const c of copies) {
		const key = groupOf(c);
		let group = seen.get(key);
		if (!group) seen.set(key, (group = { sums: new Sums(), share: 0, middle: 0 }));
		const expected = expectedOf(c);
		group.sums.add(c);
		group.share += c.weight * expected.share;
		if (c.log !== null) group.middle += c.weight * expected.middle;
	}
	const groups = mapped(seen, ({ sums, share, middle }) => ({
		share: { of: sums.of, count: sums.read, expected: inside(share / sums.of) } satisfies SeenShare,
		mean: {
			...{ of: sums.read, sum: sums.logs, expected: sums.read > 0 ? middle / sums.read : 0 }
		} satisfies SeenMean
	}));
	const all = [...groups.values()];
	const strength = strengthOf(all.map((g) => g.share)) ?? fewGroups;
	const pace =
		meanStrength(
			all.map((g) => g.mean),
			variance
		) ?? fewGroups;
	return Object.fromEntries(
		mapped(groups, ({ share, mean }) => ({
			odds: logit(inside(drawn(share, strength))) - logit(share.expected),
			log: mean.of > 0 ? drawnMean(mean, pace) - mean.expected : 0
		}))
	);
}

/** What sets schools apart, and beyond that languages, by their keys. */
export interface Groups {
	readonly schools: Readonly<Record<string, Effect>>;
	readonly languages: Readonly<Record<string, Effect>>;
}

const moved = (habit: Habit, effect: Effect | undefined): Habit => ({
	share: odds(logit(inside(habit.share)) + (effect?.odds ?? 0)),
	middle: habit.middle + (effect?.log ?? 0)
});

/** What is to be expected of somebody of whom nothing is known but their school and language: what the school does, and what beyond that the language. */
export const groupHabit = (usual: Habit, groups: Groups, { schoolId, language }: Reader): Habit =>
	moved(moved(usual, groups.schools[String(schoolId)]), groups.languages[language]);

/** Learns what sets schools and languages apart. */
export function learnGroups(copies: readonly Weighed[], readerOf: ReaderOf, usual: Usual): Groups {
	const of = (c: Weighed) => readerOf(c.personId);
	const { variance } = usual;
	const schools = effectsOf(
		copies,
		(c) => String(of(c).schoolId),
		() => usual,
		variance
	);
	const inSchool = (c: Weighed) => moved(usual, schools[String(of(c).schoolId)]);
	return { schools, languages: effectsOf(copies, (c) => of(c).language, inSchool, variance) };
}
