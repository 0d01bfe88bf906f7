import { dayAfter, localOf, weekdayOf, type LocalTime } from './local';
import { placeDay, takeDay } from './said-day';
import { takeTime, type SaidTime } from './said-clock';
import { Said, type DateOrder } from './said';
import type { ClockStyle } from '../copy/clock-style';
import { dayTime } from './zone';

export type { DateOrder } from './said';

/** One way of reading what was typed. */
export interface MomentChoice {
	readonly local: LocalTime;
	/** "Fri Mar 12, 2:00 pm". */
	readonly words: string;
}

export type ReadMoment =
	| { readonly ok: true; readonly local: LocalTime; readonly timeSaid: boolean }
	| {
			readonly ok: false;
			readonly why: string;
			/** Where a person could mean several things: each of them, the likelier first. */
			readonly choices: readonly MomentChoice[];
	  };

/** What was said of the day: an ISO date, and whether only a weekday named it. */
interface Day {
	readonly date: string;
	readonly byWeekday: boolean;
	/** Another day a person could have meant: "next friday". */
	readonly other?: string;
}

/** A part of the day, the time it stands for where none is said (common practice), and the half of the day it tells. */
const parts: Readonly<Record<string, { readonly time: string; readonly half: 'am' | 'pm' }>> = {
	morning: { time: '08:00', half: 'am' },
	afternoon: { time: '15:00', half: 'pm' },
	evening: { time: '18:00', half: 'pm' },
	tonight: { time: '19:00', half: 'pm' },
	night: { time: '19:00', half: 'pm' }
};

const units: Readonly<Record<string, 'minutes' | 'hours' | 'days' | 'weeks'>> = {
	min: 'minutes',
	mins: 'minutes',
	minute: 'minutes',
	minutes: 'minutes',
	h: 'hours',
	hr: 'hours',
	hrs: 'hours',
	hour: 'hours',
	hours: 'hours',
	day: 'days',
	days: 'days',
	week: 'weeks',
	weeks: 'weeks'
};

/** A local time in words, seen from another: the same form in which a moment is shown everywhere. */
export const localWords = (local: LocalTime, here: LocalTime, style?: ClockStyle): string =>
	dayTime(Date.parse(`${local}Z`), 'UTC', Date.parse(`${here}Z`), style);

/** Where and how a moment is read. */
interface ReadHere {
	/** Instant, ms. */
	readonly now: number;
	readonly zone: string;
	readonly order: DateOrder;
	/** In which what could be meant is offered. */
	readonly style?: ClockStyle;
}

/** Years a dispatch may lie ahead: further off, a year is a slip of the finger. */
const yearsAhead = 10;

/**
 * Reads a moment as people type it: "fri 2:15pm", "tomorrow 7:20", "mar 12 at noon", "3/12 14:15",
 * "in 2 hours". Seen from `now` in a zone, and looking ahead: "fri" on a Friday afternoon is the next
 * one, and what is past is refused. Every word is accounted for; one that is not is named. Without a
 * time of day the one of `usual` is taken and `timeSaid` is false. Grammar: our own.
 */
export function readMoment(
	text: string,
	{ now, zone, order, style }: ReadHere,
	usual: LocalTime
): ReadMoment {
	const typed = text.trim();
	const refuse = (because: string, choices: readonly MomentChoice[] = []): ReadMoment => ({
		ok: false,
		why:
			choices.length > 0
				? because
				: `"${typed.slice(0, 40)}" cannot be read as a time. Say it like "fri 2:15pm", "tomorrow 7:20" or "mar 12 2 pm".${because ? ` ${because}` : ''}`,
		choices
	});
	if (typed === '' || typed.length > 100) return refuse('');
	const here = localOf(now, zone);
	const today = here.slice(0, 10);
	const said = new Said(typed.replace(/(\d{4}-\d\d-\d\d)T(?=\d)/, '$1 '));

	const later = said.try(() => readLater(said, now, zone));
	if (later !== null) {
		if (!said.done) return refuse(`Not understood: “${said.rest}”.`);
		return { ok: true, local: later, timeSaid: true };
	}

	const read = readParts(said, today, order);
	if ('why' in read) return refuse(read.why);
	const times = timesMeant(read.time, read.part, usual.slice(11));
	if (times.length === 0) return refuse('The time of day does not go with the part of the day.');
	const meant = localsMeant(read, times, here);
	if (meant.length === 0) return refuse('That is past. Choose a later time.');
	if (Number(meant[0]!.slice(0, 4)) > Number(today.slice(0, 4)) + yearsAhead) {
		return refuse(`The year ${meant[0]!.slice(0, 4)} is too far ahead.`);
	}
	if (meant.length > 1) {
		const choices = meant.map((local) => ({ local, words: localWords(local, here, style) }));
		return refuse(`Which is meant: ${choices.map((c) => c.words).join(' or ')}?`, choices);
	}
	return { ok: true, local: meant[0]!, timeSaid: read.time !== null || read.part !== null };
}

