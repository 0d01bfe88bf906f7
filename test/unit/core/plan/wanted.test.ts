import { expect } from 'chai';
import {
	usualWanted,
	wantedBy,
	wantedFrom,
	wantedSchema
} from '../../../../src/lib/core/plan/wanted';
import { localOf } from '../../../../src/lib/core/time/local';

// In 2027 clocks of this zone go on from 2:00 to 3:00 on March 14, and back from 2:00 to 1:00 on November 7 (tz database).
const zone = 'America/New_York';
const at = (utc: string) => Date.parse(utc);
const hour = 3_600_000;

describe('by when it is wanted', () => {
	it('is a time of day so many days after it leaves, by its clock', () => {
		const leaves = at('2027-03-09T21:30:00Z');
		expect(localOf(wantedBy(usualWanted, leaves, zone), zone)).to.equal('2027-03-10T07:00');
		expect(localOf(wantedBy({ days: 0, time: '20:00', share: 90 }, leaves, zone), zone)).to.equal(
			'2027-03-09T20:00'
		);
	});

	it('of its own day, once that time has passed, is the next day’s', () => {
		// It leaves at 4:30 pm.
		const leaves = at('2027-03-09T21:30:00Z');
		for (const time of ['07:00', '16:30'])
			expect(localOf(wantedBy({ days: 0, time, share: 90 }, leaves, zone), zone)).to.equal(
				`2027-03-10T${time}`
			);
	});

	it('over the night of a clock change is the same time of day, an hour nearer or further', () => {
		const spring = at('2027-03-13T22:00:00Z');
		const autumn = at('2027-11-06T21:00:00Z');
		expect(localOf(spring, zone).slice(11)).to.equal(localOf(autumn, zone).slice(11));
		expect((wantedBy(usualWanted, spring, zone) - spring) / hour).to.equal(13);
		expect((wantedBy(usualWanted, autumn, zone) - autumn) / hour).to.equal(15);
		// A time that the clocks leave out is at once after it.
		const skipped = wantedBy({ days: 1, time: '02:30', share: 90 }, spring, zone);
		expect(skipped).to.be.within(at('2027-03-14T07:00:00Z'), at('2027-03-14T07:30:00Z'));
	});

	it('as somebody says it comes back as the same instant, over clock changes', () => {
		for (const leaves of [
			'2027-03-09T21:30:00Z',
			'2027-03-13T05:00:00Z',
			'2027-11-06T12:00:00Z'
		].map(at))
			for (let minutes = 5; minutes < 13 * 24 * 60; minutes += 317) {
				const by = Math.floor((leaves + minutes * 60_000) / 60_000) * 60_000;
				const found = wantedFrom(by, leaves, zone, 75);
				if (!found.ok) throw new Error(found.why);
				expect(wantedSchema.safeParse(found.wanted).success).to.equal(true);
				// The hour that comes twice is its first.
				const back = wantedBy(found.wanted, leaves, zone);
				expect(localOf(back, zone)).to.equal(localOf(by, zone));
				expect([0, hour]).to.include(by - back);
			}
	});

	it('before it leaves, or weeks after, is refused in words', () => {
		const leaves = at('2027-03-09T21:30:00Z');
		for (const by of [leaves, leaves - 1])
			expect(wantedFrom(by, leaves, zone, 90)).to.deep.equal({
				...{ ok: false, why: 'Nobody has it before it leaves: choose a time after that.' }
			});
		expect(wantedFrom(leaves + 15 * 24 * hour, leaves, zone, 90)).to.deep.equal({
			ok: false,
			why: 'That is 15 days after it leaves; say a time within 14 days of leaving.'
		});
	});
});
