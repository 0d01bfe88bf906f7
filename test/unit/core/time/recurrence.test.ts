import { expect } from 'chai';
import { DateTime } from 'luxon';
import { placeLocal } from '../../../../src/lib/core/time/local';
import { readRule } from '../../../../src/lib/core/time/read-rule';
import {
	hasEnd,
	ruleWords,
	timesOfRule,
	mostDates
} from '../../../../src/lib/core/time/recurrence';
import { roundDates } from '../../../../src/lib/core/time/round';

const zone = 'America/New_York';

/** The dates of a rule through the path a round takes: text, local times, instants, and back as RFC 5545 writes them. */
function dates(rule: string, first: string, most = 40): string[] {
	const read = readRule(`RRULE:${rule}`, first);
	// What repeats within a day comes to the standard's dates as well, but no round may have it.
	const withinDay = /FREQ=(HOURLY|MINUTELY|SECONDLY)|BY(HOUR|MINUTE|SECOND)=/.test(rule);
	expect(read.ok, rule).to.equal(!withinDay);
	return roundDates(
		{ first, rule: read.ok ? read.rule : rule, offDays: 'send' },
		zone,
		() => true,
		most
	).map((d) => DateTime.fromMillis(d.at, { zone }).toFormat("yyyy-MM-dd'T'HH:mm"));
}
const days = (...list: string[]) => list.map((d) => `${d}T09:00`);
const run = (month: string, ...of: number[]) =>
	of.map((d) => `${month}-${String(d).padStart(2, '0')}`);
const range = (from: number, to: number, step = 1) =>
	Array.from({ length: Math.floor((to - from) / step) + 1 }, (_, i) => from + i * step);

