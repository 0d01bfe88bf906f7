import { expect } from 'chai';
import { DateTime } from 'luxon';
import { holdMinutes, isHold, leavesAt, wouldLeaveAt } from '../../../../src/lib/core/time/hold';
import { localOf } from '../../../../src/lib/core/time/local';
import { stretchWords } from '../../../../src/lib/core/time/stretch';
import {
	comingMoments,
	endOf,
	localTimeSchema,
	momentsOf,
	offsetOfKey,
	timingSchema,
	usualTiming,
	type MomentContext,
	type Timing
} from '../../../../src/lib/core/time/timing';
import {
	clockWords,
	dayName,
	dayPartsOf,
	usualMarks,
	type DayPart,
	dayTime,
	nearTime,
	usualTime
} from '../../../../src/lib/core/time/zone';

const zone = 'America/New_York';
const at = (iso: string) => DateTime.fromISO(iso, { zone }).toMillis();
const now = at('2027-03-09T07:40');
const context: MomentContext = {
	now,
	holdMinutes: 5,
	zone,
	event: { startsAt: at('2027-03-18T18:45'), endsAt: at('2027-03-18T20:00') },
	isSchoolDay: (d) => ![6, 7].includes(DateTime.fromISO(d).weekday)
};
const timing = (over: Partial<Timing>): Timing => ({ ...usualTiming, ...over });

describe('a local time as the sheet keeps it', () => {
	for (const [text, good] of [
		['2027-03-12T14:15', true],
		['1980-01-01T00:00', true],
		['2199-12-31T23:59', true],
		['1979-12-31T23:59', false],
		['2200-01-01T00:00', false],
		['2027-02-29T10:00', false],
		['2027-03-12', false],
		['2027-03-12T24:30', false],
		['fri 2pm', false]
	] as const) {
		it(`${text} is ${good ? 'one' : 'none'}`, () => {
			expect(localTimeSchema.safeParse(text).success).to.equal(good);
		});
	}
});

describe('when a sheet leaves', () => {
	it('usually now, without an end, and not urgently', () => {
		expect(usualTiming).to.deep.equal({
			when: { kind: 'now' },
			ends: null,
			clock: null,
			urgent: false
		});
		expect(
			timingSchema.parse({
				when: { kind: 'round', first: '2027-03-16T07:05', rule: '', offDays: 'skip' }
			}).when.kind
		).to.equal('round');
		const rule = (text: string) =>
			timingSchema.safeParse({
				when: { kind: 'round', first: '2027-03-16T07:05', rule: text, offDays: 'skip' }
			});
		expect(rule('freq=weekly;count=3').success).to.equal(true);
		expect(rule('FREQ=HOURLY;COUNT=3').error!.issues[0]!.message).to.equal(
			'A round leaves once a day at most.'
		);
	});

	it('goes stale at a time, or so long after it left', () => {
		expect(endOf(null, now, zone)).to.equal(null);
		expect(endOf({ kind: 'after', minutes: 90 }, now, zone)).to.equal(now + 90 * 60_000);
		expect(endOf({ kind: 'at', at: '2027-03-10T08:00' }, now, zone)).to.equal(
			at('2027-03-10T08:00')
		);
	});

	it('now: after its hold, of which none that is said is none', () => {
		const [moment, ...more] = momentsOf(timing({ ends: { kind: 'after', minutes: 60 } }), context);
		expect(more).to.deep.equal([]);
		expect(moment).to.deep.equal({
			key: '',
			local: '2027-03-09T07:45',
			at: now + 300_000,
			endsAt: now + 300_000 + 3_600_000,
			existence: 'once',
			note: null,
			words: ''
		});
	});

	it('by an event: in their order, each once, ended by what they remind of', () => {
		const offset = (amount: number, side: 'before' | 'after', of: 'start' | 'end') =>
			({ amount, unit: 'hours', side, of }) as const;
		const moments = momentsOf(
			timing({
				when: {
					kind: 'event',
					eventId: 1,
					offsets: [
						offset(1, 'after', 'end'),
						offset(0, 'before', 'start'),
						offset(3, 'before', 'end'),
						offset(24, 'before', 'start'),
						offset(1, 'after', 'end')
					]
				}
			}),
			context
		);
		expect(
			moments.map((m) => [m.words, localOf(m.at, zone), m.endsAt && localOf(m.endsAt, zone)])
		).to.deep.equal([
			['24 hours before it starts', '2027-03-17T18:45', '2027-03-18T18:45'],
			['3 hours before it ends', '2027-03-18T17:00', '2027-03-18T20:00'],
			// At its very beginning it may still leave: nothing bounds it.
			['when it starts', '2027-03-18T18:45', null],
			['1 hour after it ends', '2027-03-18T21:00', null]
		]);
		const early = momentsOf(
			timing({
				when: { kind: 'event', eventId: 1, offsets: [offset(24, 'before', 'start')] },
				ends: { kind: 'after', minutes: 60 }
			}),
			context
		);
		expect(localOf(early[0]!.endsAt!, zone)).to.equal('2027-03-17T19:45');
		expect(
			momentsOf(timing({ when: { kind: 'event', eventId: 1, offsets: [] } }), {
				...context,
				event: null
			})
		).to.deep.equal([]);
	});

	it('a reminder is named by its offset, and nothing else is', () => {
		const [one] = momentsOf(
			timing({
				when: {
					kind: 'event',
					eventId: 1,
					offsets: [{ amount: 2, unit: 'days', side: 'before', of: 'start' }]
				}
			}),
			context
		);
		expect(offsetOfKey(one!.key)).to.deep.equal({
			amount: 2,
			unit: 'days',
			side: 'before',
			of: 'start'
		});
		expect(offsetOfKey('2027-03-12')).to.equal(null);
		expect(offsetOfKey('[2,"moons","before","start"]')).to.equal(null);
	});

	it('again and again: moved dates in their order; a rule that is none comes to nothing', () => {
		const round = (rule: string, offDays: 'skip' | 'before' | 'after') =>
			momentsOf(
				timing({ when: { kind: 'round', first: '2027-03-12T07:05', rule, offDays } }),
				context
			).map((m) => [m.local.slice(0, 10), m.note]);
		expect(round('FREQ=DAILY;COUNT=3', 'skip')).to.deep.equal([
			['2027-03-12', null],
			['2027-03-13', 'skipped'],
			['2027-03-14', 'skipped']
		]);
		expect(round('FREQ=WEEKLY;BYDAY=SA;COUNT=2', 'before')).to.deep.equal([
			['2027-03-12', 'moved'],
			['2027-03-19', 'moved']
		]);
		expect(round('', 'skip')).to.deep.equal([]);
		expect(round('FREQ=NONSENSE', 'skip')).to.deep.equal([]);
	});

	it('what is to come is what is not past and not left out', () => {
		const moment = momentsOf(usualTiming, context)[0]!;
		const three = [
			{ ...moment, at: now },
			{ ...moment, at: now - 1 },
			{ ...moment, at: now + 1, note: 'skipped' as const }
		];
		expect(comingMoments(three, now).map((m) => m.at)).to.deep.equal([now]);
	});
});

