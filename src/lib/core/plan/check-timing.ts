import { count } from '../copy/count';
import { isHold, holdMinutes as hold, leadMinutes } from '../time/hold';
import { hasEnd, mostDates } from '../time/recurrence';
import { placeLocal } from '../time/local';
import type { ClockStyle } from '../copy/clock-style';
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
	/** How a time of day is written. */
	readonly style?: ClockStyle;
	readonly holdMinutes: number;
	readonly mayUrgent: boolean;
	/** How many of the students are where the writer may not send urgently. */
	readonly notUrgently: number;
	/** The event it is set by, where it is set by one and it is there. */
	readonly event: { readonly title: string; readonly calledOff: boolean } | null;
	readonly times: TimesTally;
	readonly copies: number;
	/** People who get something that they have declined, because it is urgent. */
	readonly overWish: number;
	/** Whether its audience names people for themselves, not by way of a student. */
	readonly forThemselves: boolean;
	/** People who would only get it after its end. */
	readonly pastEnd: number;
}

const dates = (n: number) => `${n} ${n === 1 ? 'date' : 'dates'}`;

/** "Sat 8:00 am", with the date where it is a week off or more. */
const shortMoment = (at: number, { zone, style }: Pick<Asked, 'zone' | 'style'>): string =>
	`${dayName(at, zone)}, ${clockTime(at, zone, style)}`;

/** The input with the moments that are still to come. */
interface Asked extends TimingInput {
	readonly coming: readonly Moment[];
}

const block = (text: string): Check => ({ level: 'block', where: 'when', text });
const caution = (text: string): Check => ({ level: 'caution', where: 'when', text });

/** What stands in the way of a time that is set by an event. */
function eventInTheWay({ timing: { when }, event, moments, coming }: Asked): string | null {
	if (when.kind !== 'event') return null;
	if (!event) return 'No event is chosen, or it is gone. Choose one.';
	if (event.calledOff) return `${event.title} is called off. Choose another event or time.`;
	if (when.offsets.length === 0)
		return 'No reminder is chosen. Say how long before or after the event.';
	if (coming.length > 0) return null;
	return `${moments.length === 1 ? 'The reminder' : `All ${moments.length} reminders`} of ${event.title} would be past. Choose a shorter time before it.`;
}

/** What stands in the way of a repetition. */
function roundInTheWay({ timing: { when }, moments, coming }: Asked): string | null {
	if (when.kind !== 'round') return null;
	if (when.rule === '')
		return 'No repetition is said. Write it like "every tuesday until june 11, 2027".';
	if (!hasEnd(when.rule))
		return 'The repetition has no end. Add "until june 11, 2027" or "for 6 times".';
	if (moments.length >= mostDates)
		return `That is ${mostDates} dates or more. Choose an earlier end.`;
	if (moments.length === 0)
		return 'The repetition comes to no date. Look at its first date and its end.';
	if (moments.every((m) => m.note === 'skipped')) {
		return `${moments.length === 1 ? 'Its one date is no school day.' : `None of its ${moments.length} dates falls on a school day.`} Choose other days, or let it go out all the same.`;
	}
	return coming.length === 0 ? 'All its dates are past. Choose a later end.' : null;
}

/** What stands in the way of a sheet that waits for a marker. */
function gainInTheWay({ timing: { when }, now, zone, style, forThemselves }: Asked): string | null {
	if (when.kind !== 'gain') return null;
	if (when.markerId === null) return 'No marker is chosen that it waits for. Choose one.';
	const until = placeLocal(when.until, zone).at;
	if (until <= now)
		return `${dayTime(until, zone, now, style)} is past: it would wait for nobody. Choose a later time.`;
	return forThemselves
		? 'It leaves for students, each when they gain the marker: people picked by name or role would get it each time. Take them out.'
		: null;
}

