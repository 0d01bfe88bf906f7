import { expect } from 'chai';
import { curveTimes, withEnd } from '../../../../../src/lib/core/track/expect/curve-times';
import { cheaper, effortOf, togethers } from '../../../../../src/lib/core/track/expect/effort';
import type { CopyAhead } from '../../../../../src/lib/core/track/expect/families';
import { latestEnough } from '../../../../../src/lib/core/track/expect/latest-enough';
import { draws, often } from '../../../random';

const hour = 3_600_000;
const copy = (personId: number, over: Partial<CopyAhead> = {}): CopyAhead => ({
	...{ personId, householdId: 5, readers: [personId], adult: true },
	...{ way: 'email', at: 0, step: 0, hour: 9, weekday: 0, ...over }
});

describe('choices of ways', () => {
	it('are all subsets at once, and each parted in first and then, none twice', () => {
		const all = togethers(['email', 'text', 'inbox']);
		// Each way is out, first or then; at least one goes first: 27 less those without a first (8).
		expect(all).to.have.lengthOf(27 - 8);
		expect(new Set(all.map((t) => JSON.stringify(t))).size).to.equal(all.length);
		for (const { first, then } of all) {
			expect(first).to.have.length.above(0);
			expect(first.filter((w) => then.includes(w))).to.deep.equal([]);
		}
		expect(togethers(['text'])).to.deep.equal([{ first: ['text'], then: [] }]);
	});

	it('cost what their copies cost by the chance that they leave; a home and day is one message', () => {
		const copies = [
			copy(10),
			copy(10, { way: 'text' }),
			copy(11, { way: 'text', at: 30 * hour }),
			copy(12, { readers: [12, 13] })
		];
		const effort = effortOf(copies, [1, 1, 0.25, 1], {
			partsOf: (i) => [9, 2, 4, 9][i]!,
			dayOf: (at) => String(Math.floor(at / (24 * hour))),
			homesOf: (id) => (id === 13 ? [6, 7] : [5])
		});
		// Home 5 today and, with a quarter, tomorrow; homes 6 and 7 today.
		expect(effort).to.deep.equal({ copies: 3.25, parts: 2 + 0.25 * 4, load: 1 + 0.25 + 2 });
	});

	it('are weighed by money, then copies, then load; less than half of one is the same', () => {
		const of = (parts: number, copies: number, load: number) => ({ parts, copies, load });
		expect(cheaper(of(10, 90, 5), of(12, 10, 1))).to.be.below(0);
		expect(cheaper(of(10.4, 90, 5), of(10, 80, 9))).to.be.above(0);
		expect(cheaper(of(10, 80.3, 5), of(10, 80, 9))).to.be.below(0);
		expect(cheaper(of(1, 2, 3), of(1.2, 2.2, 3.2))).to.equal(0);
	});

	it('with a turn: the last time from which it is enough is found as by trying every one', async () => {
		for (let n = 0; n < often(60); n += 1) {
			const r = draws(n);
			const times = Array.from({ length: r.int(0, 40) }, (_, i) => i);
			const until = r.int(-1, 45);
			let asked = 0;
			const found = await latestEnough(times, async (time) => {
				asked += 1;
				return time <= until;
			});
			expect(found).to.equal(times.filter((t) => t <= until).at(-1) ?? null);
			expect(asked).to.be.at.most(8);
		}
	});
});

describe('the times of a curve', () => {
	it('begin as it leaves, have the time that is asked and each turn, and end soon after', () => {
		const by = 21 * hour;
		const times = curveTimes(0, by, [copy(1), copy(1, { step: 1, at: 9 * hour })]);
		expect(times[0]).to.equal(0);
		expect(times).to.include.members([by, 9 * hour, 12 * hour]);
		expect(times.at(-1)).to.equal(1.5 * by);
		expect(times).to.deep.equal([...new Set(times)].sort((a, b) => a - b));
		// Of a time that is weeks away the curve ends there.
		expect(curveTimes(0, 300 * hour, []).at(-1)).to.equal(300 * hour);
	});

	it('a band that stops between two points stops on the line between them', () => {
		const band = [
			{ x: 0, low: 0, high: 0 },
			{ x: 100, low: 10, high: 40 }
		];
		expect(withEnd(band, 25)).to.deep.equal([band[0], { x: 25, low: 2.5, high: 10 }]);
		expect(withEnd(band, 100)).to.deep.equal(band);
		expect(withEnd(band, 500)).to.deep.equal(band);
		expect(withEnd([], 5)).to.deep.equal([]);
	});
});
