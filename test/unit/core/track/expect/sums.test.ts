import { expect } from 'chai';
import jStat from 'jstat';
import { cumulativeStdNormalProbability } from 'simple-statistics';
import { bandByMoments } from '../../../../../src/lib/core/track/expect/band-by-moments';
import { normalBelow, normalPoints } from '../../../../../src/lib/core/track/expect/normal';
import {
	bandOf,
	countChances,
	expectedCount,
	mixed,
	type Trial
} from '../../../../../src/lib/core/track/expect/poisson-binomial';
import {
	drawn,
	drawnMean,
	meanStrength,
	strengthOf
} from '../../../../../src/lib/core/track/expect/shrink';
import { boundFrom, noneOf } from '../../../../../src/lib/core/track/expect/together';
import { random } from '../../../../../demo/random';
import { draws, often } from '../../../random';

/** By trying every outcome. */
function byEnumeration(trials: readonly Trial[]): number[] {
	const most = trials.reduce((sum, t) => sum + t.size, 0);
	const chances = Array<number>(most + 1).fill(0);
	for (let bits = 0; bits < 2 ** trials.length; bits += 1) {
		let [p, n] = [1, 0];
		trials.forEach((t, i) => {
			const happens = (bits >> i) % 2 === 1;
			p *= happens ? t.chance : 1 - t.chance;
			n += happens ? t.size : 0;
		});
		chances[n]! += p;
	}
	return chances;
}

describe('sums of chances', () => {
	it('are as every outcome tried says, up to sixteen trials, of whatever sizes', () => {
		for (let n = 0; n < often(40); n += 1) {
			const r = draws(n);
			const trials = Array.from({ length: r.int(0, 16) }, () => ({
				chance: r.chance(0.1) ? r.int(0, 1) : r.next(),
				size: r.int(1, 3)
			}));
			const all = countChances(trials);
			byEnumeration(trials).forEach((p, k) => expect(all[k]).to.be.closeTo(p, 1e-12));
			const mean = all.reduce((sum, p, k) => sum + p * k, 0);
			expect(mean).to.be.closeTo(expectedCount(trials), 1e-9);
		}
	});

	it('of equal chances are the binomial distribution (jStat)', () => {
		const all = countChances(Array.from({ length: 50 }, () => ({ chance: 0.3, size: 1 })));
		for (let k = 0; k <= 50; k += 1)
			expect(all[k]).to.be.closeTo(jStat.binomial.pdf(k, 50, 0.3), 1e-12);
		// The band of it: the quantiles of the binomial distribution, from its sums.
		const { low, high } = bandOf(all, 0.9);
		const below = (k: number) => jStat.binomial.cdf(k, 50, 0.3);
		expect(below(low)).to.be.at.least(0.05);
		expect(below(low - 1)).to.be.below(0.05);
		expect(below(high)).to.be.at.least(0.95);
		expect(below(high - 1)).to.be.below(0.95);
	});

	it('of a whole district come to one, and lie as a normal distribution does (de Moivre and Laplace)', () => {
		const r = random(5);
		const trials = Array.from({ length: 25_000 }, () => ({ chance: 0.5 + r.next() / 2, size: 1 }));
		const all = countChances(trials);
		expect(all.reduce((sum, p) => sum + p, 0)).to.be.closeTo(1, 1e-9);
		const mean = expectedCount(trials);
		const sd = Math.sqrt(trials.reduce((sum, t) => sum + t.chance * (1 - t.chance), 0));
		const { low, high } = bandOf(all, 0.9);
		expect(low).to.be.closeTo(mean - 1.6449 * sd, 1);
		expect(high).to.be.closeTo(mean + 1.6449 * sd, 1);
	});

	it('of thousands have by their moments the band that they have exactly, or one beside it', () => {
		for (let n = 0; n < often(12); n += 1) {
			const r = draws(100 + n);
			const casesOf = (shift: number) =>
				Array.from({ length: 2200 }, () => ({
					chance: Math.min(1, Math.max(0, r.next() ** 2 + shift)),
					size: r.int(1, 3)
				}));
			const cases = [
				{ weight: 0.3, trials: casesOf(-0.05) },
				{ weight: 0.7, trials: casesOf(0.05) }
			].map((c, i, all) => ({
				...c,
				// The same families, whatever the case.
				trials: c.trials.map((t, k) => ({ ...t, size: all[0]!.trials[k]!.size }))
			}));
			const exact = bandOf(
				mixed(cases.map((c) => ({ weight: c.weight, chances: countChances(c.trials) }))),
				0.9
			);
			const near = bandByMoments(cases, 0.9);
			expect(Math.abs(near.low - exact.low)).to.be.at.most(1);
			expect(Math.abs(near.high - exact.high)).to.be.at.most(1);
		}
		const sure = [
			{
				weight: 1,
				trials: [
					{ chance: 1, size: 2 },
					{ chance: 0, size: 3 }
				]
			}
		];
		expect(bandByMoments(sure, 0.9)).to.deep.equal({ low: 2, high: 2 });
	});

	it('nothing to happen is nobody for certain; two worlds are mixed by their weights', () => {
		expect([...countChances([])]).to.deep.equal([1]);
		expect(bandOf(countChances([]), 0.9)).to.deep.equal({ low: 0, high: 0 });
		const sure = (n: number) => countChances([{ chance: 1, size: n }]);
		const both = mixed([
			{ weight: 0.25, chances: sure(1) },
			{ weight: 0.75, chances: sure(3) }
		]);
		expect([...both]).to.deep.equal([0, 0.25, 0, 0.75]);
	});
});