/** RFC 5545 section 3.8.5.3, its examples in its order, with DTSTART;TZID=America/New_York:19970902T090000 unless said. Where the list there ends in "...", its beginning is compared. */
const examples: readonly {
	readonly name: string;
	readonly rule: string;
	readonly first?: string;
	readonly begins: readonly string[];
	/** Whether the list is whole. */
	readonly whole?: boolean;
	readonly count?: number;
}[] = [
	{
		name: 'Daily for 10 occurrences',
		rule: 'FREQ=DAILY;COUNT=10',
		begins: days(...run('1997-09', ...range(2, 11))),
		whole: true
	},
	{
		name: 'Daily until December 24, 1997',
		rule: 'FREQ=DAILY;UNTIL=19971224T000000Z',
		begins: days(...run('1997-09', ...range(2, 30)), ...run('1997-10', 1, 2)),
		count: 113
	},
	{
		name: 'Every other day - forever',
		rule: 'FREQ=DAILY;INTERVAL=2',
		begins: days(...run('1997-09', ...range(2, 30, 2)), ...run('1997-10', 2, 4))
	},
	{
		name: 'Every 10 days, 5 occurrences',
		rule: 'FREQ=DAILY;INTERVAL=10;COUNT=5',
		begins: days('1997-09-02', '1997-09-12', '1997-09-22', '1997-10-02', '1997-10-12'),
		whole: true
	},
	{
		name: 'Every day in January, for 3 years (by YEARLY)',
		rule: 'FREQ=YEARLY;UNTIL=20000131T140000Z;BYMONTH=1;BYDAY=SU,MO,TU,WE,TH,FR,SA',
		first: '1998-01-01T09:00',
		begins: days(...run('1998-01', ...range(1, 31)), '1999-01-01'),
		count: 93
	},
	{
		name: 'Every day in January, for 3 years (by DAILY)',
		rule: 'FREQ=DAILY;UNTIL=20000131T140000Z;BYMONTH=1',
		first: '1998-01-01T09:00',
		begins: days(...run('1998-01', ...range(1, 31)), '1999-01-01'),
		count: 93
	},
	{
		name: 'Weekly for 10 occurrences',
		rule: 'FREQ=WEEKLY;COUNT=10',
		begins: days(
			...run('1997-09', 2, 9, 16, 23, 30),
			...run('1997-10', 7, 14, 21, 28),
			'1997-11-04'
		),
		whole: true
	},
	{
		name: 'Weekly until December 24, 1997',
		rule: 'FREQ=WEEKLY;UNTIL=19971224T000000Z',
		begins: days(
			...run('1997-09', 2, 9, 16, 23, 30),
			...run('1997-10', 7, 14, 21, 28),
			...run('1997-11', 4, 11, 18, 25),
			...run('1997-12', 2, 9, 16, 23)
		),
		whole: true
	},
	{
		name: 'Every other week - forever',
		rule: 'FREQ=WEEKLY;INTERVAL=2;WKST=SU',
		begins: days(
			...run('1997-09', 2, 16, 30),
			...run('1997-10', 14, 28),
			...run('1997-11', 11, 25),
			...run('1997-12', 9, 23),
			...run('1998-01', 6, 20),
			...run('1998-02', 3, 17)
		)
	},
	{
		name: 'Weekly on Tuesday and Thursday for five weeks (by UNTIL)',
		rule: 'FREQ=WEEKLY;UNTIL=19971007T000000Z;WKST=SU;BYDAY=TU,TH',
		begins: days(...run('1997-09', 2, 4, 9, 11, 16, 18, 23, 25, 30), '1997-10-02'),
		whole: true
	},
	{
		name: 'Weekly on Tuesday and Thursday for five weeks (by COUNT)',
		rule: 'FREQ=WEEKLY;COUNT=10;WKST=SU;BYDAY=TU,TH',
		begins: days(...run('1997-09', 2, 4, 9, 11, 16, 18, 23, 25, 30), '1997-10-02'),
		whole: true
	},
	{
		name: 'Every other week on Monday, Wednesday, and Friday until December 24, 1997',
		rule: 'FREQ=WEEKLY;INTERVAL=2;UNTIL=19971224T000000Z;WKST=SU;BYDAY=MO,WE,FR',
		first: '1997-09-01T09:00',
		begins: days(
			...run('1997-09', 1, 3, 5, 15, 17, 19, 29),
			...run('1997-10', 1, 3, 13, 15, 17, 27, 29, 31),
			...run('1997-11', 10, 12, 14, 24, 26, 28),
			...run('1997-12', 8, 10, 12, 22)
		),
		whole: true
	},
	{
		name: 'Every other week on Tuesday and Thursday, for 8 occurrences',
		rule: 'FREQ=WEEKLY;INTERVAL=2;COUNT=8;WKST=SU;BYDAY=TU,TH',
		begins: days(...run('1997-09', 2, 4, 16, 18, 30), ...run('1997-10', 2, 14, 16)),
		whole: true
	},
	{
		name: 'Monthly on the first Friday for 10 occurrences',
		rule: 'FREQ=MONTHLY;COUNT=10;BYDAY=1FR',
		first: '1997-09-05T09:00',
		begins: days(
			'1997-09-05',
			'1997-10-03',
			'1997-11-07',
			'1997-12-05',
			'1998-01-02',
			'1998-02-06',
			'1998-03-06',
			'1998-04-03',
			'1998-05-01',
			'1998-06-05'
		),
		whole: true
	},
	{
		name: 'Monthly on the first Friday until December 24, 1997',
		rule: 'FREQ=MONTHLY;UNTIL=19971224T000000Z;BYDAY=1FR',
		first: '1997-09-05T09:00',
		begins: days('1997-09-05', '1997-10-03', '1997-11-07', '1997-12-05'),
		whole: true
	},
	{
		name: 'Every other month on the first and last Sunday of the month for 10 occurrences',
		rule: 'FREQ=MONTHLY;INTERVAL=2;COUNT=10;BYDAY=1SU,-1SU',
		first: '1997-09-07T09:00',
		begins: days(
			...run('1997-09', 7, 28),
			...run('1997-11', 2, 30),
			...run('1998-01', 4, 25),
			...run('1998-03', 1, 29),
			...run('1998-05', 3, 31)
		),
		whole: true
	},
	{
		name: 'Monthly on the second-to-last Monday of the month for 6 months',
		rule: 'FREQ=MONTHLY;COUNT=6;BYDAY=-2MO',
		first: '1997-09-22T09:00',
		begins: days(
			'1997-09-22',
			'1997-10-20',
			'1997-11-17',
			'1997-12-22',
			'1998-01-19',
			'1998-02-16'
		),
		whole: true
	},
	{
		name: 'Monthly on the third-to-the-last day of the month, forever',
		rule: 'FREQ=MONTHLY;BYMONTHDAY=-3',
		first: '1997-09-28T09:00',
		begins: days('1997-09-28', '1997-10-29', '1997-11-28', '1997-12-29', '1998-01-29', '1998-02-26')
	},
	{
		name: 'Monthly on the 2nd and 15th of the month for 10 occurrences',
		rule: 'FREQ=MONTHLY;COUNT=10;BYMONTHDAY=2,15',
		begins: days(
			...run('1997-09', 2, 15),
			...run('1997-10', 2, 15),
			...run('1997-11', 2, 15),
			...run('1997-12', 2, 15),
			...run('1998-01', 2, 15)
		),
		whole: true
	},
	{
		name: 'Monthly on the first and last day of the month for 10 occurrences',
		rule: 'FREQ=MONTHLY;COUNT=10;BYMONTHDAY=1,-1',
		first: '1997-09-30T09:00',
		begins: days(
			'1997-09-30',
			...run('1997-10', 1, 31),
			...run('1997-11', 1, 30),
			...run('1997-12', 1, 31),
			...run('1998-01', 1, 31),
			'1998-02-01'
		),
		whole: true
	},
	{
		name: 'Every 18 months on the 10th thru 15th of the month for 10 occurrences',
		rule: 'FREQ=MONTHLY;INTERVAL=18;COUNT=10;BYMONTHDAY=10,11,12,13,14,15',
		first: '1997-09-10T09:00',
		begins: days(...run('1997-09', ...range(10, 15)), ...run('1999-03', ...range(10, 13))),
		whole: true
	},
	{
		name: 'Every Tuesday, every other month',
		rule: 'FREQ=MONTHLY;INTERVAL=2;BYDAY=TU',
		begins: days(
			...run('1997-09', 2, 9, 16, 23, 30),
			...run('1997-11', 4, 11, 18, 25),
			...run('1998-01', 6, 13, 20, 27),
			...run('1998-03', 3, 10, 17, 24, 31)
		)
	},
	{
		name: 'Yearly in June and July for 10 occurrences',
		rule: 'FREQ=YEARLY;COUNT=10;BYMONTH=6,7',
		first: '1997-06-10T09:00',
		begins: days(...[1997, 1998, 1999, 2000, 2001].flatMap((y) => [`${y}-06-10`, `${y}-07-10`])),
		whole: true
	},
	{
		name: 'Every other year on January, February, and March for 10 occurrences',
		rule: 'FREQ=YEARLY;INTERVAL=2;COUNT=10;BYMONTH=1,2,3',
		first: '1997-03-10T09:00',
		begins: days(
			'1997-03-10',
			...[1999, 2001, 2003].flatMap((y) => [`${y}-01-10`, `${y}-02-10`, `${y}-03-10`])
		),
		whole: true
	},
	{
		name: 'Every third year on the 1st, 100th, and 200th day for 10 occurrences',
		rule: 'FREQ=YEARLY;INTERVAL=3;COUNT=10;BYYEARDAY=1,100,200',
		first: '1997-01-01T09:00',
		begins: days(
			'1997-01-01',
			'1997-04-10',
			'1997-07-19',
			'2000-01-01',
			'2000-04-09',
			'2000-07-18',
			'2003-01-01',
			'2003-04-10',
			'2003-07-19',
			'2006-01-01'
		),
		whole: true
	},
	{
		name: 'Every 20th Monday of the year, forever',
		rule: 'FREQ=YEARLY;BYDAY=20MO',
		first: '1997-05-19T09:00',
		begins: days('1997-05-19', '1998-05-18', '1999-05-17')
	},
	{
		name: 'Monday of week number 20 (where the default start of the week is Monday), forever',
		rule: 'FREQ=YEARLY;BYWEEKNO=20;BYDAY=MO',
		first: '1997-05-12T09:00',
		begins: days('1997-05-12', '1998-05-11', '1999-05-17')
	},
	{
		name: 'Every Thursday in March, forever',
		rule: 'FREQ=YEARLY;BYMONTH=3;BYDAY=TH',
		first: '1997-03-13T09:00',
		begins: days(
			...run('1997-03', 13, 20, 27),
			...run('1998-03', 5, 12, 19, 26),
			...run('1999-03', 4, 11, 18, 25)
		)
	},
	{
		name: 'Every Thursday, but only during June, July, and August, forever',
		rule: 'FREQ=YEARLY;BYDAY=TH;BYMONTH=6,7,8',
		first: '1997-06-05T09:00',
		begins: days(
			...run('1997-06', 5, 12, 19, 26),
			...run('1997-07', 3, 10, 17, 24, 31),
			...run('1997-08', 7, 14, 21, 28),
			...run('1998-06', 4, 11, 18, 25)
		)
	},
	{
		// The RFC takes the start out by EXDATE; without it the start does not fit the rule and is no date.
		name: 'Every Friday the 13th, forever',
		rule: 'FREQ=MONTHLY;BYDAY=FR;BYMONTHDAY=13',
		begins: days('1998-02-13', '1998-03-13', '1998-11-13', '1999-08-13', '2000-10-13')
	},
	{
		name: 'The first Saturday that follows the first Sunday of the month, forever',
		rule: 'FREQ=MONTHLY;BYDAY=SA;BYMONTHDAY=7,8,9,10,11,12,13',
		first: '1997-09-13T09:00',
		begins: days(
			'1997-09-13',
			'1997-10-11',
			'1997-11-08',
			'1997-12-13',
			'1998-01-10',
			'1998-02-07',
			'1998-03-07'
		)
	},
	{
		name: 'Every 4 years, the first Tuesday after a Monday in November, forever',
		rule: 'FREQ=YEARLY;INTERVAL=4;BYMONTH=11;BYDAY=TU;BYMONTHDAY=2,3,4,5,6,7,8',
		first: '1996-11-05T09:00',
		begins: days('1996-11-05', '2000-11-07', '2004-11-02')
	},
	{
		name: 'The third instance into the month of one of Tuesday, Wednesday, or Thursday, for the next 3 months',
		rule: 'FREQ=MONTHLY;COUNT=3;BYDAY=TU,WE,TH;BYSETPOS=3',
		first: '1997-09-04T09:00',
		begins: days('1997-09-04', '1997-10-07', '1997-11-06'),
		whole: true
	},
	{
		name: 'The second-to-last weekday of the month',
		rule: 'FREQ=MONTHLY;BYDAY=MO,TU,WE,TH,FR;BYSETPOS=-2',
		first: '1997-09-29T09:00',
		begins: days(
			'1997-09-29',
			'1997-10-30',
			'1997-11-27',
			'1997-12-30',
			'1998-01-29',
			'1998-02-26',
			'1998-03-30'
		)
	},
	{
		// As corrected by the erratum to the RFC: UNTIL=19970902T170000Z is 1 pm in this zone.
		name: 'Every 3 hours from 9:00 AM to 5:00 PM on a specific day',
		rule: 'FREQ=HOURLY;INTERVAL=3;UNTIL=19970902T210000Z',
		begins: ['1997-09-02T09:00', '1997-09-02T12:00', '1997-09-02T15:00'],
		whole: true
	},
	{
		name: 'Every 15 minutes for 6 occurrences',
		rule: 'FREQ=MINUTELY;INTERVAL=15;COUNT=6',
		begins: ['09:00', '09:15', '09:30', '09:45', '10:00', '10:15'].map((t) => `1997-09-02T${t}`),
		whole: true
	},
	{
		name: 'Every hour and a half for 4 occurrences',
		rule: 'FREQ=MINUTELY;INTERVAL=90;COUNT=4',
		begins: ['09:00', '10:30', '12:00', '13:30'].map((t) => `1997-09-02T${t}`),
		whole: true
	},
	{
		name: 'Every 20 minutes from 9:00 AM to 4:40 PM every day',
		rule: 'FREQ=DAILY;BYHOUR=9,10,11,12,13,14,15,16;BYMINUTE=0,20,40',
		begins: [2, 3].flatMap((d) =>
			range(9, 16)
				.flatMap((h) => ['00', '20', '40'].map((m) => `${String(h).padStart(2, '0')}:${m}`))
				.map((t) => `1997-09-0${d}T${t}`)
		)
	},
	{
		name: 'An example where the days generated makes a difference because of WKST (MO)',
		rule: 'FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=MO',
		first: '1997-08-05T09:00',
		begins: days('1997-08-05', '1997-08-10', '1997-08-19', '1997-08-24'),
		whole: true
	},
	{
		name: 'The same with WKST=SU',
		rule: 'FREQ=WEEKLY;INTERVAL=2;COUNT=4;BYDAY=TU,SU;WKST=SU',
		first: '1997-08-05T09:00',
		begins: days('1997-08-05', '1997-08-17', '1997-08-19', '1997-08-31'),
		whole: true
	},
	{
		name: 'An example where an invalid date (i.e., February 30) is ignored',
		rule: 'FREQ=MONTHLY;BYMONTHDAY=15,30;COUNT=5',
		first: '2007-01-15T09:00',
		begins: days('2007-01-15', '2007-01-30', '2007-02-15', '2007-03-15', '2007-03-30'),
		whole: true
	}
];

