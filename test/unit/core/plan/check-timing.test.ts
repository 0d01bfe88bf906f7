import { expect } from 'chai';
import { DateTime } from 'luxon';
import { timingChecks, type TimingInput } from '../../../../src/lib/core/plan/check-timing';
import {
	momentsOf,
	timingSchema,
	usualTiming,
	type MomentContext,
	type Timing
} from '../../../../src/lib/core/time/timing';
import { localOf } from '../../../../src/lib/core/time/local';

const zone = 'America/New_York';
const at = (iso: string) => DateTime.fromISO(iso, { zone }).toMillis();
const now = at('2027-03-09T07:40');
const context: MomentContext = {
	now,
	holdMinutes: 5,
	zone,
	event: null,
	isSchoolDay: (d) => ![6, 7].includes(DateTime.fromISO(d).weekday)
};
const none = { firstAt: now, lastAt: now, shifted: 0, shifts: [], inDigests: 0 };
function checks(
	timing: Partial<Timing>,
	over: Partial<TimingInput> = {},
	ctx: Partial<MomentContext> = {}
) {
	const whole = { ...usualTiming, ...timing };
	return timingChecks({
		timing: whole,
		moments: momentsOf(whole, { ...context, ...ctx }),
		now,
		zone,
		holdMinutes: 5,
		mayUrgent: true,
		notUrgently: 0,
		event: null,
		times: none,
		copies: 10,
		overWish: 0,
		forThemselves: false,
		pastEnd: 0,
		...over
	}).map((c) => `${c.level}: ${c.text}`);
}
const round = (rule: string, over = {}): Partial<Timing> => ({
	when: { kind: 'round', first: '2027-03-16T07:05', rule, offDays: 'skip', ...over }
});
const concert = { startsAt: at('2027-03-15T18:00'), endsAt: at('2027-03-15T20:00') };
const reminders = (...amounts: number[]): Partial<Timing> => ({
	when: {
		kind: 'event',
		eventId: 1,
		offsets: amounts.map((amount) => ({
			amount,
			unit: 'days' as const,
			side: 'before' as const,
			of: 'start' as const
		}))
	}
});

