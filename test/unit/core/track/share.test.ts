import { expect } from 'chai';
import { growthOf } from '../../../../src/lib/core/track/growth';
import { percentWords, shareOf } from '../../../../src/lib/core/track/share';
import { draws, often } from '../../random';

describe('a share and its bounds', () => {
	// Source: R. G. Newcombe, Statistics in Medicine 17 (1998) 857-872, table I, method 3 (score): from memory.
	for (const [count, of, low, high] of [
		[81, 263, 0.2553, 0.3662],
		[15, 148, 0.0624, 0.1605],
		[0, 20, 0, 0.1611],
		[1, 29, 0.0061, 0.1718]
	] as const) {
		it(`${count} of ${of} lies from ${low} to ${high}`, () => {
			const share = shareOf(count, of);
			expect(share.low).to.be.closeTo(low, 0.00005);
			expect(share.high).to.be.closeTo(high, 0.00005);
		});
	}

	it('is said in percent only where there are enough', () => {
		expect(percentWords(shareOf(3, 4))).to.equal('');
		expect(percentWords(shareOf(9, 9))).to.equal('');
		expect(percentWords(shareOf(9, 10))).to.equal('90 %');
		expect(shareOf(0, 0)).to.include({ low: 0, high: 1, enough: false });
	});

	it('always holds the share itself (500 random)', () => {
		const r = draws(12);
		for (let i = 0; i < often(500); i += 1) {
			const of = r.int(1, 400);
			const { count, low, high } = shareOf(r.int(0, of), of);
			expect(low).to.be.at.most(count / of + 1e-12);
			expect(high).to.be.at.least(count / of - 1e-12);
		}
	});
});

describe('how reading grew', () => {
	const minute = 60_000;
	const from = 1_000_000;
	const times = (...minutes: number[]) => minutes.map((m) => from + m * minute);

	it('counts at the usual marks that have passed, and now', () => {
		const { marks } = growthOf(times(3, 4, 10, 70), 5, from, from + 100 * minute);
		expect(marks).to.deep.equal([
			{ minutes: 5, count: 2 },
			{ minutes: 15, count: 3 },
			{ minutes: 30, count: 3 },
			{ minutes: 60, count: 3 },
			{ minutes: 100, count: 4 }
		]);
	});

	it('knows when a quarter, half and three quarters of all had read, and when it never came to that', () => {
		const growth = growthOf(times(1, 2, 30), 5, from, from + 60 * minute);
		expect([growth.quarter, growth.half, growth.threeQuarters]).to.deep.equal([2, 30, null]);
		expect(growthOf([], 0, from, from)).to.include({ quarter: null, half: null });
	});

	it('is a curve that rises from none to all that have read, in few enough points to draw (200 random)', () => {
		const r = draws(13);
		for (let i = 0; i < often(200); i += 1) {
			const list = times(
				...Array.from({ length: r.int(0, 900) }, () => r.int(0, 5_000)).sort((a, b) => a - b)
			);
			const until = from + r.int(0, 6_000) * minute;
			const { curve } = growthOf(list, 1_000, from, until);
			expect(curve.length).to.be.at.most(122);
			expect(curve[0]).to.deep.equal({ minutes: 0, count: 0 });
			expect(curve.at(-1)!.count).to.equal(list.filter((t) => t <= until).length);
			for (let n = 1; n < curve.length; n += 1) {
				expect(curve[n]!.count).to.be.at.least(curve[n - 1]!.count);
				expect(curve[n]!.minutes).to.be.at.least(curve[n - 1]!.minutes);
			}
		}
	});
});
