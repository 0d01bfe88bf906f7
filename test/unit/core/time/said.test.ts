import { expect } from 'chai';
import { Said } from '../../../../src/lib/core/time/said';
import { readClock, takeTime } from '../../../../src/lib/core/time/said-clock';
import {
	dateWords,
	isoDate,
	placeDay,
	takeDay,
	type SaidDay
} from '../../../../src/lib/core/time/said-day';

// How people write days and times: common practice. Calendars: the Gregorian one of ISO 8601.

describe('a time of day as it is said', () => {
	/** "HH:mm half", with what was left over behind it; "–" where none was taken. */
	const time = (text: string): string => {
		const said = new Said(text);
		const t = takeTime(said);
		if (!t) return `– ${said.rest}`;
		const clock = `${String(t.hour).padStart(2, '0')}:${String(t.minute).padStart(2, '0')}`;
		return [clock, t.half ?? 'open', t.minutesSaid ? '' : 'hour only', said.rest]
			.filter(Boolean)
			.join(' ');
	};

	for (const [text, wanted] of [
		['2:15pm', '14:15 pm'],
		['2 p.m.', '14:00 pm'],
		['2p', '14:00 pm'],
		['7a', '07:00 am'],
		['12am', '00:00 am'],
		['12 pm', '12:00 pm'],
		['12:30 AM', '00:30 am'],
		['1am', '01:00 am'],
		['11:59pm', '23:59 pm'],
		['7.30pm', '19:30 pm'],
		['noon', '12:00 told'],
		['at midday', '12:00 told'],
		['midnight', '00:00 told'],
		['14:15', '14:15 told'],
		['0:30', '00:30 told'],
		['13', '13:00 told hour only'],
		['07:20', '07:20 told'],
		['7:20', '07:20 open'],
		['12:20', '12:20 open'],
		['@ 8', '08:00 open hour only'],
		['at 7', '07:00 open hour only'],
		['7', '07:00 open hour only'],
		['7 o’clock', '07:00 open hour only'],
		["7 o'clock", '07:00 open hour only'],
		['7 oclock', '07:00 open hour only'],
		['15h', '15:00 told hour only'],
		['at 7 sharp', '07:00 open hour only sharp'],
		// Neither times of any clock nor of ours.
		['13pm', '– 13pm'],
		['0am', '– 0am'],
		['7:5pm', '– 7:5pm'],
		['7:60', '– 7:60'],
		['24', '– 24'],
		['7.30', '– 7.30'],
		['soon', '– soon'],
		['123', '– 123']
	] as const) {
		it(`${text}: ${wanted}`, () => {
			expect(time(text)).to.equal(wanted);
		});
	}

	it('midnight is told from any other, since of a day it may be its beginning or its end', () => {
		expect(takeTime(new Said('midnight'))!.midnight).to.equal(true);
		expect(takeTime(new Said('0:00'))!.midnight).to.equal(undefined);
	});

	it('a bare figure inside a sentence is none', () => {
		const said = new Said('mar 12 boats');
		said.take('mar');
		expect(takeTime(said)).to.equal(null);
		expect(said.rest).to.equal('12 boats');
	});

	for (const [text, wanted] of [
		[' 2:15 pm ', '14:15'],
		['14:15', '14:15'],
		['7:05', '07:05'],
		['noon', '12:00'],
		['7pm', '19:00'],
		// A bare figure is none, and nothing may be left over.
		['7', null],
		['at 7', null],
		['7:05 or so', null],
		['', null],
		['fri', null]
	] as const) {
		it(`by itself, “${text}” is ${wanted ?? 'none'}`, () => {
			expect(readClock(text)).to.equal(wanted);
		});
	}
});

