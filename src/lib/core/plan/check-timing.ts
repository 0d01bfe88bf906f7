import { count } from '../copy/count';
import { isHold, holdMinutes as hold, leadMinutes } from '../time/hold';
import { hasEnd, mostDates } from '../time/recurrence';
import { clockTime, dayName, dayTime } from '../time/zone';
import type { Moment, Timing } from '../time/timing';
import { comingMoments } from '../time/timing';
import type { Check } from './check';
import type { TimesTally } from './times';

/** What is looked at of a sheet's time. */
export interface TimingInput {
	readonly timing: Timing;
	readonly moments: readonly Moment[];
	readonly now: number;
	readonly zone: string;
	readonly holdMinutes: number;
	readonly mayUrgent: boolean;
	/** The event it is set by, where it is set by one and it is there. */
	readonly event: { readonly title: string; readonly calledOff: boolean } | null;
	readonly times: TimesTally;
	readonly copies: number;
	/** People who get something that they have declined, because it is urgent. */
	readonly overWish: number;
	/** People who would only get it after its end. */
	readonly pastEnd: number;
}

const dates = (n: number) => `${n} ${n === 1 ? 'date' : 'dates'}`;

/** "Sat 8:00 am", with the date where it is a week off or more. */
const shortMoment = (at: number, zone: string): string =>
	`${dayName(at, zone)}, ${clockTime(at, zone)}`;

/** What the standing check says about when it goes. */
export function timingChecks(input: TimingInput): Check[] {
	const { timing, moments, now, zone, event, times, copies } = input;
	const { when } = timing;
	const checks: Check[] = [];
	const say = (level: Check['level'], text: string) => checks.push({ level, where: 'when', text });
	const coming = comingMoments(moments, now);
	const [first] = coming;

	if (when.kind === 'now' && !isHold(input.holdMinutes)) {
		say('block', `The hold is 0 to ${hold.most} minutes.`);
	}
	if (timing.urgent && !input.mayUrgent) {
		say('block', 'You may not send urgently. Take "urgent" off, or ask the principal.');
	}
	switch (when.kind) {
		case 'now':
			break;
		case 'at':
			if (!first)
				say('block', `${dayTime(moments[0]!.at, zone, now)} is past. Choose a later time.`);
			break;
		case 'event':
			if (!event) say('block', 'No event is chosen, or it is gone. Choose one.');
			else if (event.calledOff) {
				say('block', `${event.title} is called off. Choose another event or time.`);
			} else if (when.offsets.length === 0) {
				say('block', 'No reminder is chosen. Say how long before or after the event.');
			} else if (coming.length === 0) {
				say(
					'block',
					`${moments.length === 1 ? 'The reminder' : `All ${moments.length} reminders`} of ${event.title} would be past. Choose a shorter time before it.`
				);
			}
			break;
		case 'round':
			if (when.rule === '') {
				say('block', 'No repetition is said. Write it like "every tuesday until june 11, 2027".');
			} else if (!hasEnd(when.rule)) {
				say('block', 'The repetition has no end. Add "until june 11, 2027" or "for 6 times".');
			} else if (moments.length >= mostDates) {
				say('block', `That is ${mostDates} dates or more. Choose an earlier end.`);
			} else if (moments.length === 0) {
				say('block', 'The repetition comes to no date. Look at its first date and its end.');
			} else if (moments.every((m) => m.note === 'skipped')) {
				say(
					'block',
					`${moments.length === 1 ? 'Its one date is no school day.' : `None of its ${moments.length} dates falls on a school day.`} Choose other days, or let it go out all the same.`
				);
			} else if (coming.length === 0) {
				say('block', 'All its dates are past. Choose a later end.');
			}
	}
	for (const m of coming) {
		if (m.endsAt !== null && m.endsAt <= m.at) {
			say(
				'block',
				`Its end, ${dayTime(m.endsAt, zone, now)}, comes before it leaves, ${dayTime(m.at, zone, now)}. Choose a later end.`
			);
			break;
		}
	}

	if (when.kind === 'at' && first && first.at < now + leadMinutes * 60_000) {
		say(
			'caution',
			`It leaves within ${leadMinutes} minutes. That leaves little time to find a mistake.`
		);
	}
	const past = moments.filter((m) => m.note !== 'skipped' && m.at < now).length;
	if (when.kind !== 'now' && coming.length > 0 && past > 0) {
		say(
			'caution',
			when.kind === 'event'
				? `${past} of ${moments.length} reminders would be past and ${past === 1 ? 'is' : 'are'} not made.`
				: `${dates(past)} of the repetition ${past === 1 ? 'is' : 'are'} past and not made.`
		);
	}
	const left = moments.filter((m) => m.note === 'skipped').length;
	if (left > 0 && left < moments.length) {
		say('caution', `${dates(left)} without school ${left === 1 ? 'is' : 'are'} left out.`);
	}
	for (const m of coming) {
		const typed = clockTime(Date.parse(`${m.local}Z`), 'UTC');
		if (m.existence === 'skipped') {
			say(
				'caution',
				`${typed} does not exist on ${dayName(m.at, zone)}, since clocks go forward. It leaves at ${clockTime(m.at, zone)}.`
			);
		} else if (m.existence === 'twice') {
			say(
				'caution',
				`${typed} comes twice on ${dayName(m.at, zone)}, since clocks go back. It leaves at the first.`
			);
		}
	}
	if (times.shifted > 0) {
		const [shift] = times.shifts;
		say(
			'caution',
			`${count(times.shifted)} of ${count(copies)} ${copies === 1 ? 'copy' : 'copies'} would come in quiet hours and ${times.shifted === 1 ? 'leaves' : 'leave'} later, ${times.shifts.length === 1 ? 'at' : 'the first at'} ${shortMoment(shift!.to, zone)}.`
		);
	}
	if (input.pastEnd > 0) {
		say(
			'caution',
			`${input.pastEnd} ${input.pastEnd === 1 ? 'person is' : 'people are'} left out, since their copies could only leave after its end.`
		);
	}
	if (timing.urgent) {
		say(
			'caution',
			`Urgent: it keeps to no quiet hours${
				input.overWish > 0
					? `, and passes over the wishes of ${input.overWish} ${input.overWish === 1 ? 'person' : 'people'}`
					: ''
			}. That is written down with your name.`
		);
	}
	if (when.kind === 'now' && input.holdMinutes === 0) {
		say('caution', 'Without a hold it cannot be called back once it is sent.');
	}
	return checks;
}
