/** A student of a forecast whose time has come: what was said of them, and what came. */
export interface Outcome {
	/** 0 to 1. */
	readonly chance: number;
	readonly covered: boolean;
	/** Keys of their school and of their family’s language. */
	readonly school: string;
	readonly language: string;
}

/** Students added up: how many there are, how many were to be expected, how many came. */
export interface Tally {
	readonly of: number;
	readonly expected: number;
	readonly came: number;
}

/** How good a forecast was, as sums, so that several can be put together. */
export interface Judged {
	/** Sums of squares between what was said and what came (Brier 1950): ours, everybody’s average until then, the last dispatch’s share. */
	readonly brier: { readonly own: number; readonly usual: number; readonly last: number };
	/** By tenths of the chance that was said, from “hardly” on. */
	readonly tenths: readonly Tally[];
	readonly schools: Readonly<Record<string, Tally>>;
	readonly languages: Readonly<Record<string, Tally>>;
}

const none: Tally = { of: 0, expected: 0, came: 0 };
const plus = (a: Tally, b: Tally): Tally => ({
	of: a.of + b.of,
	expected: a.expected + b.expected,
	came: a.came + b.came
});

const by = (
	outcomes: readonly Outcome[],
	keyOf: (o: Outcome) => string
): Readonly<Record<string, Tally>> => {
	const sums: Record<string, Tally> = {};
	for (const o of outcomes) {
		const key = keyOf(o);
		sums[key] = plus(sums[key] ?? none, {
			...{ of: 1, expected: o.chance, came: o.covered ? 1 : 0 }
		});
	}
	return sums;
};

/** Judges one forecast by what came; the rivals are shares that were known when it was made. */
export function judge(
	outcomes: readonly Outcome[],
	rivals: { readonly usual: number; readonly last: number }
): Judged {
	const squares = (said: (o: Outcome) => number): number =>
		outcomes.reduce((sum, o) => sum + (said(o) - (o.covered ? 1 : 0)) ** 2, 0);
	const byTenth = by(outcomes, (o) => String(Math.min(9, Math.floor(o.chance * 10))));
	return {
		brier: {
			own: squares((o) => o.chance),
			usual: squares(() => rivals.usual),
			last: squares(() => rivals.last)
		},
		tenths: Array.from({ length: 10 }, (_, i) => byTenth[i] ?? none),
		schools: by(outcomes, (o) => o.school),
		languages: by(outcomes, (o) => o.language)
	};
}

const merged = (
	all: readonly Readonly<Record<string, Tally>>[]
): Readonly<Record<string, Tally>> => {
	const sums: Record<string, Tally> = {};
	for (const one of all)
		for (const [key, tally] of Object.entries(one)) sums[key] = plus(sums[key] ?? none, tally);
	return sums;
};

/** Several judged forecasts put together. */
export const judgedTogether = (all: readonly Judged[]): Judged => ({
	brier: {
		own: all.reduce((sum, j) => sum + j.brier.own, 0),
		usual: all.reduce((sum, j) => sum + j.brier.usual, 0),
		last: all.reduce((sum, j) => sum + j.brier.last, 0)
	},
	tenths: Array.from({ length: 10 }, (_, i) =>
		all.reduce((sum, j) => plus(sum, j.tenths[i]!), none)
	),
	schools: merged(all.map((j) => j.schools)),
	languages: merged(all.map((j) => j.languages))
});
