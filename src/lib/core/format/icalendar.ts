import ICAL from 'ical.js';
import { DateTime, IANAZone } from 'luxon';
import { localOf, placeLocal, type LocalTime } from '../time/local';
import { timesOfRule } from '../time/recurrence';
import { groupBy } from '../group-by';

/** One event of an iCalendar file (RFC 5545), each date of a repetition by itself. */
export interface FileEvent {
	/** UID, with the date where it repeats: the same event again has the same. */
	readonly uid: string;
	readonly title: string;
	readonly place: string;
	readonly allDay: boolean;
	/** On the wall clock of the district's zone; the end is half-open. */
	readonly startsLocal: LocalTime;
	readonly endsLocal: LocalTime;
	readonly calledOff: boolean;
}

/** Something that could not be taken, and where. */
export interface FileProblem {
	/** "line 12" or the event's title. */
	readonly where: string;
	readonly text: string;
}

export interface CalendarFile {
	readonly events: readonly FileEvent[];
	readonly problems: readonly FileProblem[];
}

/** A property whose values are days, said to be days: many calendars leave that out (section 3.2.20 wants it). */
const saidAsDate = (line: string): string => {
	const days = /^(EXDATE|RDATE|DTSTART|DTEND)((?:;[^:]*)?):(\d{8}(?:,\d{8})*)$/i.exec(line);
	return days && !/;VALUE=/i.test(days[2]!) ? `${days[1]}${days[2]};VALUE=DATE:${days[3]}` : line;
};

/** Why an event is passed over, as words of ours. */
class Passed extends Error {}

/** Takes the dates that are added to a series (RDATE, RFC 5545 section 3.8.5.2) out of an event. The package forgets the start beside them, and gives one that the rule has as well twice. */
function takeAdded(vevent: ICAL.Component): { added: ICAL.Time[]; stretches: boolean } {
	const values = vevent.getAllProperties('rdate').flatMap((p) => p.getValues() as unknown[]);
	vevent.removeAllProperties('rdate');
	const added = values.filter((v): v is ICAL.Time => v instanceof ICAL.Time);
	return {
		added: added.sort((a, b) => a.compare(b)),
		stretches: added.length < values.length
	};
}

/** Takes the dates that are left out of a series (EXDATE, section 3.8.5.1) out of an event: times, or days, which many calendars write also where the series has times. */
function takeLeftOut(vevent: ICAL.Component): { has: (time: ICAL.Time) => boolean } {
	const values = vevent.getAllProperties('exdate').flatMap((p) => p.getValues() as ICAL.Time[]);
	vevent.removeAllProperties('exdate');
	const days = new Set(values.filter((v) => v.isDate).map((v) => v.toString().slice(0, 10)));
	const times = new Set(values.filter((v) => !v.isDate).map((v) => v.toUnixTime()));
	/** Of a series of whole days, a time leaves out the day it falls on. */
	const dayOfTime = new Set(values.filter((v) => !v.isDate).map((v) => v.toString().slice(0, 10)));
	return {
		has: (time) =>
			days.has(time.toString().slice(0, 10)) ||
			(time.isDate ? dayOfTime.has(time.toString().slice(0, 10)) : times.has(time.toUnixTime()))
	};
}

/** The dates of a series in order, each once: those of its rule, or its start, with those that are added. */
function* datesOf(event: ICAL.Event, added: readonly ICAL.Time[]): Generator<ICAL.Time, undefined> {
	const rule = event.isRecurring() ? event.iterator() : null;
	const waiting = [...added];
	let last = '';
	let next: ICAL.Time | null = rule ? rule.next() : event.startDate;
	while (next || waiting.length > 0) {
		const first: ICAL.Time =
			!next || (waiting[0] && waiting[0].compare(next) < 0) ? waiting.shift()! : next;
		if (first === next) next = rule ? rule.next() : null;
		const mark = first.isDate ? first.toString() : String(first.toUnixTime());
		if (mark !== last) yield first;
		last = mark;
	}
	return undefined;
}

/** What is wrong with a repetition before any date of it is looked for; null where nothing is. */
function ruleProblem(rule: string, start: ICAL.Time): string | null {
	const first = `${start.toString().slice(0, 10)}T${start.isDate ? '00:00' : start.toString().slice(11, 16)}`;
	if (start.year < 1900) return 'it begins before the year 1900';
	if (/FREQ=(SECONDLY|MINUTELY)/i.test(rule)) return 'it repeats within an hour';
	try {
		return timesOfRule(rule.toUpperCase(), first, 'UTC', 1).length > 0
			? null
			: 'its repetition comes to no date';
	} catch {
		return 'its repetition cannot be read';
	}
}

