import { expect } from 'chai';
import { DateTime } from 'luxon';
import { localOf, placeLocal } from '../../../../src/lib/core/time/local';
import { atOffset, offsetWords, type Offset } from '../../../../src/lib/core/time/offset';
import {
	callingHours,
	isQuietMinute,
	nextAllowed,
	stillHours
} from '../../../../src/lib/core/time/quiet';
import { localWords, readMoment } from '../../../../src/lib/core/time/read-moment';
import { draws, often } from '../../random';
import { closureOn, isSchoolDay } from '../../../../src/lib/core/time/school-days';

const zone = 'America/New_York';
const at = (iso: string, z = zone) => DateTime.fromISO(iso, { zone: z }).toMillis();
const iso = (ms: number) => DateTime.fromMillis(ms, { zone: 'utc' }).toISO();

// The nights of 2027 from the IANA time zone database, through the platform.
describe('local times on the nights when clocks change', () => {
	it('New York, March 14: 2:30 does not exist and becomes 3:30 (RFC 5545 section 3.3.5)', () => {
		const placed = placeLocal('2027-03-14T02:30', zone);
		expect(placed.existence).to.equal('skipped');
		expect(iso(placed.at)).to.equal('2027-03-14T07:30:00.000Z');
		expect(localOf(placed.at, zone)).to.equal('2027-03-14T03:30');
	});
	it('New York, November 7: 1:30 comes twice and the first is meant', () => {
		const placed = placeLocal('2027-11-07T01:30', zone);
		expect(placed.existence).to.equal('twice');
		expect(iso(placed.at)).to.equal('2027-11-07T05:30:00.000Z');
		expect(placeLocal('2027-11-07T02:30', zone).existence).to.equal('once');
	});
	it('London and Lord Howe: other nights, and a change of half an hour', () => {
		expect(placeLocal('2027-03-28T01:30', 'Europe/London').existence).to.equal('skipped');
		expect(placeLocal('2027-10-31T01:30', 'Europe/London').existence).to.equal('twice');
		expect(placeLocal('2027-10-03T02:15', 'Australia/Lord_Howe').existence).to.equal('skipped');
		expect(placeLocal('2027-10-03T02:45', 'Australia/Lord_Howe').existence).to.equal('once');
		expect(placeLocal('2027-04-04T01:45', 'Australia/Lord_Howe').existence).to.equal('twice');
	});
	it('Phoenix and Reykjavik have no such night', () => {
		for (const z of ['America/Phoenix', 'Atlantic/Reykjavik']) {
			for (const local of ['2027-03-14T02:30', '2027-11-07T01:30', '2027-03-28T01:30']) {
				expect(placeLocal(local, z).existence).to.equal('once');
			}
		}
	});
	it('comes back to the same wall time for every time that exists, over 3,000 random ones in many zones', () => {
		const r = draws(5);
		const zones = [
			zone,
			'Europe/Lisbon',
			'Asia/Ho_Chi_Minh',
			'Australia/Lord_Howe',
			'America/St_Johns',
			'Africa/Cairo'
		];
		for (let i = 0; i < often(3000); i += 1) {
			const z = r.pick(zones);
			const start = Date.UTC(2027, 0, 1) + r.int(0, 365 * 24 * 60 - 1) * 60_000;
			const local = localOf(start, z);
			const placed = placeLocal(local, z);
			expect(localOf(placed.at, z), `${local} ${z}`).to.equal(local);
			expect(placed.at <= start, `${local} ${z}`).to.equal(true);
			if (placed.at < start) expect(placed.existence).to.equal('twice');
		}
	});
	it('refuses what is no time', () => {
		for (const wrong of ['', '2027-02-30T10:00', '2027-03-14', '2027-03-14T25:00', 'fri']) {
			expect(() => placeLocal(wrong, zone), wrong).to.throw(RangeError);
		}
	});
});

