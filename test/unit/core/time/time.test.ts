import { expect } from 'chai';
import { DateTime } from 'luxon';
import { leavesAt } from '../../../../src/lib/core/time/hold';
import { retryAt } from '../../../../src/lib/core/time/retry';
import {
	clockTime,
	dayPartOf,
	dayPartsOf,
	usualMarks,
	dayTime,
	nearTime,
	weekOf
} from '../../../../src/lib/core/time/zone';

const zone = 'America/New_York';
const at = (iso: string) => DateTime.fromISO(iso, { zone }).toMillis();

describe('time', () => {
	it('holds for whole minutes from 0 to 30 and refuses the rest', () => {
		expect(leavesAt(1000, 5)).to.equal(301_000);
		expect(leavesAt(1000, 0)).to.equal(1000);
		for (const m of [-1, 31, 2.5, Number.NaN]) expect(() => leavesAt(0, m)).to.throw(RangeError);
	});

	it('tries again ever later and gives up after nine tries, about a day (common practice)', () => {
		let time = 0;
		let before = 0;
		for (let n = 1; n <= 9; n += 1) {
			const next = retryAt(time, n)!;
			expect(next - time).to.be.at.least(before);
			before = next - time;
			time = next;
		}
		expect(time / 3_600_000).to.be.within(20, 28);
		expect(retryAt(time, 10)).to.equal(null);
	});

	// Source: IANA time zone database through the platform: US clocks go forward on 14 March 2027 and back on 7 November 2027.
	it('has a week with a day of 23 hours, and one with a day of 25', () => {
		for (const [first, begins] of [
			[1, '2027-03-08'],
			[7, '2027-03-07'],
			[6, '2027-03-06'],
			[2, '2027-03-09'],
			[3, '2027-03-03']
		] as const)
			expect(weekOf(at('2027-03-09T07:40'), zone, first)[0]!.date).to.equal(begins);
		const spring = weekOf(at('2027-03-09T07:40'), zone);
		expect(spring.map((d) => d.date)).to.deep.equal([
			'2027-03-08',
			'2027-03-09',
			'2027-03-10',
			'2027-03-11',
			'2027-03-12',
			'2027-03-13',
			'2027-03-14'
		]);
		expect(spring.map((d) => (d.to - d.from) / 3_600_000)).to.deep.equal([
			24, 24, 24, 24, 24, 24, 23
		]);
		expect(spring[6]!.clockShiftMinutes).to.equal(60);
		expect(weekOf(at('2027-11-07T12:00'), zone)[6]!.clockShiftMinutes).to.equal(-60);
		expect(
			weekOf(at('2027-03-14T12:00'), 'America/Phoenix').every((d) => d.clockShiftMinutes === 0)
		).to.equal(true);
	});

	it('puts every minute of a day into one part or into quiet', () => {
		const part = (time: string) =>
			dayPartOf(at(`2027-03-09T${time}`), zone, dayPartsOf(usualMarks))?.key ?? 'quiet';
		expect(
			[
				'00:00',
				'06:29',
				'06:30',
				'08:09',
				'08:10',
				'14:59',
				'15:00',
				'17:59',
				'18:00',
				'20:29',
				'20:30'
			].map(part)
		).to.deep.equal([
			'quiet',
			'quiet',
			'before',
			'before',
			'school',
			'school',
			'after',
			'after',
			'evening',
			'evening',
			'quiet'
		]);
	});

	it('says times as the district does', () => {
		const now = at('2027-03-09T07:40');
		expect(clockTime(at('2027-03-09T07:05'), zone)).to.equal('7:05 am');
		expect(dayTime(at('2027-03-12T14:15'), zone)).to.equal('Fri Mar 12, 2:15 pm');
		expect(nearTime(at('2027-03-09T00:00'), now, zone)).to.equal('today 12:00 am');
		expect(nearTime(at('2027-03-08T23:59'), now, zone)).to.equal('yesterday 11:59 pm');
		expect(nearTime(at('2027-03-07T12:00'), now, zone)).to.equal('Sun Mar 7, 12:00 pm');
	});
});