describe('recurrence rules: the examples of RFC 5545 section 3.8.5.3', () => {
	for (const { name, rule, first = '1997-09-02T09:00', begins, whole, count } of examples) {
		it(name, () => {
			const most = whole ? 400 : (count ?? begins.length);
			const found = dates(rule, first, Math.max(most, begins.length));
			expect(found.slice(0, begins.length)).to.deep.equal(begins);
			if (whole) expect(found).to.have.length(begins.length);
			if (count) expect(dates(rule, first, 400)).to.have.length(count);
		});
	}

	it('keeps the hour of the wall clock over both changes of the clock', () => {
		const found = timesOfRule('FREQ=WEEKLY;COUNT=30', '1997-09-02T09:00', zone);
		expect(found.every((t) => t.endsWith('T09:00'))).to.equal(true);
		const gaps = new Set(
			found
				.map((t) => placeLocal(t, zone).at)
				.map((at, i, all) => (i === 0 ? 168 : (at - all[i - 1]!) / 3_600_000))
		);
		// RFC 5545 shows the same dates in EDT and then in EST; one week is an hour longer.
		expect([...gaps].sort()).to.deep.equal([168, 169]);
	});
});

describe('a repetition as people say it', () => {
	const rule = (text: string) => {
		const read = readRule(text, '2027-03-09T08:10');
		return read.ok ? read.rule : read.why;
	};
	it('is read in its usual forms', () => {
		expect(rule('every tuesday and thursday')).to.equal('FREQ=WEEKLY;BYDAY=TU,TH');
		expect(rule('Tuesdays and Thursdays until June 11, 2027')).to.equal(
			'FREQ=WEEKLY;BYDAY=TU,TH;UNTIL=20270611'
		);
		expect(rule('every other friday')).to.equal('FREQ=WEEKLY;INTERVAL=2;BYDAY=FR');
		expect(rule('each Friday, 6 times')).to.equal('FREQ=WEEKLY;BYDAY=FR;COUNT=6');
		expect(rule('first monday of each month for 4 times')).to.equal(
			'FREQ=MONTHLY;BYDAY=1MO;COUNT=4'
		);
		expect(rule('school days until 2027-03-30')).to.equal(
			'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR;UNTIL=20270330'
		);
	});
	it('is said again in words, which are read as the same rule', () => {
		for (const text of [
			'every tuesday for 6 times',
			'every 2 weeks on monday until june 11, 2027'
		]) {
			const read = readRule(text, '2027-03-09T08:10');
			expect(read.ok && rule(read.words)).to.equal(rule(text));
		}
		expect(ruleWords('FREQ=WEEKLY;BYDAY=TU;UNTIL=20270611')).to.contain('until June 11, 2027');
	});
	it('takes the last day in', () => {
		expect(
			timesOfRule('FREQ=WEEKLY;BYDAY=FR;UNTIL=20270611', '2027-05-28T15:00', zone)
		).to.deep.equal(['2027-05-28T15:00', '2027-06-04T15:00', '2027-06-11T15:00']);
	});
	it('says what it cannot read, and how to say it', () => {
		for (const text of ['', 'hello', 'when the boat comes', 'FREQ=SOMETIMES']) {
			expect(rule(text)).to.match(/cannot be read as a repetition\. Say it like/);
		}
	});
	it('knows a rule that never stops', () => {
		expect(hasEnd('FREQ=DAILY')).to.equal(false);
		expect(hasEnd('FREQ=DAILY;COUNT=3')).to.equal(true);
		expect(hasEnd('FREQ=DAILY;UNTIL=20270611')).to.equal(true);
	});
});

