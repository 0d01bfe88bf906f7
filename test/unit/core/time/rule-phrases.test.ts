import { expect } from 'chai';
import { readRule } from '../../../../src/lib/core/time/read-rule';

/** A Tuesday. */
const first = '2027-03-09T08:10';

/** The rule that was understood, with what else was said; or the rules that could be meant, or why none. */
const read = (text: string): string => {
	const r = readRule(text, first);
	if (!r.ok) {
		return r.choices.length > 0 ? r.choices.map((c) => c.rule).join(' or ') : `no: ${r.why}`;
	}
	return [
		r.rule,
		r.starts ? `from ${r.starts}` : '',
		r.time ? `at ${r.time}` : '',
		r.except.length > 0 ? `without ${r.except.join(' ')}` : '',
		r.schoolDays ? 'school days' : ''
	]
		.filter(Boolean)
		.join(' ');
};

// Phrases: common practice. Rules: RFC 5545 section 3.3.10.
describe('a repetition, phrase by phrase', () => {
	for (const [text, wanted] of [
		['daily', 'FREQ=DAILY'],
		['every day', 'FREQ=DAILY'],
		['once a day', 'FREQ=DAILY'],
		['each day for 3 times', 'FREQ=DAILY;COUNT=3'],
		['every other day, 4 times', 'FREQ=DAILY;INTERVAL=2;COUNT=4'],
		['every second day', 'FREQ=DAILY;INTERVAL=2'],
		['every second day of the month', 'FREQ=MONTHLY;BYMONTHDAY=2'],
		['every 3 days', 'FREQ=DAILY;INTERVAL=3'],
		['every two days', 'FREQ=DAILY;INTERVAL=2'],
		['every day on monday and friday', 'FREQ=WEEKLY;BYDAY=MO,FR'],
		['weekly', 'FREQ=WEEKLY'],
		['weekly on friday', 'FREQ=WEEKLY;BYDAY=FR'],
		['fortnightly on monday', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=MO'],
		['every 2 weeks on monday, wednesday', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,WE'],
		['every second week', 'FREQ=WEEKLY;INTERVAL=2'],
		['every other tuesday', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU'],
		['every other week on friday', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=FR'],
		['on mondays', 'FREQ=WEEKLY;BYDAY=MO'],
		['fri, mon', 'FREQ=WEEKLY;BYDAY=MO,FR'],
		['mon mon', 'FREQ=WEEKLY;BYDAY=MO'],
		['friday to monday', 'FREQ=WEEKLY;BYDAY=MO,FR,SA,SU'],
		['mon - wed', 'FREQ=WEEKLY;BYDAY=MO,TU,WE'],
		['every monday and every thursday', 'FREQ=WEEKLY;BYDAY=MO,TH'],
		['weekdays', 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR'],
		['every workday', 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR'],
		['weekends', 'FREQ=WEEKLY;BYDAY=SA,SU'],
		['weekend and monday', 'FREQ=WEEKLY;BYDAY=MO,SA,SU'],
		['every school day', 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR school days'],
		['schooldays', 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR school days'],
		['monthly', 'FREQ=MONTHLY'],
		['monthly on the first friday', 'FREQ=MONTHLY;BYDAY=1FR'],
		['every month on the 15th', 'FREQ=MONTHLY;BYMONTHDAY=15'],
		['every 2 months on the last day', 'FREQ=MONTHLY;INTERVAL=2;BYMONTHDAY=-1'],
		['every second month', 'FREQ=MONTHLY;INTERVAL=2'],
		['the 1st and 15th of each month', 'FREQ=MONTHLY;BYMONTHDAY=1,15'],
		['the last day of the month', 'FREQ=MONTHLY;BYMONTHDAY=-1'],
		['the second to last day of the month', 'FREQ=MONTHLY;BYMONTHDAY=-2'],
		['every 15th', 'FREQ=MONTHLY;BYMONTHDAY=15'],
		['last friday of every month', 'FREQ=MONTHLY;BYDAY=-1FR'],
		['first and third monday of the month', 'FREQ=MONTHLY;BYDAY=1MO,3MO'],
		['first monday and third friday', 'FREQ=MONTHLY;BYDAY=1MO,3FR'],
		['every first monday', 'FREQ=MONTHLY;BYDAY=1MO'],
		['every second tuesday', 'FREQ=WEEKLY;INTERVAL=2;BYDAY=TU or FREQ=MONTHLY;BYDAY=2TU'],
		['every third friday of the month', 'FREQ=MONTHLY;BYDAY=3FR'],
		['yearly', 'FREQ=YEARLY'],
		['annually on march 12', 'FREQ=YEARLY;BYMONTH=3;BYMONTHDAY=12'],
		['every year on march 12', 'FREQ=YEARLY;BYMONTH=3;BYMONTHDAY=12'],
		['every march 12', 'FREQ=YEARLY;BYMONTH=3;BYMONTHDAY=12'],
		['every february 29', 'FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=29'],
		['every february 30', 'no: There is no such day.'],
		['every morning', 'FREQ=DAILY'],
		['every afternoon', 'no: “afternoon” does not go with 8:10 am'],
		['every evening at 6pm', 'FREQ=DAILY at 18:00'],
		['every morning at noon', 'no: “morning” does not go with 12:00 pm'],
		['every afternoon at noon', 'FREQ=DAILY at 12:00'],
		['every afternoon at 5:59pm', 'FREQ=DAILY at 17:59'],
		['every afternoon at 6pm', 'no: “afternoon” does not go with 6:00 pm'],
		['every evening at 4:59pm', 'no: “evening” does not go with 4:59 pm'],
		['every evening at 5pm', 'FREQ=DAILY at 17:00'],
		['every friday at 7:15am', 'FREQ=WEEKLY;BYDAY=FR at 07:15'],
		['every friday @ 7:15', 'FREQ=WEEKLY;BYDAY=FR at 07:15'],
		['at 3pm every friday', 'FREQ=WEEKLY;BYDAY=FR at 15:00'],
		['every friday at 12', 'FREQ=WEEKLY;BYDAY=FR at 12:00'],
		['every friday at 7', 'no: At 7 in the morning or in the afternoon? Add am or pm.'],
		['every friday at 6:30', 'no: At 6 in the morning or in the afternoon?'],
		['every friday at 3pm at 4pm', 'no: It says twice at what time.'],
		['every friday until june 11', 'FREQ=WEEKLY;BYDAY=FR;UNTIL=20270611'],
		['every friday through and including june 11, 2027', 'FREQ=WEEKLY;BYDAY=FR;UNTIL=20270611'],
		['every day until friday', 'FREQ=DAILY;UNTIL=20270312'],
		['every day till tuesday', 'FREQ=DAILY;UNTIL=20270309'],
		['every friday ending on 6/11', 'FREQ=WEEKLY;BYDAY=FR;UNTIL=20270611'],
		['every friday until the end of april', 'FREQ=WEEKLY;BYDAY=FR;UNTIL=20270430'],
		['every friday until end of february 2028', 'FREQ=WEEKLY;BYDAY=FR;UNTIL=20280229'],
		['every friday until end of february', 'FREQ=WEEKLY;BYDAY=FR;UNTIL=20280229'],
		[
			'every friday until march 8, 2027',
			'no: Its end, March 8, 2027, is before its first day, March 9, 2027.'
		],
		['every friday until march 9, 2027', 'FREQ=WEEKLY;BYDAY=FR;UNTIL=20270309'],
		['every friday 6 times', 'FREQ=WEEKLY;BYDAY=FR;COUNT=6'],
		['every friday for six dates', 'FREQ=WEEKLY;BYDAY=FR;COUNT=6'],
		['every friday for 0 times', 'no: It needs at least one date.'],
		['every friday for one time', 'FREQ=WEEKLY;BYDAY=FR;COUNT=1'],
		['every friday for 2 weeks', 'FREQ=WEEKLY;BYDAY=FR;UNTIL=20270322'],
		['every friday for the next 2 weeks', 'FREQ=WEEKLY;BYDAY=FR;UNTIL=20270322'],
		['every day for a week', 'FREQ=DAILY;UNTIL=20270315'],
		['every day for 10 days', 'FREQ=DAILY;UNTIL=20270318'],
		['every friday for 2 months', 'FREQ=WEEKLY;BYDAY=FR;UNTIL=20270508'],
		['every friday for a year', 'FREQ=WEEKLY;BYDAY=FR;UNTIL=20280308'],
		['every friday for 10 months', 'FREQ=WEEKLY;BYDAY=FR;UNTIL=20280108'],
		// The same day of a month that has none of it is the month's last.
		['every day from october 31 for 4 months', 'FREQ=DAILY;UNTIL=20280228 from 2027-10-31'],
		['every day until june 11 for 3 times', 'no: It says twice when it ends.'],
		['every day for 2 weeks until june 11', 'no: It says twice when it ends.'],
		['every monday starting april 6', 'FREQ=WEEKLY;BYDAY=MO from 2027-04-06'],
		['every monday as of april 6', 'FREQ=WEEKLY;BYDAY=MO from 2027-04-06'],
		[
			'every monday between april 6 and may 10',
			'FREQ=WEEKLY;BYDAY=MO;UNTIL=20270510 from 2027-04-06'
		],
		['from april 6 to may 10 every monday', 'FREQ=WEEKLY;BYDAY=MO;UNTIL=20270510 from 2027-04-06'],
		[
			'every monday from november 8 to february 7',
			'FREQ=WEEKLY;BYDAY=MO;UNTIL=20280207 from 2027-11-08'
		],
		['every monday from april 6 from april 8', 'no: It says twice when it starts.'],
		['every monday between april 6', 'no: Not understood: “between april 6”.'],
		['every day except sunday', 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR,SA'],
		['every day but not on weekends', 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR'],
		['weekdays without friday', 'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH'],
		['weekdays except sunday', 'no: Sunday is not among its days.'],
		['weekly except tuesday', 'no: That leaves no day.'],
		['weekly except friday', 'no: Friday is not among its days.'],
		['every month except friday', 'no: Weekdays can only be left out of days or weeks.'],
		['every 2 days except sunday', 'FREQ=DAILY;INTERVAL=2;BYDAY=MO,TU,WE,TH,FR,SA'],
		[
			'every tuesday except april 6 and april 13 until april 20',
			'FREQ=WEEKLY;BYDAY=TU;UNTIL=20270420 without 2027-04-06 2027-04-13'
		],
		[
			'every tuesday except april 13 and april 6 and april 6 until april 20',
			'FREQ=WEEKLY;BYDAY=TU;UNTIL=20270420 without 2027-04-06 2027-04-13'
		],
		['every tuesday except april 7 until april 20', 'no: April 7, 2027 is not among its dates.'],
		['every tuesday except boats', 'no: Not understood: “except boats”.'],
		['every tuesday in april', 'FREQ=WEEKLY;BYMONTH=4;BYDAY=TU;UNTIL=20270430'],
		['every tuesday in march', 'FREQ=WEEKLY;BYMONTH=3;BYDAY=TU;UNTIL=20270331'],
		['every tuesday during may and april', 'FREQ=WEEKLY;BYMONTH=4,5;BYDAY=TU;UNTIL=20270531'],
		['every tuesday in january', 'FREQ=WEEKLY;BYMONTH=1;BYDAY=TU;UNTIL=20280131'],
		['every tuesday in december and january', 'FREQ=WEEKLY;BYMONTH=1,12;BYDAY=TU;UNTIL=20280131'],
		['every tuesday in april 2028', 'FREQ=WEEKLY;BYMONTH=4;BYDAY=TU;UNTIL=20280430'],
		['every tuesday in april for 3 times', 'FREQ=WEEKLY;BYMONTH=4;BYDAY=TU;COUNT=3'],
		['every tuesday in april until april 20', 'FREQ=WEEKLY;BYMONTH=4;BYDAY=TU;UNTIL=20270420'],
		['every tuesday in april in may', 'no: It says twice in which months.'],
		['every year on march 12 in april', 'no: A day of the year has its month already.'],
		['every 0 days', 'no: It must be every 1 or more.'],
		['sixth monday of the month', 'no: A month has five of a weekday at most.'],
		['the 32nd of the month', 'no: A month has 31 days at most.'],
		['every monday every friday for 2 times', 'FREQ=WEEKLY;BYDAY=MO,FR;COUNT=2'],
		['weekly monthly', 'no: It says twice how often.'],
		['until june 11', 'no: It does not say how often.'],
		['every boat', 'no: Not understood: “every boat”.'],
		['', 'no: "" cannot be read as a repetition.'],
		['FREQ=WEEKLY;BYDAY=TU;COUNT=3', 'FREQ=WEEKLY;BYDAY=TU;COUNT=3'],
		['rrule:freq=weekly;byday=tu;count=3', 'FREQ=WEEKLY;BYDAY=TU;COUNT=3'],
		['FREQ=HOURLY;COUNT=3', 'no: A round'],
		['FREQ=MOON', 'no: "FREQ=MOON" cannot be read as a repetition.']
	] as const) {
		it(`${text}: ${wanted}`, () => {
			const said = read(text);
			if (wanted.startsWith('no: ')) {
				expect(said.startsWith('no: '), said).to.equal(true);
				expect(said).to.contain(wanted.slice(4));
			} else expect(said).to.equal(wanted);
		});
	}

	it('says how to say it, with what was typed cut where it is long', () => {
		const long = `every ${'x'.repeat(80)}`;
		expect(read(long)).to.equal(
			`no: "${long.slice(0, 60)}" cannot be read as a repetition. Say it like "every tuesday and thursday until june 11, 2027", "every 2 weeks on monday for 6 times" or "every month on the first friday". Not understood: “${long}”.`
		);
		expect(read(`every tuesday ${' and'.repeat(100)}`)).to.contain('cannot be read');
		const r = readRule('every second tuesday', first);
		expect(r.ok ? '' : r.why).to.match(/^Which is meant: “.+” or “.+”\?$/);
	});

	it('takes figures in the viewer’s own order', () => {
		const until = (order: 'month-first' | 'day-first') => {
			const r = readRule('every tuesday until 6/7', first, order);
			return r.ok ? r.rule : r.why;
		};
		expect(until('month-first')).to.equal('FREQ=WEEKLY;BYDAY=TU;UNTIL=20270607');
		expect(until('day-first')).to.equal('FREQ=WEEKLY;BYDAY=TU;UNTIL=20270706');
	});
});
