import { expect } from 'chai';
import { DateTime } from 'luxon';
import { localOf } from '../../../../src/lib/core/time/local';
import { isQuietMinute, nextAllowed, type QuietRules } from '../../../../src/lib/core/time/quiet';

const zone = 'America/New_York';
const at = (iso: string) => DateTime.fromISO(iso, { zone }).toMillis();
const rules = (over: Partial<QuietRules> = {}): QuietRules => ({
	hours: [],
	closed: () => false,
	zone,
	...over
});
const next = (iso: string, over: Partial<QuietRules>) => {
	const found = nextAllowed(at(iso), rules(over));
	return found === null ? null : localOf(found, zone);
};

describe('quiet hours, to the minute', () => {
	it('begin with their first minute and end before their last, within a day and past midnight', () => {
		const day = { fromMinute: 8 * 60, toMinute: 9 * 60 };
		expect([479, 480, 539, 540].map((m) => isQuietMinute(day, m))).to.deep.equal([
			false,
			true,
			true,
			false
		]);
		const night = { fromMinute: 21 * 60, toMinute: 8 * 60 };
		expect([1259, 1260, 0, 479, 480].map((m) => isQuietMinute(night, m))).to.deep.equal([
			false,
			true,
			true,
			true,
			false
		]);
		// The same minute twice means none.
		for (const m of [0, 300, 1439])
			expect(isQuietMinute({ fromMinute: 300, toMinute: 300 }, m)).to.equal(false);
	});

	it('move a copy to the minute they end, and no copy that is outside of them', () => {
		const hours = [{ fromMinute: 21 * 60, toMinute: 8 * 60 }];
		expect(next('2027-03-09T20:59', { hours })).to.equal('2027-03-09T20:59');
		expect(next('2027-03-09T21:00', { hours })).to.equal('2027-03-10T08:00');
		expect(next('2027-03-10T07:59', { hours })).to.equal('2027-03-10T08:00');
		expect(next('2027-03-10T08:00', { hours })).to.equal('2027-03-10T08:00');
		// Until midnight is until the next day begins.
		expect(next('2027-03-09T22:00', { hours: [{ fromMinute: 1260, toMinute: 1440 }] })).to.equal(
			'2027-03-10T00:00'
		);
		// Hours that follow one upon the other are one stretch.
		expect(
			next('2027-03-09T21:30', {
				hours: [...hours, { fromMinute: 8 * 60, toMinute: 8 * 60 + 15 }]
			})
		).to.equal('2027-03-10T08:15');
	});

	it('look at 120 days and no more', () => {
		const first = DateTime.fromISO('2027-03-09');
		const openOn = (days: number) => ({
			closed: (date: string) => date !== first.plus({ days }).toISODate()
		});
		expect(next('2027-03-09T10:00', openOn(0))).to.equal('2027-03-09T10:00');
		expect(next('2027-03-09T10:00', openOn(120))).to.equal('2027-07-07T00:00');
		expect(next('2027-03-09T10:00', openOn(121))).to.equal(null);
	});
});