describe('the dates of a round', () => {
	const open = (date: string) =>
		!['2027-03-29', '2027-03-30'].includes(date) &&
		![6, 7].includes(DateTime.fromISO(date).weekday);
	const plan = { first: '2027-03-22T07:05', rule: 'FREQ=WEEKLY;BYDAY=MO;COUNT=3' };
	const local = (offDays: 'send' | 'skip' | 'before' | 'after') =>
		roundDates({ ...plan, offDays }, zone, open).map((d) => `${d.local.slice(5, 10)} ${d.note}`);

	it('are sent, left out or moved where there is no school', () => {
		expect(local('send')).to.deep.equal(['03-22 null', '03-29 null', '04-05 null']);
		expect(local('skip')).to.deep.equal(['03-22 null', '03-29 skipped', '04-05 null']);
		expect(local('before')).to.deep.equal(['03-22 null', '03-26 moved', '04-05 null']);
		expect(local('after')).to.deep.equal(['03-22 null', '03-31 moved', '04-05 null']);
	});
	it('never come to the same day twice', () => {
		const daily = roundDates(
			{ first: '2027-03-26T07:05', rule: 'FREQ=DAILY;COUNT=8', offDays: 'before' },
			zone,
			open
		);
		const sent = daily.filter((d) => d.note !== 'skipped').map((d) => d.local);
		expect(new Set(sent).size).to.equal(sent.length);
		expect(sent).to.deep.equal([
			'2027-03-26T07:05',
			'2027-03-31T07:05',
			'2027-04-01T07:05',
			'2027-04-02T07:05'
		]);
	});
	it('are all left out by a rule that never falls on a school day', () => {
		const dates = roundDates(
			{ first: '2027-03-20T07:05', rule: 'FREQ=WEEKLY;BYDAY=SA,SU;COUNT=5', offDays: 'skip' },
			zone,
			open
		);
		expect(dates.every((d) => d.note === 'skipped')).to.equal(true);
	});
});