describe('the normal distribution', () => {
	// Abramowitz and Stegun 1964, table 26.1.
	for (const [x, p] of [
		[0, 0.5],
		[1, 0.841344746],
		[1.96, 0.975002105],
		[-2.5, 0.006209665]
	] as const)
		it(`lies below ${x} by ${p}`, () => {
			expect(normalBelow(x)).to.be.closeTo(p, 1e-8);
			// Its table has four figures.
			expect(normalBelow(x)).to.be.closeTo(cumulativeStdNormalProbability(x), 1e-3);
		});

	// A rule of seven points is exact up to the thirteenth power; the moments are (n − 1)!!.
	it('is summed up by seven points: its moments are exact', () => {
		const moment = (n: number) =>
			normalPoints.reduce((sum, { at, weight }) => sum + weight * at ** n, 0);
		for (const [n, value] of [
			[0, 1],
			[2, 1],
			[4, 3],
			[6, 15],
			[8, 105],
			[12, 10395]
		] as const)
			expect(moment(n) / value).to.be.closeTo(1, 1e-8);
		for (const n of [1, 3, 5, 13]) expect(moment(n)).to.be.closeTo(0, 1e-6);
	});
});

describe('drawing one of many to what is expected', () => {
	const r = random(11);
	/** A share drawn from Beta(a, b), as the quantile of an even draw. */
	const betaDraw = (a: number, b: number) => jStat.beta.inv(r.next(), a, b);
	const seen = (strength: number, mean: number, n: number) =>
		Array.from({ length: 1500 }, () => {
			const share = betaDraw(mean * strength, (1 - mean) * strength);
			const count = Array.from({ length: n }, () => (r.chance(share) ? 1 : 0)).reduce<number>(
				(a, b) => a + b,
				0
			);
			return { of: n, count, expected: mean };
		});

	it('goes by as much as they really differ: the strength that made them is found again', () => {
		expect(strengthOf(seen(4, 0.6, 20))).to.be.within(3, 5.3);
		expect(strengthOf(seen(20, 0.7, 30))).to.be.within(15, 27);
		// All the same: nothing of one's own counts for much.
		const same = Array.from({ length: 300 }, () => ({
			...{ of: 20, expected: 0.5 },
			count: Array.from({ length: 20 }, () => (r.chance(0.5) ? 1 : 0)).reduce<number>(
				(a, b) => a + b,
				0
			)
		}));
		expect(strengthOf(same)).to.be.above(60);
		expect(strengthOf(seen(4, 0.6, 20).slice(0, 5))).to.equal(null);
	});

	it('a share lies between what was seen and what is expected, nearer to the one that weighs more', () => {
		expect(drawn({ of: 0, count: 0, expected: 0.4 }, 5)).to.equal(0.4);
		expect(drawn({ of: 5, count: 5, expected: 0.4 }, 5)).to.be.closeTo(0.7, 1e-12);
		expect(drawnMean({ of: 3, sum: 9, expected: 1 }, 1)).to.be.closeTo(2.5, 1e-12);
	});

	it('means are drawn by the spread within over that between', () => {
		const normal = () => jStat.normal.inv(r.next(), 0, 1);
		const means = Array.from({ length: 400 }, () => {
			const own = 3 + 0.5 * normal();
			return {
				of: 10,
				sum: Array.from({ length: 10 }, () => own + normal()).reduce((a, b) => a + b, 0),
				expected: 3
			};
		});
		// 1 within, 0.25 between.
		expect(meanStrength(means, 1)).to.be.within(3, 5.3);
	});
});

describe('those who hang on each other', () => {
	it('lie between each for itself and wholly together', () => {
		expect(noneOf([0.5, 0.2], 0)).to.be.closeTo(0.1, 1e-12);
		expect(noneOf([0.5, 0.2], 1)).to.equal(0.2);
		expect(noneOf([0.5, 0.2], 0.5)).to.be.closeTo(0.15, 1e-12);
		expect(noneOf([], 0.5)).to.equal(1);
	});

	it('how closely is found again from how often none did', () => {
		const r = random(3);
		for (const bound of [0, 0.3, 0.8]) {
			const seen = Array.from({ length: 6000 }, () => {
				const misses = [0.2 + r.next() / 2, 0.2 + r.next() / 2];
				return { misses, none: r.chance(noneOf(misses, bound)), weight: 1 };
			});
			expect(boundFrom(seen)).to.be.closeTo(bound, 0.09);
		}
		expect(boundFrom([{ misses: [0.5, 0.5], none: true, weight: 1 }])).to.equal(0);
	});
});