/** Each gives what stands in the way, or null. */
const inTheWay: readonly ((asked: Asked) => string | null)[] = [
	({ timing, holdMinutes }) =>
		(timing.when.kind === 'now' || timing.when.kind === 'gain') && !isHold(holdMinutes)
			? `The hold is 0 to ${hold.most} minutes.`
			: null,
	({ timing, mayUrgent }) =>
		timing.urgent && !mayUrgent
			? 'You may not send urgently. Take "urgent" off, or ask the principal.'
			: null,
	({ timing, mayUrgent, notUrgently: n }) =>
		timing.urgent && mayUrgent && n > 0
			? `You may not send urgently to ${count(n)} of the students: they are of another school. Take them out, or take "urgent" off.`
			: null,
	({ timing, moments, coming, zone, style, now }) =>
		timing.when.kind === 'at' && coming.length === 0
			? `${dayTime(moments[0]!.at, zone, now, style)} is past. Choose a later time.`
			: null,
	eventInTheWay,
	roundInTheWay,
	gainInTheWay,
	({ coming, zone, style, now }) => {
		const ended = coming.find((m) => m.endsAt !== null && m.endsAt <= m.at);
		return ended
			? `Its end, ${dayTime(ended.endsAt!, zone, now, style)}, comes before it leaves, ${dayTime(ended.at, zone, now, style)}. Choose a later end.`
			: null;
	}
];

/** Dates that would be past, and those that fall on days without school. */
function datesNotMade({ timing: { when }, moments, coming, now }: Asked): string[] {
	const said: string[] = [];
	const past = moments.filter((m) => m.note !== 'skipped' && m.at < now).length;
	const are = past === 1 ? 'is' : 'are';
	if (when.kind !== 'now' && coming.length > 0 && past > 0) {
		said.push(
			when.kind === 'event'
				? `${past} of ${moments.length} reminders would be past and ${are} not made.`
				: `${dates(past)} of the repetition ${are} past and not made.`
		);
	}
	const left = moments.filter((m) => m.note === 'skipped').length;
	if (left > 0 && left < moments.length) {
		said.push(`${dates(left)} without school ${left === 1 ? 'is' : 'are'} left out.`);
	}
	return said;
}

/** Wall times that do not exist, or come twice, since the clocks change. */
const clockChanges = ({ coming, zone, style }: Asked): string[] =>
	coming.flatMap((m) => {
		const typed = clockTime(Date.parse(`${m.local}Z`), 'UTC', style);
		const day = dayName(m.at, zone);
		if (m.existence === 'skipped') {
			return [
				`${typed} does not exist on ${day}, since clocks go forward. It leaves at ${clockTime(m.at, zone, style)}.`
			];
		}
		return m.existence === 'twice'
			? [`${typed} comes twice on ${day}, since clocks go back. It leaves at the first.`]
			: [];
	});

function quietHours({ times, copies, zone, style }: Asked): string[] {
	if (times.shifted === 0) return [];
	const [shift] = times.shifts;
	return [
		`${count(times.shifted)} of ${count(copies)} ${copies === 1 ? 'copy' : 'copies'} would come in quiet hours and ${times.shifted === 1 ? 'leaves' : 'leave'} later, ${times.shifts.length === 1 ? 'at' : 'the first at'} ${shortMoment(shift!.to, { zone, style })}.`
	];
}

function urgency({ timing, overWish: n }: Asked): string[] {
	if (!timing.urgent) return [];
	const wishes =
		n > 0 ? `, and passes over the wishes of ${n} ${n === 1 ? 'person' : 'people'}` : '';
	return [`Urgent: it keeps to no quiet hours${wishes}. That is written down with your name.`];
}

/** Each gives what is to be looked at. */
const toLookAt: readonly ((asked: Asked) => readonly string[])[] = [
	({ timing, coming: [first], now }) =>
		timing.when.kind === 'at' && first && first.at < now + leadMinutes * 60_000
			? [`It leaves within ${leadMinutes} minutes. That leaves little time to find a mistake.`]
			: [],
	datesNotMade,
	clockChanges,
	quietHours,
	({ pastEnd: n }) =>
		n > 0
			? [
					`${n} ${n === 1 ? 'person is' : 'people are'} left out, since their copies could only leave after its end.`
				]
			: [],
	urgency,
	({ timing, holdMinutes }) =>
		timing.when.kind === 'now' && holdMinutes === 0
			? ['Without a hold it cannot be called back once it is sent.']
			: []
];

/** What the standing check says about when it goes. */
export function timingChecks(input: TimingInput): Check[] {
	const asked = { ...input, coming: comingMoments(input.moments, input.now) };
	return [
		...inTheWay.flatMap((ask) => ask(asked) ?? []).map(block),
		...toLookAt.flatMap((ask) => ask(asked)).map(caution)
	];
}