/** What was said, taken apart: at least one of these. */
interface SaidParts {
	readonly day: Day | null;
	readonly time: SaidTime | null;
	/** A part of the day: one of `parts`. */
	readonly part: string | null;
}

/** Takes what was said apart to its last word, or says which word it stops at; empty where nothing was said. */
function readParts(said: Said, today: string, order: DateOrder): SaidParts | { why: string } {
	let day: Day | null = null;
	let time: SaidTime | null = null;
	let part: string | null = null;
	while (!said.done) {
		if (said.take(',')) continue;
		if (day === null) {
			const read = readDay(said, today, order);
			if (read && 'why' in read) return read;
			if (read) {
				day = read;
				if (said.since(0).toLowerCase().endsWith('tonight')) part = 'tonight';
				continue;
			}
		}
		if (time === null && (time = takeTime(said)) !== null) continue;
		if (part === null && (part = takePart(said)) !== null) continue;
		if (/\b(ago|yesterday)\b/i.test(said.rest) || said.next === 'last')
			return { why: 'What is past cannot be planned.' };
		if (time !== null && /^(-|–|to|until|till)$/.test(said.next)) {
			return { why: 'That is a stretch of time. Say when it leaves.' };
		}
		return { why: `Not understood: “${said.rest}”.` };
	}
	return day === null && time === null && part === null ? { why: '' } : { day, time, part };
}

/** "in the morning", "at night", "afternoon"; null where none stands next. */
const takePart = (said: Said): string | null =>
	said.try(() => {
		if (said.take('in', 'the') || said.take('at') || said.take('on', 'the')) said.take('the');
		return said.takeAny('morning', 'afternoon', 'evening', 'night');
	});

/** The local times that may be meant and are still to come, each once, the likelier first. */
function localsMeant(
	{ day, time }: SaidParts,
	times: readonly string[],
	here: LocalTime
): LocalTime[] {
	const today = here.slice(0, 10);
	const days = [
		// "Friday midnight" is the night that ends it to most.
		...(day && time?.midnight ? [dayAfter(day.date)] : []),
		day?.date ?? today,
		...(day?.other === undefined ? [] : [day.other])
	];
	const found: LocalTime[] = [];
	for (const date of days) {
		for (const clock of times) {
			const local = `${date}T${clock}`;
			if (local > here) found.push(local);
			// "tue 7am" on a Tuesday at 8 means the next one, and "7am" that of tomorrow.
			else if (day === null) found.push(`${dayAfter(today)}T${clock}`);
			else if (day.byWeekday && date === today) found.push(`${dayAfter(date, 7)}T${clock}`);
		}
	}
	// Of two halves of today only the one that is still to come was meant.
	const ahead = day !== null && day.date === today ? found.filter((l) => l.startsWith(today)) : [];
	return [...new Set(ahead.length > 0 ? ahead : found)];
}