describe('the check of when it goes', () => {
	it('has nothing against now after a hold, and a time with room before it', () => {
		expect(checks({})).to.deep.equal([]);
		expect(checks({ when: { kind: 'at', at: '2027-03-12T14:15' } })).to.deep.equal([]);
	});
	// Holds of 5 and 30 minutes and a lead of half an hour: common practice.
	it('takes holds from 0 to 30 minutes, and says what none means', () => {
		expect(checks({}, { holdMinutes: 31 })[0]).to.match(/^block: The hold is 0 to 30/);
		expect(checks({}, { holdMinutes: 30 })).to.deep.equal([]);
		expect(checks({}, { holdMinutes: 0 })[0]).to.match(/^caution: Without a hold/);
		expect(checks({ when: { kind: 'at', at: '2027-03-09T08:00' } })[0]).to.match(
			/within 30 minutes/
		);
		// Up to the minute: half an hour itself is time enough.
		expect(checks({ when: { kind: 'at', at: '2027-03-09T08:09' } })[0]).to.match(
			/within 30 minutes/
		);
		expect(checks({ when: { kind: 'at', at: '2027-03-09T08:10' } })).to.deep.equal([]);
	});
	it('blocks the past, and an end before the start', () => {
		expect(checks({ when: { kind: 'at', at: '2027-03-09T07:39' } })[0]).to.equal(
			'block: Tue Mar 9, 7:39 am is past. Choose a later time.'
		);
		expect(
			checks({
				when: { kind: 'at', at: '2027-03-12T14:15' },
				ends: { kind: 'at', at: '2027-03-12T14:00' }
			})[0]
		).to.match(/^block: Its end, Fri Mar 12, 2:00 pm, comes before it leaves/);
	});
	it('blocks urgent without the right, and points it out with it', () => {
		expect(checks({ urgent: true }, { mayUrgent: false })[0]).to.match(
			/^block: You may not send urgently/
		);
		expect(checks({ urgent: true })[0]).to.match(/^caution: Urgent/);
	});
	it('blocks a rule without end, one with too many dates, none, and one that never falls on a school day', () => {
		expect(checks(round(''))[0]).to.match(/^block: No repetition is said/);
		expect(checks(round('FREQ=WEEKLY'))[0]).to.match(/^block: The repetition has no end/);
		expect(checks(round('FREQ=DAILY;COUNT=5000'))[0]).to.match(/^block: That is 400 dates or more/);
		expect(checks(round('FREQ=WEEKLY;UNTIL=20270301'))[0]).to.match(
			/^block: The repetition comes to no date/
		);
		expect(checks(round('FREQ=WEEKLY;BYDAY=SU;COUNT=5'))[0]).to.match(
			/^block: None of its 5 dates falls on a school day/
		);
		expect(checks(round('FREQ=WEEKLY;BYDAY=SU;COUNT=5', { offDays: 'send' }))).to.deep.equal([]);
		expect(checks(round('FREQ=NONSENSE;COUNT=2'))[0]).to.match(
			/^block: The repetition comes to no date/
		);
	});
	it('says how many dates are left out or past', () => {
		expect(checks(round('FREQ=DAILY;COUNT=6'))).to.deep.equal([
			'caution: 2 dates without school are left out.'
		]);
		expect(checks(round('FREQ=DAILY;COUNT=4', { first: '2027-03-08T07:05' }))).to.deep.equal([
			'caution: 2 dates of the repetition are past and not made.'
		]);
	});
	it('blocks an event that is gone or called off, no reminder, and reminders that would all be past', () => {
		expect(checks(reminders(1))[0]).to.match(/^block: No event is chosen/);
		const event = { title: 'Concert', calledOff: false };
		const with_ = (t: Partial<Timing>) => checks(t, { event }, { event: concert });
		expect(
			checks(reminders(1), { event: { ...event, calledOff: true } }, { event: concert })[0]
		).to.match(/^block: Concert is called off/);
		expect(with_(reminders())[0]).to.match(/^block: No reminder/);
		expect(with_(reminders(14))[0]).to.match(/^block: The reminder of Concert would be past/);
		expect(with_(reminders(7, 1))).to.deep.equal([
			'caution: 1 of 2 reminders would be past and is not made.'
		]);
	});
	it('says what becomes of a time that does not exist or comes twice', () => {
		expect(checks({ when: { kind: 'at', at: '2027-03-14T02:30' } })).to.deep.equal([
			'caution: 2:30 am does not exist on Sun Mar 14, since clocks go forward. It leaves at 3:30 am.'
		]);
		expect(checks({ when: { kind: 'at', at: '2027-11-07T01:30' } })).to.deep.equal([
			'caution: 1:30 am comes twice on Sun Nov 7, since clocks go back. It leaves at the first.'
		]);
	});
	it('says how many copies shift, and whom the end leaves out', () => {
		const times = { ...none, shifted: 3, shifts: [{ to: at('2027-03-13T08:00'), copies: 3 }] };
		expect(checks({}, { times, pastEnd: 1 })).to.deep.equal([
			'caution: 3 of 10 copies would come in quiet hours and leave later, at Sat Mar 13, 8:00 am.',
			'caution: 1 person is left out, since their copies could only leave after its end.'
		]);
	});
});