describe('a day as it is said', () => {
	/** "year-month-day weekday", ? for what was left open, with what was left over; "–" where none was taken. */
	const day = (text: string, order: 'month-first' | 'day-first' = 'month-first'): string => {
		const said = new Said(text);
		const d = takeDay(said, order);
		if (!d) return `– ${said.rest}`;
		const weekday = d.weekday === null ? '' : `w${d.weekday}`;
		return [`${d.year ?? '?'}-${d.month ?? '?'}-${d.day}`, weekday, said.rest]
			.filter(Boolean)
			.join(' ');
	};

	for (const [text, wanted] of [
		['june 11', '?-6-11'],
		['June 11th, 2027', '2027-6-11'],
		['june the 11th', '?-6-11'],
		['june 1st', '?-6-1'],
		['june 2nd', '?-6-2'],
		['june 3rd', '?-6-3'],
		['june 11 2027', '2027-6-11'],
		['june 11 ’27', '2027-6-11'],
		['sept 5', '?-9-5'],
		['11 june', '?-6-11'],
		['11th of june 2027', '2027-6-11'],
		['the 11th of june', '?-6-11'],
		['the 12th', '?-?-12'],
		['the first of june', '?-6-1'],
		['the first', '– the first'],
		['12th', '?-?-12'],
		['2027-06-11', '2027-6-11'],
		['6/11', '?-6-11'],
		['6/11/27', '2027-6-11'],
		['6/11/2027', '2027-6-11'],
		['6.11.2027', '2027-6-11'],
		['6-11-27', '2027-6-11'],
		['fri, june 11', '?-6-11 w5'],
		['friday the 12th', '?-?-12 w5'],
		['tues 3/9', '?-3-9 w2'],
		['thurs june 10', '?-6-10 w4'],
		['weds 3/10', '?-3-10 w3'],
		['june 11 at noon', '?-6-11 at noon'],
		['june 11 2:15', '?-6-11 2:15'],
		// Times, bare figures and parts of longer words are no days.
		['march 2pm', '– march 2pm'],
		['march 2:15', '– march 2:15'],
		['fri 2', '– fri 2'],
		['2', '– 2'],
		['the 0th', '– the 0th'],
		['7-8', '– 7-8'],
		['7.30', '– 7.30'],
		['2/3pm', '– 2/3pm'],
		['2027-06', '– 2027-06'],
		['2027-june-11', '– 2027-june-11'],
		['june', '– june'],
		['6/june', '– 6/june'],
		['boat', '– boat']
	] as const) {
		it(`${text}: ${wanted}`, () => {
			expect(day(text)).to.equal(wanted);
		});
	}

	it('in figures is read in the viewer’s own order', () => {
		expect(day('6/11/2027', 'day-first')).to.equal('2027-11-6');
		expect(day('6/11', 'day-first')).to.equal('?-11-6');
		expect(day('2027-06-11', 'day-first')).to.equal('2027-6-11');
		expect(day('june 11', 'day-first')).to.equal('?-6-11');
	});

	const placed = (over: Partial<SaidDay>, from = '2027-03-09') => {
		const p = placeDay({ year: null, month: null, day: 1, weekday: null, ...over }, from);
		return 'why' in p ? p.why : p.date;
	};
	it('is the next one that fits, today among them', () => {
		expect(placed({ day: 9 })).to.equal('2027-03-09');
		expect(placed({ day: 8 })).to.equal('2027-04-08');
		expect(placed({ day: 31 }, '2027-04-01')).to.equal('2027-05-31');
		expect(placed({ day: 5 }, '2027-12-06')).to.equal('2028-01-05');
		expect(placed({ month: 3, day: 9 })).to.equal('2027-03-09');
		expect(placed({ month: 3, day: 8 })).to.equal('2028-03-08');
		expect(placed({ month: 1, day: 5 }, '2027-12-06')).to.equal('2028-01-05');
		// Over a century without a leap year: 1900 and 2100 have none (ISO 8601).
		expect(placed({ month: 2, day: 29 }, '2096-03-01')).to.equal('2104-02-29');
		expect(placed({ month: 2, day: 29 }, '2027-03-01')).to.equal('2028-02-29');
		// A year that was said stays, also where it is past.
		expect(placed({ year: 2026, month: 3, day: 8 })).to.equal('2026-03-08');
	});
	it('that no calendar has is refused, and one whose weekday does not fit is named', () => {
		expect(placed({ month: 2, day: 30 })).to.equal('There is no such day.');
		expect(placed({ day: 32 })).to.equal('There is no such day.');
		expect(placed({ year: 2027, month: 2, day: 29 })).to.equal('There is no such day.');
		expect(placed({ month: 3, day: 12, weekday: 5 })).to.equal('2027-03-12');
		expect(placed({ month: 3, day: 12, weekday: 4 })).to.equal('March 12, 2027 is a Friday.');
		expect(placed({ month: 3, day: 14, weekday: 1 })).to.equal('March 14, 2027 is a Sunday.');
	});
	it('has an ISO date within four figures of the year', () => {
		expect(isoDate(1000, 1, 1)).to.equal('1000-01-01');
		expect(isoDate(9999, 12, 31)).to.equal('9999-12-31');
		expect(isoDate(999, 1, 1)).to.equal(null);
		expect(isoDate(10_000, 1, 1)).to.equal(null);
		expect(isoDate(2027, 13, 1)).to.equal(null);
		expect(isoDate(2027, 4, 31)).to.equal(null);
		expect(dateWords('2027-06-01')).to.equal('June 1, 2027');
	});
});

