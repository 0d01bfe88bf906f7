import { expect } from 'chai';
import { betaQuantile } from '../../../../src/lib/core/track/beta';
import {
	expectedOf,
	learnEachOne,
	unlearned,
	type Everybody
} from '../../../../src/lib/core/track/expect/reading-model';
import type { PastCopy, Reader } from '../../../../src/lib/core/track/expect/past-copy';
import { drawn } from '../../../../src/lib/core/track/expect/shrink';
import {
	bestHabitWords,
	habitOf,
	habitWords,
	type Habit
} from '../../../../src/lib/core/track/habit';
import type { Way } from '../../../../src/lib/core/roster/way';
import { draws } from '../../random';

const now = Date.UTC(2027, 2, 9);
const day = 86_400_000;
const reader: Reader = { householdId: null, schoolId: 1, language: 'en' };
/** Copies to one person that left so long ago, read within ten minutes or not at all. */
const copies = (read: number, all: number, minutes = 10, daysAgo = 0): PastCopy[] =>
	Array.from({ length: all }, (_, i) => ({
		...{ personId: 1, way: 'email', dispatchId: i, hour: 9, weekday: 0, step: 0 },
		leftAt: now - daysAgo * day,
		minutes: i < read ? minutes : null
	}));
/** The habit that comes of copies, where everybody reads such a share, worth so many copies. */
function habitFrom(
	past: readonly PastCopy[],
	{ way = 'email', share = 0.5, worth = 4 }: { way?: Way; share?: number; worth?: number } = {}
): Habit {
	const known = {
		...unlearned,
		usual: { ...unlearned.usual, share },
		own: { share: worth, mean: worth / 2 }
	};
	const all: Everybody = { [way]: known };
	const each = learnEachOne(
		all,
		[1],
		past.map((c) => ({ ...c, way })),
		() => reader,
		now
	);
	return habitOf(way, each[way].get(1) ?? expectedOf(known, reader), share);
}

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
	// deviation 0.103 of 70 earlier groups give Beta(1.4, 8.6), worth ten; 4 of 14 then come to 0.223: from memory.
	it('draw to the mean as the published example does', () => {
		expect(drawn({ of: 14, count: 4, expected: 0.14 }, 10)).to.be.closeTo(0.225, 0.0005);
		expect(habitFrom(copies(4, 14), { share: 0.136, worth: 10 }).share).to.be.closeTo(0.223, 0.005);
	});

	it('are fair to those with few copies: one that was not read says little', () => {
		const one = habitFrom(copies(0, 1), { share: 0.7, worth: 8 });
		expect(one.share).to.be.above(0.6);
		expect(one.high - one.low).to.be.above(0.4);
		const many = habitFrom(copies(0, 40), { share: 0.7, worth: 8 });
		expect(many.share).to.be.below(0.13);
		expect(many.high - many.low).to.be.below(0.2);
	});

	it('weigh what is newer more', () => {
		const changed = habitFrom([...copies(0, 10, 10, 360), ...copies(10, 10, 10, 5)]);
		const otherway = habitFrom([...copies(10, 10, 10, 360), ...copies(0, 10, 10, 5)]);
		expect(changed.share).to.be.above(0.75);
		expect(otherway.share).to.be.below(0.25);
		expect(changed).to.include({ copies: 20, read: 10 });
	});

	it('hold the share between their bounds, and never leave 0 to 1 (300 random)', () => {
		const r = draws(16);
		for (let i = 0; i < 300; i += 1) {
			const all = r.int(0, 30);
			const h = habitFrom(copies(r.int(0, all), all), { way: 'inbox' });
			expect(h.low).to.be.within(0, h.share);
			expect(h.high).to.be.within(h.share, 1);
		}
	});

	it('of whoever has had no copy are those of their home, and of whom nothing is known everybody’s', () => {
		const readerOf = (id: number): Reader => ({ ...reader, householdId: id === 3 ? null : 7 });
		const all: Everybody = { text: { ...unlearned, home: { share: 2, mean: 2 } } };
		const theirs = copies(10, 10).map((c) => ({ ...c, way: 'text' as const }));
		const each = learnEachOne(all, [1, 2, 3], theirs, readerOf, now);
		expect(each.text.get(2)!.share).to.be.above(0.85);
		expect(each.text.get(2)).to.include({ copies: 0, read: 0 });
		expect([each.text.get(3), each.email.size]).to.deep.equal([undefined, 0]);
	});

	it('are said in a list by the way that is read best, and not at all of few copies', () => {
		const habits = [
			habitFrom(copies(3, 12, 60)),
			habitFrom(copies(5, 5, 12), { way: 'text' }),
			habitFrom(copies(2, 2), { way: 'inbox' })
		];
		expect(bestHabitWords(habits)).to.equal('5 of 5 texts, within 19 min');
		expect(bestHabitWords(habits.slice(2))).to.equal('');
	});

	it('are said in words, of few copies no more than that', () => {
		expect(habitWords(habitFrom([], { way: 'text' }))).to.equal(
			'No texts have arrived yet; others read about 5 of 10.'
		);
		expect(habitWords(habitFrom(copies(1, 2), { way: 'text' }))).to.equal(
			'Read 1 of 2 texts: too few to tell; others read about 5 of 10.'
		);
		expect(habitWords(habitFrom(copies(9, 11, 20)))).to.match(
			/^Read 9 of 11 emails; to be expected: about [78] of 10, usually within 2\d min\.$/
		);
	});

	it('have no pace where nothing was read, and are said in tenths', () => {
		const habit = habitFrom(copies(0, 4));
		expect([habit.minutes, habit.copies, habit.read]).to.deep.equal([null, 4, 0]);
		expect(habitWords(habit)).to.match(/^Read 0 of 4 emails; to be expected: about [23] of 10\.$/);
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
