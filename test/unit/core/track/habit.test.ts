import { expect } from 'chai';
import { betaQuantile } from '../../../../src/lib/core/track/beta';
import {
	bestHabitWords,
	habitOf,
	habitWords,
	noPrior,
	priorOf,
	strengthFrom,
	type HabitSample
} from '../../../../src/lib/core/track/habit';
import { mean, sampleVariance } from 'simple-statistics';
import { draws } from '../../random';

const now = Date.UTC(2027, 2, 9);
const day = 86_400_000;
/** Copies that left just now, read at once or not at all. */
const copies = (read: number, all: number, minutes = 10, daysAgo = 0): HabitSample[] =>
	Array.from({ length: all }, (_, i) => ({
		leftAt: now - daysAgo * day,
		minutes: i < read ? minutes : null
	}));

describe('the beta distribution', () => {
	// Source: Jeffreys intervals (Beta(x + 1/2, n - x + 1/2), 2.5 % and 97.5 %) in L. Brown, T. Cai,
	// A. DasGupta, Statistical Science 16 (2001) 101-133, table 5, n = 10: from memory.
	for (const [x, low, high] of [
		[1, 0.011, 0.381],
		[2, 0.044, 0.503],
		[3, 0.093, 0.606],
		[4, 0.153, 0.696],
		[5, 0.224, 0.776]
	] as const) {
		it(`has the published points for ${x} of 10`, () => {
			expect(betaQuantile(0.025, x + 0.5, 10 - x + 0.5)).to.be.closeTo(low, 0.0006);
			expect(betaQuantile(0.975, x + 0.5, 10 - x + 0.5)).to.be.closeTo(high, 0.0006);
		});
	}

	it('has its exact values: Beta(1, 1) is even, Beta(2, 1) grows with the square (DLMF 8.17)', () => {
		for (const p of [0.1, 0.37, 0.9]) {
			expect(betaQuantile(p, 1, 1)).to.be.closeTo(p, 1e-12);
			expect(betaQuantile(p, 2, 1)).to.be.closeTo(Math.sqrt(p), 1e-12);
			expect(betaQuantile(p, 1, 3)).to.be.closeTo(1 - Math.cbrt(1 - p), 1e-12);
		}
	});

	it('lies where the binomial sum of DLMF 8.17.5 says, for whole numbers (300 random)', () => {
		const r = draws(14);
		/** How much of Beta(a, b) lies below x: heads at least a times in a + b − 1 throws. */
		const below = (x: number, a: number, b: number) => {
			const n = a + b - 1;
			let term = (1 - x) ** n;
			let sum = 0;
			for (let j = 0; j <= n; j += 1) {
				if (j >= a) sum += term;
				term *= ((n - j) / (j + 1)) * (x / (1 - x));
			}
			return sum;
		};
		for (let i = 0; i < 300; i += 1) {
			const [a, b, p] = [r.int(1, 60), r.int(1, 60), r.int(1, 99) / 100];
			expect(below(betaQuantile(p, a, b), a, b)).to.be.closeTo(p, 1e-7);
		}
	});
});