describe('words taken off one by one', () => {
	it('a list has every usual joint, and ends before what is none of its kind', () => {
		for (const text of ['mon, tue and wed', 'mon/tue/wed', 'mon + tue, and wed']) {
			const said = new Said(`${text} at 7`);
			expect(
				said.list(() => said.weekday()),
				text
			).to.deep.equal([1, 2, 3]);
			expect(said.rest).to.equal('at 7');
		}
		const said = new Said('boat and mon');
		expect(said.list(() => said.weekday())).to.equal(null);
		expect(said.rest).to.equal('boat and mon');
	});

	it('numbers are figures, or words up to twelve; ordinals count from either end', () => {
		const number = (text: string) => new Said(text).number();
		expect(['one', 'twelve', '7', '999', '1000', 'zero', 'thirteen'].map(number)).to.deep.equal([
			1,
			12,
			7,
			999,
			null,
			null,
			null
		]);
		const ordinal = (text: string) => new Said(text).ordinal();
		expect(
			[
				'first',
				'tenth',
				'2nd',
				'23rd',
				'last',
				'second to last',
				'third last',
				'2',
				'zeroth',
				'2 nd'
			].map(ordinal)
		).to.deep.equal([1, 10, 2, 23, -1, -2, -3, null, null, null]);
	});

	it('weekdays and months go by their name, its beginning and usual short forms', () => {
		const weekday = (text: string) => new Said(text).weekday();
		expect(
			['monday', 'Mondays', 'sun', 'tues', 'thur', 'weds.', 'mo', 'moon'].map(weekday)
		).to.deep.equal([1, 1, 7, 2, 4, 3, null, null]);
		const month = (text: string) => new Said(text).month();
		expect(['january', 'Dec.', 'sept', 'may', 'mays', 'ma'].map(month)).to.deep.equal([
			1,
			12,
			9,
			5,
			null,
			null
		]);
	});

	it('what has been taken, and what has not, stays as it was written', () => {
		const said = new Said('  Every  Tuesday, at 7:15AM ');
		expect(said.take('every')).to.equal(true);
		expect(said.weekday()).to.equal(2);
		expect(said.since(0)).to.equal('Every  Tuesday');
		expect(said.rest).to.equal(', at 7:15AM');
		expect(said.take(',', 'on')).to.equal(false);
		expect(said.takeAny('on', ', at')).to.equal(', at');
		expect(said.close).to.equal(false);
		expect(said.figures(1)).to.equal(7);
		expect(said.close).to.equal(true);
		expect(said.done).to.equal(false);
	});
});
