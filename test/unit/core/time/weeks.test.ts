import { expect } from 'chai';
import { mondayOf, weeksBetween } from '../../../../src/lib/core/time/weeks';

describe('weeks', () => {
	// ISO 8601 (as in its examples of week dates): 2008-12-29 is the Monday of the first week of 2009; 2010-01-03 is the Sunday of the last of 2009.
	it('begin on Mondays, over the turn of years', () => {
		expect(mondayOf('2009-01-01')).to.equal('2008-12-29');
		expect(mondayOf('2010-01-03')).to.equal('2009-12-28');
		expect(mondayOf('2027-03-08')).to.equal('2027-03-08');
	});

	it('of a term are all that it touches, the last day not among them', () => {
		expect(weeksBetween('2026-12-30', '2027-01-12')).to.deep.equal([
			...['2026-12-28', '2027-01-04', '2027-01-11']
		]);
		expect(weeksBetween('2026-12-30', '2027-01-11')).to.have.lengthOf(2);
		expect(weeksBetween('2027-03-08', '2027-03-08')).to.deep.equal([]);
	});
});
