import { expect } from 'chai';
import { sumsOf, type ReportWeek } from '../../../../src/lib/core/track/report-sums';
import {
	costWords,
	ofWords,
	perFamily,
	runningWords,
	weekWords
} from '../../../../src/lib/core/track/report-words';

const week = (n: number): ReportWeek => {
	const way = { copies: 10 * n, arrived: 9 * n, read: 5 * n };
	return {
		...{ from: '2027-03-08', dispatches: n, of: 100 * n, covered: 80 * n },
		...{ messages: n, homes: n, most: n, ways: { email: way, text: way, inbox: way } },
		...{ parts: 2 * n, partsUnknown: 1, failing: n, mended: 0, running: 1 }
	};
};

describe('a term in figures', () => {
	it('is the sum of its weeks', () => {
		expect(sumsOf([week(1), week(2)])).to.deep.equal({
			...{
				dispatches: 3,
				of: 300,
				covered: 240,
				parts: 6,
				partsUnknown: 2,
				failing: 3,
				mended: 0,
				running: 2
			},
			ways: Object.fromEntries(
				['email', 'text', 'inbox'].map((w) => [w, { copies: 30, arrived: 27, read: 15 }])
			)
		});
		expect(sumsOf([])).to.include({ of: 0, covered: 0 });
	});

	it('is said with its counts', () => {
		expect(ofWords(1203, 1432)).to.equal('84 % (1,203 of 1,432)');
		expect(ofWords(0, 0)).to.equal('none');
		expect(weekWords({ covered: 3, of: 4, running: 0 })).to.equal('75 % (3 of 4)');
		expect(weekWords({ covered: 3, of: 4, running: 2 })).to.equal('75 % (3 of 4) so far');
		expect([0, 1, 4].map(runningWords)).to.deep.equal([
			'',
			'For the last dispatch that time is not over.',
			'For the last 4 dispatches that time is not over.'
		]);
		expect(perFamily(12, 5)).to.equal('2.4');
		expect(perFamily(0, 0)).to.equal('0');
		expect(costWords(154, 0.9, 0)).to.equal('$1.39, 154 parts');
		expect(costWords(0, 0.9, 12)).to.equal('of 12 texts parts were not kept');
		expect(costWords(0, 0.9, 0)).to.equal('$0.00, 0 parts');
		expect(costWords(1, 0, 3)).to.equal('1 part; of 3 earlier texts parts were not kept');
	});
});