/** Bounds that keep a hostile or mistaken file from holding up everyone. */
const most = {
	characters: 3_000_000,
	perEvent: 400,
	events: 5_000,
	/** Dates looked at, of one repetition and of all of them. */
	steps: 60_000,
	allSteps: 300_000,
	problems: 200,
	/** The longest event, ms: a year and some. */
	length: 400 * 86_400_000
};

/** Content lines of RFC 5545 section 3.1, unfolded, with the number of the line each begins on. */
function contentLines(text: string): { number: number; line: string }[] {
	const lines: { number: number; line: string }[] = [];
	text.split(/\r\n|\n|\r/).forEach((line, i) => {
		const last = lines.at(-1);
		if (/^[ \t]/.test(line) && last) last.line += line.slice(1);
		else if (line !== '') lines.push({ number: i + 1, line });
	});
	return lines;
}

/**
 * Reads an iCalendar file. Broken lines, events without a start, unknown zones and repetitions
 * without measure are named and passed over; the rest is taken. Only dates within the half-open
 * `window` (instants, ms) are given.
 */
export function readCalendarFile(
	text: string,
	zone: string,
	window: { readonly from: number; readonly to: number }
): CalendarFile {
	const problems: FileProblem[] = [];
	const problem = (where: string, said: string) => {
		if (problems.length < most.problems) problems.push({ where, text: said });
	};
	if (text.length > most.characters) {
		problem('the file', 'is over 3 MB. Export a shorter stretch of time.');
		return { events: [], problems };
	}
	const lines = contentLines(text.replace(/^\uFEFF/, '')).filter(({ number, line }) => {
		if (/^[A-Za-z0-9-]+[;:]/.test(line)) return true;
		problem(
			`line ${number}`,
			`"${line.slice(0, 40)}" is no line of a calendar and is passed over.`
		);
		return false;
	});
	if (!/^BEGIN:VCALENDAR/i.test(lines[0]?.line ?? '')) {
		problem('line 1', 'This is no iCalendar file: it does not begin with BEGIN:VCALENDAR.');
		return { events: [], problems };
	}
	let calendar: ICAL.Component;
	try {
		calendar = new ICAL.Component(ICAL.parse(lines.map((l) => saidAsDate(l.line)).join('\r\n')));
	} catch {
		problem('the file', 'cannot be read to its end: it is cut off, or broken in the middle.');
		return { events: [], problems };
	}
	for (const vtimezone of calendar.getAllSubcomponents('vtimezone')) {
		try {
			ICAL.TimezoneService.register(new ICAL.Timezone(vtimezone));
		} catch {
			// An event that names it is told of below.
		}
	}
	const own = new Set(
		calendar.getAllSubcomponents('vtimezone').map((z) => String(z.getFirstPropertyValue('tzid')))
	);
	const events: FileEvent[] = [];
	/** The instant of a time of the file, or null where its zone is not known. */
	const instant = (time: ICAL.Time, tzid: string | null): number | null => {
		const local = `${time.toString().slice(0, 10)}T${time.isDate ? '00:00' : time.toString().slice(11, 16)}`;
		if (time.isDate) return placeLocal(local, zone).at;
		if (time.zone === ICAL.Timezone.utcTimezone) return time.toUnixTime() * 1000;
		// RFC 5545 section 3.3.5: without a zone it is wall time wherever one is; here that is the district's.
		if (tzid === null) return placeLocal(local, zone).at;
		if (IANAZone.isValidZone(tzid)) return placeLocal(local, tzid).at;
		return own.has(tzid) && time.zone?.tzid === tzid ? time.toUnixTime() * 1000 : null;
	};
	const vevents = calendar.getAllSubcomponents('vevent');
	/** Dates of each repetition that have an event of their own, by UID. */
	const ownDates = groupBy(
		vevents.filter((v) => v.hasProperty('recurrence-id')),
		(v) => String(v.getFirstPropertyValue('uid'))
	);
	let allSteps = 0;
	for (const vevent of vevents) {
		const title = String(vevent.getFirstPropertyValue('summary') ?? '').trim() || 'No title';
		try {
			const start = vevent.getFirstProperty('dtstart');
			if (!start) {
				problem(title, 'has no start and is passed over.');
				continue;
			}
			const rule = vevent.getFirstPropertyValue('rrule');
			if (rule) {
				const why = ruleProblem(String(rule), start.getFirstValue() as ICAL.Time);
				if (why !== null) throw new Passed(why);
			}
			const { added, stretches } = takeAdded(vevent);
			if (stretches)
				problem(title, 'adds stretches of time of another length; these are passed over.');
			const out = takeLeftOut(vevent);
			// With none given, it would look through all others for each.
			const event = new ICAL.Event(vevent, { exceptions: [] });
			const tzid = start.getFirstParameter('tzid') || null;
			const length = event.duration.toSeconds() * 1000;
			if (!(Math.abs(length) <= most.length)) throw new Passed('it is longer than 400 days');
			const put = (time: ICAL.Time, key: string) => {
				const startsAt = instant(time, tzid);
				if (startsAt === null) {
					throw new Passed(`its zone "${(tzid ?? '').slice(0, 40)}" is not known`);
				}
				const allDay = time.isDate;
				const days = Math.max(1, Math.round(length / 86_400_000));
				const endsAt = allDay
					? DateTime.fromMillis(startsAt, { zone }).plus({ days }).toMillis()
					: startsAt + length;
				if (endsAt < startsAt) throw new Passed('it ends before it starts');
				if (endsAt < window.from || startsAt >= window.to) return;
				events.push({
					uid: `${event.uid || title}${key}`.slice(0, 400),
					title: title.slice(0, 200),
					place: String(event.location ?? '').slice(0, 200),
					allDay,
					startsLocal: localOf(startsAt, zone),
					endsLocal: localOf(endsAt, zone),
					calledOff:
						String(vevent.getFirstPropertyValue('status') ?? '').toUpperCase() === 'CANCELLED'
				});
			};
			if (vevent.hasProperty('recurrence-id')) {
				put(event.startDate, `#${vevent.getFirstPropertyValue('recurrence-id')!.toString()}`);
				continue;
			}
			if (!rule && added.length === 0) {
				put(event.startDate, '');
				continue;
			}
			const changed = new Set(
				(ownDates.get(event.uid) ?? []).map((v) =>
					v.getFirstPropertyValue('recurrence-id')!.toString()
				)
			);
			const dates = datesOf(event, added);
			let taken = 0;
			for (let step = 0; ; step += 1) {
				const { value: next } = dates.next();
				if (!next) break;
				if (next.toJSDate().getTime() > window.to + 86_400_000) break;
				allSteps += 1;
				if (taken >= most.perEvent) {
					problem(
						title,
						`repeats more than ${most.perEvent} times in this stretch; only the first are taken.`
					);
					break;
				}
				if (step >= most.steps || allSteps >= most.allSteps) {
					problem(title, 'begins too long ago to be counted to this stretch, and is passed over.');
					break;
				}
				if (changed.has(next.toString()) || out.has(next)) continue;
				const before = events.length;
				put(next, `#${next.toString()}`);
				taken += events.length - before;
			}
		} catch (error) {
			// What the package says of it is for its makers.
			const why = error instanceof Passed ? error.message : 'its times cannot be read';
			problem(title, `is passed over: ${why}.`);
		}
		if (events.length > most.events) {
			problem('the file', `has more than ${most.events} events; only the first are taken.`);
			return { events: events.slice(0, most.events), problems };
		}
	}
	return { events, problems };
}

