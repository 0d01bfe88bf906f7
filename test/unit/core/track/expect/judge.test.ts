import { expect } from 'chai';
import {
	judge,
	judgedTogether,
	type Outcome
} from '../../../../../src/lib/core/track/expect/judge';
import { draws } from '../../../random';

const came = (chance: number, covered: boolean, school = '1', language = 'en'): Outcome => ({
	...{ chance, covered, school, language }
});

describe('how good a forecast was', () => {
	// G. W. Brier, Monthly Weather Review 78, 1950, 1–3: the mean square between what was said and what came (of two
	// classes, half of his sum). By hand: 0.1², 0.4², 0.3².
	it('is the square of how far each chance lay from what came, as of plain rivals', () => {
		const { brier } = judge([came(0.9, true), came(0.4, false), came(0.7, true)], {
			...{ usual: 0.5, last: 1 }
		});
		expect(brier.own).to.be.closeTo(0.01 + 0.16 + 0.09, 1e-12);
		expect(brier.usual).to.be.closeTo(3 * 0.25, 1e-12);
		expect(brier.last).to.be.closeTo(1, 1e-12);
	});

	it('is told by tenths, by school and by language; of several it is their sum', () => {
		const r = draws(7);
		const outcomes = Array.from({ length: 400 }, () =>
			came(r.next(), r.chance(0.5), String(r.int(1, 3)), r.pick(['en', 'pt']))
		);
		const rivals = { usual: 0.6, last: 0.4 };
		const whole = judge(outcomes, rivals);
		expect(whole.tenths).to.have.lengthOf(10);
		whole.tenths.forEach(({ of, expected }, i) => {
			expect(expected / of).to.be.within(i / 10, (i + 1) / 10);
		});
		for (const sums of [
			whole.tenths,
			Object.values(whole.schools),
			Object.values(whole.languages)
		]) {
			expect(sums.reduce((n, t) => n + t.of, 0)).to.equal(400);
			expect(sums.reduce((n, t) => n + t.came, 0)).to.equal(
				outcomes.filter((o) => o.covered).length
			);
		}
		const parts = judgedTogether([
			judge(outcomes.slice(0, 130), rivals),
			judge(outcomes.slice(130), rivals)
		]);
		expect(parts.brier.own).to.be.closeTo(whole.brier.own, 1e-9);
		expect(Object.keys(parts.schools).sort()).to.deep.equal(['1', '2', '3']);
		for (const key of ['1', '2', '3'])
			expect(parts.schools[key]!.came).to.equal(whole.schools[key]!.came);
		// A chance of one is in the last tenth.
		expect(judge([came(1, true)], rivals).tenths[9]!.of).to.equal(1);
	});
});