describe('quiet hours', () => {
	const open = { zone, hours: [callingHours], closed: () => false };
	const next = (local: string, rules: Parameters<typeof nextAllowed>[1] = open) => {
		const found = nextAllowed(at(local), rules);
		return found === null ? null : localOf(found, rules.zone);
	};

	// Source: 47 CFR 64.1200(c)(1): no calls before 8 am or after 9 pm, local time at the called party's location.
	it('let texts go from 8 am to 9 pm by the reader’s clock', () => {
		expect(next('2027-03-09T07:59')).to.equal('2027-03-09T08:00');
		expect(next('2027-03-09T08:00')).to.equal('2027-03-09T08:00');
		expect(next('2027-03-09T20:59')).to.equal('2027-03-09T20:59');
		expect(next('2027-03-09T21:00')).to.equal('2027-03-10T08:00');
		for (let minute = 0; minute < 24 * 60; minute += 1) {
			expect(isQuietMinute(callingHours, minute)).to.equal(minute < 480 || minute >= 1260);
		}
	});
	it('are those of the reader’s zone: 7 pm in New York is 4 pm in California and 1 am in Lisbon', () => {
		const west = { ...open, zone: 'America/Los_Angeles' };
		const east = { ...open, zone: 'Europe/Lisbon' };
		expect(nextAllowed(at('2027-04-06T19:00'), west)).to.equal(at('2027-04-06T19:00'));
		// 12:00 am there, until 8 am there.
		expect(localOf(nextAllowed(at('2027-04-06T19:00'), east)!, 'Europe/Lisbon')).to.equal(
			'2027-04-07T08:00'
		);
	});
	it('add up: what one allows another may forbid', () => {
		const both = { ...open, hours: [callingHours, { fromMinute: 8 * 60, toMinute: 9 * 60 + 30 }] };
		expect(next('2027-03-09T22:00', both)).to.equal('2027-03-10T09:30');
	});
	it('pass over closed days, and end on the morning after', () => {
		const closed = (d: string) => d >= '2027-03-29' && d < '2027-04-02';
		expect(next('2027-03-28T22:00', { ...open, closed })).to.equal('2027-04-02T08:00');
		expect(next('2027-03-29T10:00', { zone, hours: [], closed })).to.equal('2027-04-02T00:00');
	});
	it('keep to the wall clock over both changes', () => {
		expect(next('2027-03-13T22:00')).to.equal('2027-03-14T08:00');
		expect(next('2027-11-06T22:00')).to.equal('2027-11-07T08:00');
		// Quiet that ends within the hour that is passed over, or comes twice.
		const early = { zone, hours: [{ fromMinute: 21 * 60, toMinute: 150 }], closed: () => false };
		expect(next('2027-03-13T22:00', early)).to.equal('2027-03-14T03:30');
		const fall = { zone, hours: [{ fromMinute: 21 * 60, toMinute: 90 }], closed: () => false };
		expect(iso(nextAllowed(at('2027-11-06T22:00'), fall)!)).to.equal('2027-11-07T05:30:00.000Z');
	});
	it('that leave no time at all come to nothing', () => {
		expect(nextAllowed(at('2027-03-09T10:00'), { ...open, closed: () => true })).to.equal(null);
		const always = { zone, closed: () => false, hours: [{ fromMinute: 0, toMinute: 1440 }] };
		expect(nextAllowed(at('2027-03-09T10:00'), always)).to.equal(null);
	});
	it('never move a copy back, nor into quiet: 500 random moments and rules', () => {
		const r = draws(9);
		for (let i = 0; i < often(500); i += 1) {
			const z = r.pick([zone, 'Europe/Lisbon', 'Asia/Ho_Chi_Minh']);
			const hours = [stillHours, { fromMinute: r.int(0, 1439), toMinute: r.int(0, 1439) }];
			const start = Date.UTC(2027, 0, 1) + r.int(0, 365 * 24 * 60) * 60_000;
			const found = nextAllowed(start, { zone: z, hours, closed: () => false });
			if (found === null) continue;
			const local = DateTime.fromMillis(found, { zone: z });
			expect(found).to.be.at.least(start);
			expect(hours.some((h) => isQuietMinute(h, local.hour * 60 + local.minute))).to.equal(false);
		}
	});
});

describe('school days', () => {
	const calendar = {
		weekdays: [1, 2, 3, 4, 5],
		terms: [{ startsOn: '2026-12-01', endsOn: '2027-03-22' }],
		closures: [
			{ schoolId: null, name: 'Island day', startsOn: '2027-03-10', endsOn: '2027-03-11' },
			{ schoolId: 2, name: 'Burst pipe', startsOn: '2027-03-11', endsOn: '2027-03-13' }
		]
	};
	it('are the weekdays of a term but closures', () => {
		const day = (date: string, ...ids: number[]) => isSchoolDay(calendar, date, ids);
		expect(
			['2027-03-09', '2027-03-10', '2027-03-13', '2027-03-22'].map((d) => day(d))
		).to.deep.equal([true, false, false, false]);
	});
	it('of one school shut it only for those who have no other', () => {
		expect(closureOn(calendar, '2027-03-11', [2])?.name).to.equal('Burst pipe');
		expect(closureOn(calendar, '2027-03-11', [1, 2])).to.equal(null);
		expect(closureOn(calendar, '2027-03-11')).to.equal(null);
		expect(closureOn(calendar, '2027-03-10', [1, 2])?.name).to.equal('Island day');
	});
});

describe('a time seen from an event', () => {
	const offset = (
		amount: number,
		unit: Offset['unit'],
		side: Offset['side'] = 'before'
	): Offset => ({
		amount,
		unit,
		side,
		of: 'start'
	});
	// RFC 5545 section 3.3.6: days are nominal, hours exact; Sunday March 14, 2027 has 23 hours.
	it('keeps the hour for days and weeks, and the length for hours, over a change of the clock', () => {
		const concert = at('2027-03-15T18:00');
		expect(localOf(atOffset(concert, offset(1, 'days'), zone), zone)).to.equal('2027-03-14T18:00');
		expect(localOf(atOffset(concert, offset(1, 'weeks'), zone), zone)).to.equal('2027-03-08T18:00');
		expect(localOf(atOffset(concert, offset(48, 'hours'), zone), zone)).to.equal(
			'2027-03-13T17:00'
		);
		expect(localOf(atOffset(concert, offset(30, 'minutes', 'after'), zone), zone)).to.equal(
			'2027-03-15T18:30'
		);
	});
	it('is said in words', () => {
		expect(offsetWords(offset(3, 'hours'))).to.equal('3 hours before it starts');
		expect(offsetWords({ ...offset(1, 'days', 'after'), of: 'end' })).to.equal(
			'1 day after it ends'
		);
		expect(offsetWords(offset(0, 'minutes'))).to.equal('when it starts');
	});
});

