import { expect } from 'chai';
import { quantileSorted } from 'simple-statistics';
import {
	goodTime,
	goodTimeWords,
	type PastReading
} from '../../../../src/lib/core/track/good-time';
import { draws } from '../../random';

/** `n` readings of an hour, of several dispatches, after about so many minutes, by people who usually take so many. */
function past(
	hour: number,
	n: number,
	minutes: (i: number) => number | null,
	dispatches = 5,
	usual = 100
): PastReading[] {
	return Array.from({ length: n }, (_, i) => ({
		hour,
		minutes: minutes(i),
		usual,
		dispatchId: hour * 100 + (i % dispatches)
	}));
}
const r = draws(77);
const about = (m: number) => () => m * (0.5 + r.next());

describe('a good time', () => {
	it('is the hour in which copies were read soonest, with its spread and number', () => {
		const readings = [
			...past(9, 200, about(300)),
			...past(15, 120, about(40)),
			...past(18, 90, about(200))
		];
		const found = goodTime(readings)!;
		expect([found.hour, found.letters]).to.deep.equal([15, 120]);
		const sorted = readings
			.filter((x) => x.hour === 15)
			.map((x) => x.minutes!)
			.sort((a, b) => a - b);
		// Quartiles against a reference library; it takes the middle of two where it lies between.
		for (const [p, ours] of [
			[0.25, found.quarter],
			[0.5, found.half],
			[0.75, found.threeQuarters]
		] as const) {
			const at = sorted.indexOf(ours);
			expect(quantileSorted(sorted, p)).to.be.within(ours, sorted[at + 1]!);
		}
		expect(
			goodTimeWords({ hour: 15, quarter: 12, half: 35, threeQuarters: 130, letters: 120 })
		).to.equal(
			'A good time: what left from 3 pm to 4 pm such people read sooner than they usually do, half within 35 min (a quarter 12 min, three quarters 2 h; 120 letters).'
		);
	});
	it('is not said where too little is known: few copies, few dispatches, one hour only', () => {
		const rest = past(9, 200, about(300));
		expect(goodTime([])).to.equal(null);
		expect(goodTime([...rest, ...past(15, 39, about(20))])).to.equal(null);
		expect(goodTime([...rest, ...past(15, 200, about(20), 2)])).to.equal(null);
		expect(goodTime(past(15, 200, about(20)))).to.equal(null);
	});
	it('is not said where no hour stands out, or few read at all', () => {
		expect(goodTime([...past(9, 60, about(100)), ...past(15, 60, about(99))])).to.equal(null);
		const seldom = (i: number) => (i % 3 === 0 ? 10 : null);
		expect(goodTime([...past(9, 200, () => 50), ...past(15, 200, seldom)])?.hour).to.not.equal(15);
		expect(goodTime([...past(9, 200, seldom), ...past(15, 200, seldom)])).to.equal(null);
	});
	it('counts the unread as never, so that a quick few do not pass for all', () => {
		// Half read within a minute, the others never: no three quarters.
		const half = (i: number) => (i % 2 === 0 ? 1 : null);
		expect(goodTime([...past(9, 200, about(60)), ...past(15, 200, half)])?.hour ?? 9).to.equal(9);
	});
	it('is not an hour at which quick readers were written to, but one at which people were quicker than usual', () => {
		const readings = [
			...past(9, 200, about(20), 5, 20),
			...past(12, 200, about(150), 5, 300),
			...past(15, 200, about(300), 5, 300)
		];
		const found = goodTime(readings)!;
		expect(found.hour).to.equal(12);
		expect(found.half).to.be.within(100, 200);
	});

	it('begins to be said with forty letters of three dispatches, and forty of the other hours', () => {
		// So even that chance has no part in it.
		const quick = (n: number, dispatches = 3) => past(15, n, () => 20, dispatches);
		const slow = (n: number) => past(9, n, () => 300);
		expect(goodTime([...slow(40), ...quick(40)])!.hour).to.equal(15);
		expect(goodTime([...slow(39), ...quick(40)])).to.equal(null);
		expect(goodTime([...slow(40), ...quick(39)])).to.equal(null);
		expect(goodTime([...slow(40), ...quick(40, 2)])).to.equal(null);
		// Hours that are alike: neither stands out.
		expect(goodTime([...past(9, 60, () => 100), ...past(15, 60, () => 100)])).to.equal(null);
		// An hour whose others are mostly not read at all stands out by itself.
		expect(goodTime([...past(9, 60, () => null), ...quick(40)])!.hour).to.equal(15);
	});
	it('is said by the clock of twelve hours', () => {
		const said = (hour: number) =>
			goodTimeWords({ hour, quarter: 1, half: 2, threeQuarters: 3, letters: 40 });
		expect(said(0)).to.contain('from 12 am to 1 am');
		expect(said(11)).to.contain('from 11 am to 12 pm');
		expect(said(12)).to.contain('from 12 pm to 1 pm');
		expect(said(23)).to.contain('from 11 pm to 12 am');
	});
});