describe('a hold', () => {
	it('is 0 to 30 whole minutes, and what is none counts as the nearest that is', () => {
		expect(holdMinutes).to.deep.equal({ default: 5, most: 30 });
		expect([0, 30, -1, 31, 2.5, NaN].map(isHold)).to.deep.equal([
			true,
			true,
			false,
			false,
			false,
			false
		]);
		expect(leavesAt(now, 5)).to.equal(now + 300_000);
		expect(() => leavesAt(now, 31)).to.throw(
			RangeError,
			'A hold is 0 to 30 whole minutes, not 31.'
		);
		expect([-5, 99, 2.4, NaN].map((m) => (wouldLeaveAt(now, m) - now) / 60_000)).to.deep.equal([
			0, 30, 2, 0
		]);
	});
});

describe('times in words', () => {
	it('of the clock: noon and midnight are twelve', () => {
		expect(['00:05', '11:59', '12:00', '17:00', '23:07'].map((t) => clockWords(t))).to.deep.equal([
			'12:05 am',
			'11:59 am',
			'12:00 pm',
			'5:00 pm',
			'11:07 pm'
		]);
	});

	it('of a day: with the year where it is another, or more than 300 days off', () => {
		const name = (iso: string) => dayName(at(iso), zone, now);
		expect(name('2027-03-12T08:00')).to.equal('Fri Mar 12');
		expect(name('2027-12-31T08:00')).to.equal('Fri Dec 31');
		expect(name('2028-01-01T08:00')).to.equal('Sat Jan 1 2028');
		const january = at('2027-01-01T00:00');
		expect(dayName(january + 300 * 86_400_000, zone, january)).to.equal('Thu Oct 28');
		expect(dayName(january + 301 * 86_400_000, zone, january)).to.equal('Fri Oct 29 2027');
		expect(dayName(at('2028-01-01T08:00'), zone)).to.equal('Sat Jan 1');
		// The day is that of the zone, not of the machine.
		expect(dayTime(at('2027-03-09T23:30'), 'Europe/Lisbon')).to.equal('Wed Mar 10, 4:30 am');
	});

	it('of what is near: today, yesterday, else the day', () => {
		const near = (iso: string) => nearTime(at(iso), now, zone);
		expect(near('2027-03-09T00:00')).to.equal('today 12:00 am');
		expect(near('2027-03-08T23:59')).to.equal('yesterday 11:59 pm');
		expect(near('2027-03-07T23:59')).to.equal('Sun Mar 7, 11:59 pm');
		expect(near('2027-03-10T00:00')).to.equal('Wed Mar 10, 12:00 am');
		expect(nearTime(at('2026-03-09T08:00'), now, zone)).to.equal('Mon Mar 9 2026, 8:00 am');
	});

	it('of a stretch: in its nearest usual unit', () => {
		expect([0, 1, 89, 90, 2159, 2160, 4320].map(stretchWords)).to.deep.equal([
			'1 min',
			'1 min',
			'89 min',
			'2 h',
			'36 h',
			'2 days',
			'3 days'
		]);
	});

	it('what is put into a part of the day keeps its time where it lies in it, else has the usual one', () => {
		const [before, school, after, evening] = dayPartsOf(usualMarks) as [
			DayPart,
			DayPart,
			DayPart,
			DayPart
		];
		expect(usualTime(before, '07:42')).to.equal('07:42');
		expect(usualTime(before, '06:30')).to.equal('06:30');
		expect(usualTime(before, '08:10')).to.equal('07:15');
		expect(usualTime(school, '08:10')).to.equal('08:10');
		expect(usualTime(school, '15:00')).to.equal('10:00');
		expect(usualTime(after, '10:00')).to.equal('15:30');
		expect(usualTime(evening, '21:00')).to.equal('18:30');
	});
});