/** What is written out of an event. */
export interface WrittenEvent {
	readonly uid: string;
	readonly title: string;
	readonly place: string;
	readonly allDay: boolean;
	readonly startsLocal: LocalTime;
	readonly endsLocal: LocalTime;
	readonly startsAt: number;
	readonly endsAt: number;
	readonly calledOff: boolean;
	readonly changedAt: number;
}

/** Events as an iCalendar file (RFC 5545): times in UTC, whole days as dates. */
export function writeCalendarFile(name: string, events: readonly WrittenEvent[]): string {
	const calendar = new ICAL.Component('vcalendar');
	calendar.updatePropertyWithValue('version', '2.0');
	calendar.updatePropertyWithValue('prodid', `-//Idle Courier//${name}//EN`);
	const utc = (ms: number) => ICAL.Time.fromJSDate(new Date(ms), true);
	for (const event of events) {
		const v = new ICAL.Component('vevent');
		v.updatePropertyWithValue('uid', event.uid);
		v.updatePropertyWithValue('dtstamp', utc(event.changedAt));
		v.updatePropertyWithValue('summary', event.title);
		if (event.place) v.updatePropertyWithValue('location', event.place);
		const at = (local: LocalTime, ms: number) =>
			event.allDay ? ICAL.Time.fromDateString(local.slice(0, 10)) : utc(ms);
		v.updatePropertyWithValue('dtstart', at(event.startsLocal, event.startsAt));
		v.updatePropertyWithValue('dtend', at(event.endsLocal, event.endsAt));
		if (event.calledOff) v.updatePropertyWithValue('status', 'CANCELLED');
		calendar.addSubcomponent(v);
	}
	return `${calendar.toString()}\r\n`;
}
