import { expect } from 'chai';
import { DateTime } from 'luxon';
import { readMoment } from '../../../../src/lib/core/time/read-moment';

const zone = 'America/New_York';
/** A Tuesday morning. */
const now = DateTime.fromISO('2027-03-09T07:40', { zone }).toMillis();

/** The local time that was understood, or those that could be meant, or why none. */
const read = (text: string): string => {
	const r = readMoment(text, { now, zone, order: 'month-first' }, '2027-03-09T08:10');
	if (r.ok) return r.timeSaid ? r.local : `${r.local} usual`;
	return r.choices.length > 0 ? r.choices.map((c) => c.local).join(' or ') : r.why;
};

// How coordinators write a moment: common practice.
describe('a moment, phrase by phrase', () => {
	for (const [text, wanted] of [
		['today', '2027-03-09T08:10 usual'],
		['tomorrow', '2027-03-10T08:10 usual'],
		['tmrw noon', '2027-03-10T12:00'],
		['the day after tomorrow 9am', '2027-03-11T09:00'],
		['day after tomorrow, 9 am', '2027-03-11T09:00'],
		['tonight', '2027-03-09T19:00'],
		['tonight at 8', '2027-03-09T20:00'],
		['this morning 7:45', '2027-03-09T07:45'],
		['this afternoon', '2027-03-09T15:00'],
		['this evening at 6', '2027-03-09T18:00'],
		['this friday 2pm', '2027-03-12T14:00'],
		['tomorrow morning', '2027-03-10T08:00'],
		['tomorrow in the morning', '2027-03-10T08:00'],
		['friday evening', '2027-03-12T18:00'],
		['friday at night', '2027-03-12T19:00'],
		['on the evening of', 'no: Not understood: “of”'],
		['friday evening at 7', '2027-03-12T19:00'],
		['friday morning at 7', '2027-03-12T07:00'],
		['friday morning 7pm', 'no: part of the day'],
		['friday evening 7am', 'no: part of the day'],
		['on friday at 12', '2027-03-12T12:00'],
		['2pm friday', '2027-03-12T14:00'],
		['9am', '2027-03-09T09:00'],
		['7am', '2027-03-10T07:00'],
		['tue 7am', '2027-03-16T07:00'],
		['tuesday 9am', '2027-03-09T09:00'],
		['next tuesday 9am', '2027-03-16T09:00'],
		['next thursday 9am', '2027-03-18T09:00 or 2027-03-11T09:00'],
		['mon 9am', '2027-03-15T09:00'],
		['the 12th at noon', '2027-03-12T12:00'],
		['3/12', '2027-03-12T08:10 usual'],
		['fri at 2', '2027-03-12T14:00 or 2027-03-12T02:00'],
		['fri at 6:30', '2027-03-12T18:30 or 2027-03-12T06:30'],
		['fri at 9', '2027-03-12T09:00 or 2027-03-12T21:00'],
		['fri 9:30', '2027-03-12T09:30'],
		['fri 07:00', '2027-03-12T07:00'],
		['in 10 minutes', '2027-03-09T07:50'],
		['in 1 min', '2027-03-09T07:41'],
		['in an hour', '2027-03-09T08:40'],
		['in an hour and a half', '2027-03-09T09:10'],
		['in half a day', '2027-03-09T19:40'],
		['in half a week', 'no: Not understood: “in half a week”'],
		['in two hours', '2027-03-09T09:40'],
		['2 hours from now', '2027-03-09T09:40'],
		['3 days ahead', '2027-03-12T07:40'],
		['in 2 weeks', '2027-03-23T07:40'],
		['in a week', '2027-03-16T07:40'],
		['in 90 mins', '2027-03-09T09:10'],
		['2 hours', 'no: Not understood: “hours”'],
		['in 2 hours sharp', 'no: Not understood: “sharp”'],
		['in 0 hours', 'no: Not understood: “in 0 hours”'],
		['2027-03-12T14:15', '2027-03-12T14:15'],
		['2027-03-12', '2027-03-12T08:10 usual'],
		['dec 31, 2036 11pm', '2036-12-31T23:00'],
		['jan 1, 2038 8am', 'no: 2038 is too far ahead'],
		['mar 8, 2027 8am', 'no: That is past'],
		['today 7:39am', 'no: That is past'],
		['last tuesday', 'no: past cannot be planned'],
		['last', 'no: past cannot be planned'],
		['fri 2pm ago', 'no: past cannot be planned'],
		['fri 2pm to 3pm', 'no: a stretch'],
		['fri 2pm until 3pm', 'no: a stretch'],
		['fri 2pm – 3pm', 'no: a stretch'],
		['fri sat', 'no: Not understood: “sat”'],
		['fri 2pm 3pm', 'no: Not understood: “3pm”'],
		['next boat', 'no: Say the day'],
		['tuesday march 15', 'no: is a Monday'],
		['x'.repeat(101), 'no: cannot be read']
	] as const) {
		it(`${text.slice(0, 30)}: ${wanted}`, () => {
			const said = read(text);
			if (wanted.startsWith('no:')) expect(said).to.contain(wanted.slice(3).trim());
			else expect(said).to.equal(wanted);
		});
	}

	it('says what it stopped at, how to say it, and which is meant, in words', () => {
		expect(read('fri 2pm or so')).to.equal(
			'"fri 2pm or so" cannot be read as a time. Say it like "fri 2:15pm", "tomorrow 7:20" or "mar 12 2 pm". Not understood: “or so”.'
		);
		const long = `fri ${'x'.repeat(60)}`;
		expect(read(long)).to.contain(`"${long.slice(0, 40)}" cannot be read`);
		const r = readMoment('fri at 2', { now, zone, order: 'month-first' }, '2027-03-09T08:10');
		expect(r.ok ? '' : r.why).to.equal(
			'Which is meant: Fri Mar 12, 2:00 pm or Fri Mar 12, 2:00 am?'
		);
		expect(read('  fri 2pm  ')).to.equal('2027-03-12T14:00');
		expect(read('')).to.match(/^"" cannot be read as a time\. Say it like .*pm"\.$/);
	});

	it('a day of the year that has begun is in the next, and the tenth year from now is the last', () => {
		expect(read('mar 1 8am')).to.equal('2028-03-01T08:00');
		expect(read('dec 31, 2037 8am')).to.equal('2037-12-31T08:00');
	});
});