/** "in 2 hours", "in half an hour", "3 days from now": hours are exact, days keep the hour of the clock (as RFC 5545 section 3.3.6). */
function readLater(said: Said, now: number, zone: string): LocalTime | null {
	const begins = said.take('in');
	let amount: number | null;
	if (said.take('half', 'an') || said.take('half', 'a')) amount = 0.5;
	else if (said.takeAny('an', 'a')) amount = 1;
	else amount = said.figures(5) ?? said.number();
	if (amount === null || amount === 0) return null;
	const unit = units[said.next];
	if (!unit) return null;
	said.take(said.next);
	if (amount === 1 && unit === 'hours' && said.take('and', 'a', 'half')) amount = 1.5;
	if (!begins && said.takeAny('from now', 'ahead') === null) return null;
	if (unit === 'minutes' || unit === 'hours') {
		return localOf(now + amount * (unit === 'hours' ? 3_600_000 : 60_000), zone);
	}
	// Half a day is twelve hours; half a week ends at no hour that anybody means.
	if (!Number.isInteger(amount)) {
		return unit === 'days' ? localOf(now + amount * 24 * 3_600_000, zone) : null;
	}
	const here = localOf(now, zone);
	return `${dayAfter(here.slice(0, 10), amount * (unit === 'weeks' ? 7 : 1))}${here.slice(10)}`;
}

/** A day by its name or date; null where none stands next. */
function readDay(said: Said, today: string, order: DateOrder): Day | { why: string } | null {
	return said.try((): Day | { why: string } | null => {
		said.take('on');
		if (said.take('today') || said.take('tonight')) return { date: today, byWeekday: false };
		if (said.take('this')) {
			if (said.next in parts) return { date: today, byWeekday: false };
			const weekday = said.weekday();
			return weekday === null ? null : { date: ahead(today, weekday), byWeekday: true };
		}
		if (said.take('the', 'day', 'after', 'tomorrow') || said.take('day', 'after', 'tomorrow')) {
			return { date: dayAfter(today, 2), byWeekday: false };
		}
		if (said.takeAny('tomorrow', 'tmrw')) return { date: dayAfter(today), byWeekday: false };
		if (said.take('next')) {
			const weekday = said.weekday();
			if (weekday === null) return { why: `Not understood: “next ${said.rest}”. Say the day.` };
			const coming = ahead(today, weekday);
			// "next friday" on a Tuesday is this week's to some and the one after it to others.
			const monday = dayAfter(today, 1 - weekdayOf(today));
			const inNextWeek = dayAfter(monday, 6 + weekday);
			const date = coming === today ? dayAfter(coming, 7) : coming;
			return inNextWeek === date
				? { date, byWeekday: false }
				: { date: inNextWeek, byWeekday: false, other: date };
		}
		if (said.take('last')) {
			return said.weekday() === null ? null : { why: 'What is past cannot be planned.' };
		}
		const dated = takeDay(said, order);
		if (dated) {
			const placed = placeDay(dated, today);
			return 'why' in placed ? placed : { date: placed.date, byWeekday: false };
		}
		const weekday = said.weekday();
		return weekday === null ? null : { date: ahead(today, weekday), byWeekday: true };
	});
}

/** The next day of a weekday, today among them. */
const ahead = (today: string, weekday: number): string =>
	dayAfter(today, (weekday - weekdayOf(today) + 7) % 7);

const clock = (hour: number, minute: number): string =>
	`${String(hour).padStart(2, '0')}:${String(minute).padStart(2, '0')}`;

/** The times of day that may be meant, the likelier first: "at 2" is in the afternoon, "at 8" in the morning or the evening. */
function timesMeant(time: SaidTime | null, part: string | null, usual: string): string[] {
	if (time === null) return [part === null ? usual : parts[part]!.time];
	const { hour, minute, half, minutesSaid } = time;
	const own = clock(hour, minute);
	const inHalf = (h: 'am' | 'pm') => clock((hour % 12) + (h === 'pm' ? 12 : 0), minute);
	if (part !== null) {
		const wanted = parts[part]!.half;
		if (half === null) return [inHalf(wanted)];
		return (hour < 12 ? 'am' : 'pm') === wanted ? [own] : [];
	}
	if (half !== null || hour === 12) return [own];
	// As a clock shows it, a morning hour is one; before seven nobody is at school.
	if (minutesSaid && hour >= 7) return [own];
	return hour >= 7 ? [inHalf('am'), inHalf('pm')] : [inHalf('pm'), inHalf('am')];
}