describe('rules that never come true', () => {
	for (const rule of [
		'FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30',
		'FREQ=YEARLY;BYMONTH=4;BYMONTHDAY=31',
		'FREQ=WEEKLY;BYMONTH=2;BYMONTHDAY=30',
		'FREQ=DAILY;BYSETPOS=2',
		'FREQ=WEEKLY;BYDAY=MO,TU;BYSETPOS=3',
		'FREQ=DAILY;BYYEARDAY=366;BYMONTH=1',
		'FREQ=SECONDLY;BYMONTH=2;BYMONTHDAY=30',
		'FREQ=MINUTELY;BYMONTHDAY=30;BYMONTH=2;INTERVAL=7',
		'FREQ=HOURLY;BYMONTH=2;BYMONTHDAY=31',
		'FREQ=MONTHLY;BYDAY=6MO'
	]) {
		it(`${rule} comes to no date, and is not looked for without end`, () => {
			expect(timesOfRule(rule, '2027-03-09T09:00', zone)).to.deep.equal([]);
		});
	}

	it('is none of those that come true rarely: a leap day, the last of a month, a Friday the 13th, the 53rd week', () => {
		for (const rule of [
			'FREQ=DAILY;BYMONTH=2;BYMONTHDAY=29',
			'FREQ=DAILY;BYMONTHDAY=-31',
			'FREQ=DAILY;BYMONTHDAY=13;BYDAY=FR',
			'FREQ=DAILY;BYYEARDAY=-366',
			'FREQ=WEEKLY;BYDAY=MO,TU;BYSETPOS=-2',
			'FREQ=YEARLY;BYWEEKNO=53'
		]) {
			expect(timesOfRule(rule, '2027-03-09T09:00', zone, 2), rule).to.have.length(2);
		}
	});

	it('a leap day comes in its years', () => {
		expect(
			timesOfRule('FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29', '2027-03-01T09:00', zone, 3)
		).to.deep.equal(['2028-02-29T09:00', '2032-02-29T09:00', '2036-02-29T09:00']);
	});

	it('what repeats within a day is no round', () => {
		for (const rule of ['FREQ=SECONDLY', 'RRULE:FREQ=HOURLY;COUNT=3', 'FREQ=DAILY;BYHOUR=9,10']) {
			const read = readRule(rule, '2027-03-09T08:10');
			expect(!read.ok && read.why, rule).to.match(/within a day|hours out of the rule/);
		}
	});

	it('gives the last date it looks at, and none after it', () => {
		const dates = (count: number, most?: number) =>
			timesOfRule(`FREQ=DAILY;COUNT=${count}`, '2027-01-01T10:00', 'America/New_York', most);
		expect(dates(400)).to.have.length(400);
		expect(dates(401)).to.have.length(mostDates);
		expect(dates(5, 3)).to.deep.equal(['2027-01-01T10:00', '2027-01-02T10:00', '2027-01-03T10:00']);
		expect(dates(3, 3)).to.have.length(3);
		expect(dates(2, 3)).to.have.length(2);
	});
});
