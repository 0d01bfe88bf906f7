import { expect } from 'chai';
import ICAL from 'ical.js';
import { readCalendarFile } from '../../../../src/lib/core/format/icalendar';
import { writeCalendarFile } from '../../../../src/lib/core/format/write-calendar';
import { placeLocal } from '../../../../src/lib/core/time/local';

const zone = 'America/New_York';
const year = (y: number) => ({
	from: placeLocal(`${y}-01-01T00:00`, zone).at,
	to: placeLocal(`${y + 1}-01-01T00:00`, zone).at
});
const file = (...lines: string[]) =>
	['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Test//EN', ...lines, 'END:VCALENDAR'].join('\r\n');
const event = (...lines: string[]) => ['BEGIN:VEVENT', 'UID:a@example', ...lines, 'END:VEVENT'];
const read = (text: string, y = 2027) => readCalendarFile(text, zone, year(y));

describe('an iCalendar file', () => {
	// RFC 5545 section 3.6.1, the second example (a meeting of three days), and section 4 (Bastille Day Party).
	it('is read as in the examples of RFC 5545: times in UTC, folded lines, escaped text', () => {
		const { events, problems } = readCalendarFile(
			file(
				...event(
					'DTSTAMP:19970610T172345Z',
					'DTSTART:19970714T170000Z',
					'DTEND:19970715T040000Z',
					'SUMMARY:Bastille Day Party',
					'LOCATION:Conference Room - F123\\, Bldg. 002'
				),
				'BEGIN:VEVENT',
				'UID:19970901T130000Z-123403@example.com',
				'DTSTAMP:19970901T130000Z',
				'DTSTART;VALUE=DATE:19971102',
				'SUMMARY:Our Blissful An',
				' niversary',
				'RRULE:FREQ=YEARLY',
				'END:VEVENT'
			),
			zone,
			year(1997)
		);
		expect(problems).to.deep.equal([]);
		expect(events).to.deep.equal([
			{
				uid: 'a@example',
				title: 'Bastille Day Party',
				place: 'Conference Room - F123, Bldg. 002',
				allDay: false,
				startsLocal: '1997-07-14T13:00',
				endsLocal: '1997-07-15T00:00',
				calledOff: false
			},
			{
				uid: '19970901T130000Z-123403@example.com#1997-11-02',
				title: 'Our Blissful Anniversary',
				place: '',
				allDay: true,
				startsLocal: '1997-11-02T00:00',
				endsLocal: '1997-11-03T00:00',
				calledOff: false
			}
		]);
	});

	// RFC 5545 section 3.6.5: the America/New_York example's rules, under a name that no platform knows.
	it('takes a zone that the file itself defines', () => {
		const vtimezone = [
			'BEGIN:VTIMEZONE',
			'TZID:School clock',
			'BEGIN:DAYLIGHT',
			'DTSTART:20070311T020000',
			'RRULE:FREQ=YEARLY;BYDAY=2SU;BYMONTH=3',
			'TZOFFSETFROM:-0500',
			'TZOFFSETTO:-0400',
			'END:DAYLIGHT',
			'BEGIN:STANDARD',
			'DTSTART:20071104T020000',
			'RRULE:FREQ=YEARLY;BYDAY=1SU;BYMONTH=11',
			'TZOFFSETFROM:-0400',
			'TZOFFSETTO:-0500',
			'END:STANDARD',
			'END:VTIMEZONE'
		];
		const { events, problems } = read(
			file(
				...vtimezone,
				...event(
					'DTSTART;TZID=School clock:20270312T180000',
					'DTEND;TZID=School clock:20270312T190000'
				),
				...event(
					'DTSTART;TZID=School clock:20270315T180000',
					'DTEND;TZID=School clock:20270315T190000'
				)
			)
		);
		expect(problems).to.deep.equal([]);
		expect(events.map((e) => e.startsLocal)).to.deep.equal([
			'2027-03-12T18:00',
			'2027-03-15T18:00'
		]);
	});

	it('keeps the hour of a repetition over the change of the clock, and takes changed and left-out dates', () => {
		const { events } = read(
			file(
				...event(
					'SUMMARY:Choir',
					'DTSTART;TZID=America/New_York:20270308T150000',
					'DURATION:PT1H',
					'RRULE:FREQ=WEEKLY;COUNT=4',
					'EXDATE;TZID=America/New_York:20270322T150000'
				),
				...event(
					'SUMMARY:Choir in the hall',
					'RECURRENCE-ID;TZID=America/New_York:20270329T150000',
					'DTSTART;TZID=America/New_York:20270330T160000',
					'DURATION:PT1H'
				)
			)
		);
		expect(events.map((e) => `${e.title} ${e.startsLocal}`).sort()).to.deep.equal([
			'Choir 2027-03-08T15:00',
			'Choir 2027-03-15T15:00',
			'Choir in the hall 2027-03-30T16:00'
		]);
		expect(new Set(events.map((e) => e.uid)).size).to.equal(3);
	});

	it('reads a time without a zone as the district’s, and one of another zone as its own', () => {
		const { events } = read(
			file(
				...event('DTSTART:20270310T180000', 'DTEND:20270310T190000'),
				...event(
					'DTSTART;TZID=Europe/Lisbon:20270310T180000',
					'DTEND;TZID=Europe/Lisbon:20270310T190000'
				)
			)
		);
		expect(events.map((e) => e.startsLocal)).to.deep.equal([
			'2027-03-10T18:00',
			'2027-03-10T13:00'
		]);
	});

	it('names what it cannot take, and takes the rest', () => {
		const { events, problems } = read(
			file(
				'this is no line',
				...event('SUMMARY:Good', 'DTSTART:20270310T180000Z', 'DTEND:20270310T190000Z'),
				...event('SUMMARY:Elsewhere', 'DTSTART;TZID=Mars/Olympus:20270310T180000'),
				...event('SUMMARY:Never', 'DESCRIPTION:no start'),
				...event('SUMMARY:Backwards', 'DTSTART:20270310T180000Z', 'DTEND:20270310T170000Z')
			)
		);
		expect(events.map((e) => e.title)).to.deep.equal(['Good']);
		expect(problems.map((p) => p.where)).to.deep.equal([
			'line 4',
			'Elsewhere',
			'Never',
			'Backwards'
		]);
		expect(problems[1]!.text).to.contain('zone "Mars/Olympus" is not known');
		expect(problems[3]!.text).to.contain('ends before it starts');
	});

	it('is held up by no file: a million repeats, a repetition by the second, something else altogether', function () {
		const rule = (r: string) =>
			read(
				file(...event('SUMMARY:Often', 'DTSTART:20270310T180000Z', 'DURATION:PT1M', `RRULE:${r}`))
			);
		for (const r of ['FREQ=DAILY;COUNT=1000000', 'FREQ=SECONDLY', 'FREQ=MINUTELY;INTERVAL=1']) {
			const { events, problems } = rule(r);
			expect(events.length, r).to.be.at.most(400);
			if (events.length === 400) expect(problems[0]!.text).to.contain('more than 400');
		}
		// From before the stretch on: its steps are bounded too.
		const old = read(
			file(
				...event('SUMMARY:Old', 'DTSTART:19700101T000000Z', 'DURATION:PT1S', 'RRULE:FREQ=SECONDLY')
			)
		);
		expect(old.events).to.deep.equal([]);
		expect(old.problems).to.have.length(1);
		expect(read('PK\u0003\u0004 zip').problems[0]!.text).to.contain('passed over');
		expect(read('').problems[0]!.text).to.contain('no iCalendar file');
		expect(read(`BEGIN:VCALENDAR\r\n${'X'.repeat(3_100_000)}`).problems[0]!.text).to.contain(
			'over 3 MB'
		);
		expect(read('BEGIN:VCALENDAR\r\nBEGIN:VEVENT\r\nSUMMARY:Cut').problems).to.have.length(1);
	});

	it('is written so that it is read back the same, also by the library by itself', () => {
		const at = (local: string) => placeLocal(local, zone).at;
		const written = [
			{
				title: 'Lantern Walk; bring a jar, please',
				startsLocal: '2027-03-13T18:45',
				endsLocal: '2027-03-14T20:00',
				allDay: false
			},
			{
				title: 'قهوة صباحية',
				startsLocal: '2027-11-07T00:00',
				endsLocal: '2027-11-08T00:00',
				allDay: true
			}
		].map((e, i) => ({
			...e,
			uid: `event-${i}`,
			place: i === 0 ? 'Landing\nupper ramp' : '',
			startsAt: at(e.startsLocal),
			endsAt: at(e.endsLocal),
			calledOff: i === 1,
			changedAt: at('2027-03-01T09:00'),
			sequence: i
		}));
		const text = writeCalendarFile({ name: 'Brackwater' }, written);
		const { events, problems } = read(text);
		expect(problems).to.deep.equal([]);
		expect(events).to.deep.equal(
			written.map(({ uid, title, place, allDay, startsLocal, endsLocal, calledOff }) => ({
				uid,
				title,
				place,
				allDay,
				startsLocal,
				endsLocal,
				calledOff
			}))
		);
		const plain = new ICAL.Component(ICAL.parse(text)).getAllSubcomponents('vevent');
		expect(plain.map((v) => v.getFirstPropertyValue('summary'))).to.deep.equal(
			written.map((w) => w.title)
		);
		expect((plain[0]!.getFirstPropertyValue('dtstart') as ICAL.Time).toUnixTime() * 1000).to.equal(
			written[0]!.startsAt
		);
		// RFC 5545 section 3.1: lines of 75 octets at most, ended by CRLF.
		for (const line of text.split('\r\n')) expect(Buffer.byteLength(line)).to.be.at.most(75);
	});
});

