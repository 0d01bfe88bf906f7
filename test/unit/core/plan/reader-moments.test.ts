import { expect } from 'chai';
import { DateTime } from 'luxon';
import { readerMoment } from '../../../../src/lib/core/plan/reader-moments';
import { usefulUntil, wantedAt } from '../../../../src/lib/core/plan/times';
import { nextDigest } from '../../../../src/lib/core/time/digest';
import { localOf } from '../../../../src/lib/core/time/local';
import { stillHours } from '../../../../src/lib/core/time/quiet';

const zone = 'America/New_York';
const at = (iso: string) => DateTime.fromISO(iso, { zone }).toMillis();
const sixPm = 18 * 60;

describe('a daily digest', () => {
	const open = { zone, closed: () => false };
	const next = (iso: string, minute = sixPm, closed: readonly string[] = []) => {
		const found = nextDigest(at(iso), minute, { zone, closed: (d) => closed.includes(d) });
		return found === null ? null : localOf(found, zone);
	};

	it('is the next one by its reader’s clock, that very moment too, and on no day that is closed', () => {
		expect(next('2027-03-12T10:00')).to.equal('2027-03-12T18:00');
		expect(next('2027-03-12T18:00')).to.equal('2027-03-12T18:00');
		expect(next('2027-03-12T18:01')).to.equal('2027-03-13T18:00');
		expect(next('2027-03-12T18:01', sixPm, ['2027-03-13', '2027-03-14'])).to.equal(
			'2027-03-15T18:00'
		);
		expect(nextDigest(0, 0, { zone, closed: () => true })).to.equal(null);
		// By a clock elsewhere: 6 pm in Lisbon was 2 pm in New York that week, four hours apart.
		expect(
			localOf(nextDigest(at('2027-03-15T10:00'), sixPm, { ...open, zone: 'Europe/Lisbon' })!, zone)
		).to.equal('2027-03-15T14:00');
	});

	it('where clocks change: what does not exist is read with the offset before the gap, what comes twice is the first (RFC 5545 section 3.3.5)', () => {
		expect(next('2027-03-14T00:00', 2 * 60 + 30)).to.equal('2027-03-14T03:30');
		const first = nextDigest(at('2027-11-07T00:00'), 90, open)!;
		expect(new Date(first).toISOString()).to.equal('2027-11-07T05:30:00.000Z');
		// Between the two, the next is that of the next day.
		expect(localOf(nextDigest(first + 1, 90, open)!, zone)).to.equal('2027-11-08T01:30');
	});
});

describe('when a copy leaves by its reader’s own clock', () => {
	const rules = { zone, hours: [stillHours], closed: (d: string) => d === '2027-03-15' };
	const moment = (iso: string, digest: number | null, until: string | null = null) => {
		const m = readerMoment(at(iso), rules, digest, until === null ? null : at(until));
		return m && [localOf(m.at, zone), m.digest];
	};

	it('with the digest, after what is quiet; the digest itself comes when its reader wants it', () => {
		expect(moment('2027-03-12T10:00', null)).to.deep.equal(['2027-03-12T10:00', false]);
		expect(moment('2027-03-12T10:00', sixPm)).to.deep.equal(['2027-03-12T18:00', true]);
		// Quiet until half past six: the digest of six in the morning is that of the next day.
		expect(moment('2027-03-12T05:00', 6 * 60)).to.deep.equal(['2027-03-13T06:00', true]);
		expect(moment('2027-03-14T19:00', sixPm)).to.deep.equal(['2027-03-16T18:00', true]);
	});

	it('by itself where the digest would be too late: at the very end too', () => {
		for (const until of ['2027-03-12T17:00', '2027-03-12T18:00'])
			expect(moment('2027-03-12T10:00', sixPm, until)).to.deep.equal(['2027-03-12T10:00', false]);
		expect(moment('2027-03-12T10:00', sixPm, '2027-03-12T18:01')![1]).to.equal(true);
	});

	it('is of use until it ends, its event begins, or its next turn comes, whichever is first', () => {
		const departure = { turnsAt: [30, 60], endsAt: 50, eventAt: 40 };
		expect([0, 1, 2].map((step) => usefulUntil(departure, step))).to.deep.equal([30, 40, 40]);
		expect(usefulUntil({ turnsAt: [], endsAt: null, eventAt: null }, 0)).to.equal(null);
		expect(
			[0, 1, 2].map((step) => wantedAt({ leavesAt: 10, turnsAt: [30, 60] }, step))
		).to.deep.equal([10, 30, 60]);
	});
});