describe('a moment as people type it', () => {
	const now = at('2027-03-09T07:40');
	const read = (text: string, order: 'month-first' | 'day-first' = 'month-first') => {
		const r = readMoment(text, { now, zone, order }, '2027-03-09T08:10');
		return r.ok ? r.local : r.why;
	};
	it('is read by weekday, day, date and time, and looks ahead', () => {
		expect(read('fri 2:15pm')).to.equal('2027-03-12T14:15');
		expect(read('tomorrow 7:20')).to.equal('2027-03-10T07:20');
		expect(read('7:20')).to.equal('2027-03-10T07:20');
		expect(read('tue 7am')).to.equal('2027-03-16T07:00');
		expect(read('mar 12 at noon')).to.equal('2027-03-12T12:00');
		expect(read('in half an hour')).to.equal('2027-03-09T08:10');
		expect(read('fri afternoon')).to.equal('2027-03-12T15:00');
		expect(read('2027-03-12 7:05')).to.equal('2027-03-12T07:05');
	});
	it('takes figures in the viewer’s own order', () => {
		expect(read('3/12 14:15')).to.equal('2027-03-12T14:15');
		expect(read('12/3 14:15', 'day-first')).to.equal('2027-03-12T14:15');
		expect(read('mar 12 at noon', 'day-first')).to.equal('2027-03-12T12:00');
	});
	it('takes the usual time where none is said', () => {
		expect(read('friday')).to.equal('2027-03-12T08:10');
	});
	it('is never past, never of another zone, and never a stretch', () => {
		for (const [wrong, because] of [
			['last friday', /What is past cannot be planned/],
			['yesterday 5pm', /What is past/],
			['2 hours ago', /What is past/],
			['today 7am', /That is past/],
			['march 3 1999', /That is past/],
			['march 3 116106', /Not understood: “116106”/],
			['march 3 2199', /too far ahead/],
			['friday 2pm PST', /Not understood: “PST”/],
			['tuesday march 15', /March 15, 2027 is a Monday/],
			['2-3pm', /stretch of time/],
			['next week', /Say the day/]
		] as const) {
			expect(read(wrong), wrong).to.match(because);
		}
	});
	it('offers both where a person could mean either, the likelier first', () => {
		const choices = (text: string) => {
			const r = readMoment(text, { now, zone, order: 'month-first' }, '2027-03-09T08:10');
			return r.ok ? r.local : r.choices.map((c) => c.local);
		};
		expect(choices('friday at 2')).to.deep.equal(['2027-03-12T14:00', '2027-03-12T02:00']);
		expect(choices('friday at 8')).to.deep.equal(['2027-03-12T08:00', '2027-03-12T20:00']);
		expect(choices('next friday 3pm')).to.deep.equal(['2027-03-19T15:00', '2027-03-12T15:00']);
		expect(choices('friday midnight')).to.deep.equal(['2027-03-13T00:00', '2027-03-12T00:00']);
		// Where only one of the two is still to come, that one is meant.
		expect(choices('today at 3')).to.equal('2027-03-09T15:00');
	});
	it('counts hours exactly over a change of the clock, and days by the clock', () => {
		// RFC 5545 section 3.3.6; clocks go forward on Sunday March 14, 2027.
		const later = at('2027-03-12T08:00');
		const from = (text: string) => {
			const r = readMoment(text, { now: later, zone, order: 'month-first' }, '2027-03-12T08:30');
			return r.ok ? r.local : r.why;
		};
		expect(from('in 100 hours')).to.equal('2027-03-16T13:00');
		expect(from('in 4 days')).to.equal('2027-03-16T08:00');
	});
	it('is read again as it is shown, over 3,000 random moments; a word that is none is refused anywhere in it', () => {
		const r = draws(5);
		for (let i = 0; i < often(3_000); i += 1) {
			const local = localOf(now + r.int(1, 8 * 365 * 24 * 60) * 60_000, zone);
			const words = localWords(local, localOf(now, zone));
			for (const order of ['month-first', 'day-first'] as const) {
				expect(read(words, order), words).to.equal(local);
			}
			const parts = words.split(' ');
			parts.splice(r.int(0, parts.length), 0, 'kelpish');
			expect(read(parts.join(' ')), parts.join(' ')).to.match(/cannot be read as a time/);
		}
	});
	it('says what it cannot read, whole', () => {
		for (const wrong of ['', 'soon', 'fri 25:00', 'feb 30 8am', 'fri 2pm or so', 'x'.repeat(300)]) {
			expect(read(wrong)).to.match(/cannot be read as a time\. Say it like/);
		}
	});
});