describe('an iCalendar file with dates of its own', () => {
	const starts = (...lines: string[]) =>
		read(file(...event(...lines))).events.map((e) => e.startsLocal);

	// RFC 5545 section 3.8.5.2: the recurrence set is DTSTART with the dates of RDATE.
	it('keeps the start beside dates that are added without a rule', () => {
		expect(
			starts(
				'DTSTART;TZID=America/New_York:20270309T090000',
				'DURATION:PT1H',
				'RDATE;TZID=America/New_York:20270311T100000,20270316T090000',
				'SUMMARY:Rowing'
			)
		).to.deep.equal(['2027-03-09T09:00', '2027-03-11T10:00', '2027-03-16T09:00']);
	});

	it('adds dates to those of a rule, each once', () => {
		expect(
			starts(
				'DTSTART;TZID=America/New_York:20270309T090000',
				'DURATION:PT1H',
				'RRULE:FREQ=WEEKLY;COUNT=3',
				'RDATE;TZID=America/New_York:20270316T090000,20270318T090000',
				'SUMMARY:Rowing'
			)
		).to.deep.equal([
			'2027-03-09T09:00',
			'2027-03-16T09:00',
			'2027-03-18T09:00',
			'2027-03-23T09:00'
		]);
	});

	// RFC 5545 section 3.8.5.1: EXDATE has the type of DTSTART, or says its own.
	it('leaves a day out of a series of whole days, as a date or as a time on that day', () => {
		for (const out of ['EXDATE;VALUE=DATE:20270316', 'EXDATE:20270316']) {
			expect(
				starts(
					'DTSTART;VALUE=DATE:20270309',
					'RRULE:FREQ=WEEKLY;COUNT=3',
					out,
					'SUMMARY:No school'
				),
				out
			).to.deep.equal(['2027-03-09T00:00', '2027-03-23T00:00']);
		}
	});

	it('leaves a time out of a series by its day alone', () => {
		expect(
			starts(
				'DTSTART;TZID=America/New_York:20270309T090000',
				'DURATION:PT1H',
				'RRULE:FREQ=WEEKLY;COUNT=3',
				'EXDATE;VALUE=DATE:20270316',
				'SUMMARY:Rowing'
			)
		).to.deep.equal(['2027-03-09T09:00', '2027-03-23T09:00']);
	});

	it('says in words that added stretches of time are passed over', () => {
		const { events, problems } = read(
			file(
				...event(
					'DTSTART:20270309T140000Z',
					'DURATION:PT1H',
					'RDATE;VALUE=PERIOD:20270310T140000Z/PT3H',
					'SUMMARY:Rowing'
				)
			)
		);
		expect(events.map((e) => e.startsLocal)).to.deep.equal(['2027-03-09T09:00']);
		expect(problems).to.deep.equal([
			{ where: 'Rowing', text: 'adds stretches of time of another length; these are passed over.' }
		]);
	});
});