describe('the check of when it goes, to the word', () => {
	it('tells one date, reminder, copy and person from more', () => {
		const event = { title: 'Concert', calledOff: false };
		expect(checks(reminders(14, 15), { event }, { event: concert })[0]).to.equal(
			'block: All 2 reminders of Concert would be past. Choose a shorter time before it.'
		);
		expect(checks(round('FREQ=WEEKLY;BYDAY=SU;COUNT=1'))[0]).to.equal(
			'block: Its one date is no school day. Choose other days, or let it go out all the same.'
		);
		expect(checks(round('FREQ=DAILY;COUNT=2', { first: '2027-03-05T07:05' }))[0]).to.equal(
			'block: All its dates are past. Choose a later end.'
		);
		// Sunday is left out, Monday of the same week is past.
		expect(checks(round('FREQ=DAILY;COUNT=5', { first: '2027-03-07T07:05' }))).to.deep.equal([
			'caution: 2 dates of the repetition are past and not made.',
			'caution: 1 date without school is left out.'
		]);
		expect(checks(round('FREQ=DAILY;COUNT=2', { first: '2027-03-09T07:05' }))).to.deep.equal([
			'caution: 1 date of the repetition is past and not made.'
		]);
		const shift = { to: at('2027-03-13T08:00'), copies: 1 };
		const times = { ...none, shifted: 1, shifts: [shift, { ...shift, to: shift.to + 1 }] };
		expect(checks({}, { times, copies: 1, pastEnd: 2 })).to.deep.equal([
			'caution: 1 of 1 copy would come in quiet hours and leaves later, the first at Sat Mar 13, 8:00 am.',
			'caution: 2 people are left out, since their copies could only leave after its end.'
		]);
	});

	it('says whose wishes urgent passes over, and that it is written down', () => {
		const said = (overWish: number) => checks({ urgent: true }, { overWish })[0];
		expect(said(0)).to.equal(
			'caution: Urgent: it keeps to no quiet hours. That is written down with your name.'
		);
		expect(said(1)).to.contain(', and passes over the wishes of 1 person. ');
		expect(said(2)).to.contain(', and passes over the wishes of 2 people. ');
	});

	it('asks of each kind of time only what belongs to it', () => {
		const far = { when: { kind: 'at', at: '2027-03-12T14:15' } } as const;
		expect(checks(far, { holdMinutes: 0 })).to.deep.equal([]);
		expect(checks(far, { holdMinutes: 99 })).to.deep.equal([]);
		expect(
			checks({ ...far, ends: { kind: 'at', at: '2027-03-12T14:15' } })[0],
			'an end at the very moment it leaves'
		).to.match(/^block: Its end/);
		const times = { ...none, shifted: 2, shifts: [{ to: now, copies: 2 }] };
		const there = timingChecks({
			timing: { ...usualTiming, ...far },
			moments: momentsOf({ ...usualTiming, ...far }, context),
			now,
			zone,
			holdMinutes: 5,
			mayUrgent: true,
			notUrgently: 0,
			event: null,
			times,
			copies: 10,
			forThemselves: false,
			overWish: 0,
			pastEnd: 1
		}).map((c) => c.where);
		expect(there).to.deep.equal(['when', 'when']);
	});
});

describe('the moments of a sheet', () => {
	it('of an event move with it, over the change of the clock, and end where it begins', () => {
		const timing = { ...usualTiming, ...reminders(7, 1) };
		const local = (event: typeof concert) =>
			momentsOf(timing, { ...context, event }).map((m) => [
				localOf(m.at, zone),
				m.endsAt === event.startsAt
			]);
		expect(local(concert)).to.deep.equal([
			['2027-03-08T18:00', true],
			['2027-03-14T18:00', true]
		]);
		const later = { startsAt: at('2027-03-17T19:00'), endsAt: at('2027-03-17T20:00') };
		expect(local(later)).to.deep.equal([
			['2027-03-10T19:00', true],
			['2027-03-16T19:00', true]
		]);
	});
	it('come once for the same offset said twice', () => {
		expect(
			momentsOf({ ...usualTiming, ...reminders(1, 1) }, { ...context, event: concert })
		).to.have.length(1);
	});
	it('are refused by the schema where they are no times', () => {
		for (const when of [
			{ kind: 'at', at: '2027-02-30T10:00' },
			{ kind: 'at', at: 'friday' },
			{ kind: 'event', eventId: -1, offsets: [] },
			{
				kind: 'event',
				eventId: 1,
				offsets: [{ amount: 1.5, unit: 'days', side: 'before', of: 'start' }]
			},
			{ kind: 'sometime' }
		]) {
			expect(timingSchema.safeParse({ when }).success, JSON.stringify(when)).to.equal(false);
		}
		expect(timingSchema.parse({})).to.deep.equal(usualTiming);
	});
});