describe('reading habits', () => {
	// Source: A. Gelman and others, Bayesian Data Analysis, section 5.1 (rat tumours): mean 0.136 and
	// deviation 0.103 of 70 earlier groups give Beta(1.4, 8.6); 4 of 14 then come to 0.223, deviation 0.083: from memory.
	it('draw to the mean as the published example does', () => {
		const strength = strengthFrom(0.136, 0.103 ** 2);
		expect(strength * 0.136).to.be.closeTo(1.4, 0.05);
		const habit = habitOf('email', copies(4, 14), { ...noPrior, mean: 0.136, strength }, now);
		expect(habit.share).to.be.closeTo(0.223, 0.0005);
		const deviation = Math.sqrt((habit.share * (1 - habit.share)) / (strength + 14 + 1));
		expect(deviation).to.be.closeTo(0.083, 0.0005);
	});

	it('find how much people differ, from people made by a known rule', () => {
		const r = draws(15);
		const rates: number[] = [];
		const people = Array.from({ length: 4_000 }, () => {
			// Two kinds of readers: the mean is 0.6, the deviation 0.2.
			const rate = r.int(0, 1) === 0 ? 0.4 : 0.8;
			rates.push(rate);
			return copies(
				Array.from({ length: 12 }, () => r.int(1, 1000) <= rate * 1000).filter(Boolean).length,
				12
			);
		});
		const prior = priorOf(people, now);
		expect(prior.mean).to.be.closeTo(mean(rates), 0.01);
		expect(prior.strength).to.be.closeTo(strengthFrom(mean(rates), sampleVariance(rates)), 0.5);
	});

	it('are fair to those with few copies: one that was not read says little', () => {
		const prior = { mean: 0.7, strength: 8, logMinutes: Math.log(30) };
		const one = habitOf('text', copies(0, 1), prior, now);
		expect(one.share).to.be.above(0.6);
		expect(one.high - one.low).to.be.above(0.4);
		const many = habitOf('text', copies(0, 40), prior, now);
		expect(many.share).to.be.below(0.13);
		expect(many.high - many.low).to.be.below(0.15);
	});

	it('weigh what is newer more', () => {
		const then = copies(0, 10, 10, 360);
		const lately = copies(10, 10, 10, 5);
		const changed = habitOf('email', [...then, ...lately], { ...noPrior, strength: 2 }, now);
		const otherway = habitOf(
			'email',
			[...copies(10, 10, 10, 360), ...copies(0, 10, 10, 5)],
			{ ...noPrior, strength: 2 },
			now
		);
		expect(changed.share).to.be.above(0.75);
		expect(otherway.share).to.be.below(0.25);
		expect(changed).to.include({ copies: 20, read: 10 });
	});

	it('hold the share between their bounds, and never leave 0 to 1 (300 random)', () => {
		const r = draws(16);
		for (let i = 0; i < 300; i += 1) {
			const all = r.int(0, 30);
			const h = habitOf('inbox', copies(r.int(0, all), all), noPrior, now);
			expect(h.low).to.be.within(0, h.share);
			expect(h.high).to.be.within(h.share, 1);
		}
	});

	it('are said in a list by the way that is read best, and not at all of few copies', () => {
		const habits = [
			habitOf('email', copies(3, 12, 60), noPrior, now),
			habitOf('text', copies(5, 5, 12), noPrior, now),
			habitOf('inbox', copies(2, 2), noPrior, now)
		];
		expect(bestHabitWords(habits)).to.equal('5 of 5 texts, within 19 min');
		expect(bestHabitWords(habits.slice(2))).to.equal('');
	});

	it('are said in words, of few copies no more than that', () => {
		expect(habitWords(habitOf('text', [], noPrior, now))).to.equal(
			'No texts have arrived yet; others read about 5 of 10.'
		);
		expect(habitWords(habitOf('text', copies(1, 2), noPrior, now))).to.equal(
			'Read 1 of 2 texts: too few to tell; others read about 5 of 10.'
		);
		expect(habitWords(habitOf('email', copies(9, 11, 20), noPrior, now))).to.equal(
			'Read 9 of 11 emails; to be expected: about 8 of 10, usually within 24 min.'
		);
	});

	it('know nothing of everybody from fewer than ten people who had copies', () => {
		const day = 86_400_000;
		const reader = [{ leftAt: now - 5 * day, minutes: 20 }];
		const of = (n: number) => priorOf([...Array<typeof reader>(n).fill(reader), []], now);
		expect(of(9)).to.deep.equal(noPrior);
		expect(of(10).mean).to.equal(0.99);
		expect(of(10).logMinutes).to.be.closeTo(Math.log(20), 1e-9);
		// Where nobody has read, everybody's pace is the usual one.
		const unread = [{ leftAt: now - 5 * day, minutes: null }];
		const none = priorOf(Array<typeof unread>(10).fill(unread), now);
		expect([none.mean, none.logMinutes]).to.deep.equal([0.01, noPrior.logMinutes]);
	});
	it('have no pace where nothing was read, and are said in tenths', () => {
		const prior = { mean: 0.5, strength: 2, logMinutes: Math.log(60) };
		const unread = Array.from({ length: 4 }, () => ({ leftAt: now, minutes: null }));
		const habit = habitOf('email', unread, prior, now);
		expect([habit.minutes, habit.copies, habit.read]).to.deep.equal([null, 4, 0]);
		expect(habitWords(habit)).to.equal('Read 0 of 4 emails; to be expected: about 2 of 10.');
		expect(habitWords({ ...habit, share: 0.04 })).to.match(/hardly any\.$/);
		expect(habitWords({ ...habit, share: 0.96 })).to.match(/nearly all\.$/);
		expect(habitWords({ ...habit, copies: 3 })).to.match(
			/too few to tell; others read about 5 of 10/
		);
		expect(habitWords({ ...habit, copies: 0 })).to.match(/^No emails have arrived yet/);
		expect(bestHabitWords([habit])).to.equal('0 of 4 emails');
		expect(bestHabitWords([{ ...habit, copies: 3 }])).to.equal('');
		const text = { ...habit, way: 'text' as const, minutes: 20 };
		// Of two that are alike the first; of others the better.
		expect(bestHabitWords([habit, text])).to.equal('0 of 4 emails');
		expect(
			bestHabitWords([
				{ ...text, share: 0.1 },
				{ ...text, share: 0.9, read: 4 }
			])
		).to.equal('4 of 4 texts, within 20 min');
	});
});