describe('an iCalendar file made to hold others up', () => {
	const problemOf = (...lines: string[]) => {
		const { events, problems } = read(file(...event('SUMMARY:Trap', ...lines)));
		expect(events).to.deep.equal([]);
		return problems.map((p) => p.text).join();
	};
	for (const [what, lines, said] of [
		[
			'February 30',
			['DTSTART:20270301T090000Z', 'RRULE:FREQ=DAILY;BYMONTH=2;BYMONTHDAY=30'],
			/comes to no date/
		],
		[
			'every second',
			['DTSTART:20270301T090000Z', 'RRULE:FREQ=SECONDLY;BYMONTH=3'],
			/repeats within an hour/
		],
		[
			'a start in the year 202',
			['DTSTART:02020301T090000Z', 'RRULE:FREQ=DAILY'],
			/before the year 1900/
		],
		[
			'three centuries',
			['DTSTART:20270301T090000Z', 'DURATION:P99999999999999D'],
			/longer than 400 days|times cannot be read/
		]
	] as const) {
		it(`is passed over with the reason: ${what}`, () => {
			expect(problemOf(...lines)).to.match(said);
		});
	}

	it('is told, with no word of a library, where it is cut off or nonsense', () => {
		for (const text of [
			file(...event('DTSTART:20270301T090000Z')).slice(0, 90),
			file('BEGIN:VEVENT', 'DTSTART:2027-03-01', 'END:VEVENT'),
			file('BEGIN:VEVENT', 'DTSTART:20270399T999999', 'END:VEVENT')
		]) {
			const { problems } = read(text);
			expect(problems.map((p) => p.text).join()).not.to.match(
				/invalid|undefined|NaN|expected|error|ical/i
			);
		}
	});

	it('looks at each of 5,000 events once', () => {
		const many = Array.from({ length: 5_000 }, (_, i) => [
			'BEGIN:VEVENT',
			`UID:${i}@example`,
			`DTSTART:20270${1 + (i % 9)}01T090000Z`,
			`SUMMARY:No ${i}`,
			'END:VEVENT'
		]).flat();
		const components = ICAL.Component.prototype;
		const original = components.getAllSubcomponents;
		let asked = 0;
		components.getAllSubcomponents = function (...args) {
			asked += 1;
			return original.apply(this, args);
		};
		try {
			expect(read(file(...many)).events).to.have.length(5_000);
		} finally {
			components.getAllSubcomponents = original;
		}
		// Asked once for each event, it took a minute for twenty thousand of them.
		expect(asked).to.be.below(10);
	});

	it('is written in lines of at most 75 octets, never cut inside a character (RFC 5545 section 3.1)', () => {
		const event = {
			...{ uid: 'u', title: 'é👍ليلى '.repeat(40), place: 'x'.repeat(300), allDay: false },
			...{ startsLocal: '2027-03-09T10:00', endsLocal: '2027-03-09T11:00', calledOff: false },
			...{ startsAt: Date.UTC(2027, 2, 9, 15), endsAt: Date.UTC(2027, 2, 9, 16), changedAt: 0 },
			sequence: 0
		};
		const text = writeCalendarFile({ name: 'School events' }, [event]);
		const lines = text.split('\r\n');
		expect(lines.every((l) => Buffer.byteLength(l) <= 75)).to.equal(true);
		expect(text).not.to.contain('\ufffd');
		const back = readCalendarFile(text, 'America/New_York', { from: 0, to: Infinity });
		expect(back.events[0]).to.include({
			title: event.title.trim().slice(0, 200),
			place: 'x'.repeat(200)
		});
	});
});
