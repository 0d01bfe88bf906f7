import ICAL from 'ical.js';
import { DateTime, IANAZone } from 'luxon';
import { localOf, placeLocal, type LocalTime } from '../time/local';
import { groupBy } from '../group-by';
import { datesOf, ruleProblem, takeAdded, takeLeftOut } from './calendar-series';

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

/** Tells what could not be taken, and where. */
type Tell = (where: string, text: string) => void;

/** The calendar of a file; null, and told, where it is none. Lines that are none of a calendar are passed over. */
function opened(text: string, tell: Tell): ICAL.Component | null {
	if (text.length > most.characters) {
		tell('the file', 'is over 3 MB. Export a shorter stretch of time.');
		return null;
	}
	const lines = contentLines(text.replace(/^\uFEFF/, '')).filter(({ number, line }) => {
		if (/^[A-Za-z0-9-]+[;:]/.test(line)) return true;
		tell(`line ${number}`, `"${line.slice(0, 40)}" is no line of a calendar and is passed over.`);
		return false;
	});
	if (!/^BEGIN:VCALENDAR/i.test(lines[0]?.line ?? '')) {
		tell('line 1', 'This is no iCalendar file: it does not begin with BEGIN:VCALENDAR.');
		return null;
	}
	try {
		return new ICAL.Component(ICAL.parse(lines.map((l) => saidAsDate(l.line)).join('\r\n')));
	} catch {
		tell('the file', 'cannot be read to its end: it is cut off, or broken in the middle.');
		return null;
	}
}

/** The instant of a time of the file by its zone's name, or null where that zone is not known. */
type InstantOf = (time: ICAL.Time, tzid: string | null) => number | null;

/** How times of a calendar are placed: by the zones it brings along, by those that are known, else by the district's. */
function placing(calendar: ICAL.Component, zone: string): InstantOf {
	const own = new Set<string>();
	for (const vtimezone of calendar.getAllSubcomponents('vtimezone')) {
		own.add(String(vtimezone.getFirstPropertyValue('tzid')));
		try {
			ICAL.TimezoneService.register(new ICAL.Timezone(vtimezone));
		} catch {
			// An event that names it is told of.
		}
	}
	return (time, tzid) => {
		const local = `${time.toString().slice(0, 10)}T${time.isDate ? '00:00' : time.toString().slice(11, 16)}`;
		if (time.isDate) return placeLocal(local, zone).at;
		if (time.zone === ICAL.Timezone.utcTimezone) return time.toUnixTime() * 1000;
		// RFC 5545 section 3.3.5: without a zone it is wall time wherever one is; here that is the district's.
		if (tzid === null) return placeLocal(local, zone).at;
		if (IANAZone.isValidZone(tzid)) return placeLocal(local, tzid).at;
		return own.has(tzid) && time.zone?.tzid === tzid ? time.toUnixTime() * 1000 : null;
	};
}

/** What the events of one file are read with, and what they have come to so far. */
interface Reading {
	readonly zone: string;
	readonly window: { readonly from: number; readonly to: number };
	readonly tell: Tell;
	readonly instant: InstantOf;
	/** Dates of each repetition that have an event of their own, by UID. */
	readonly ownDates: ReadonlyMap<string, readonly ICAL.Component[]>;
	readonly events: FileEvent[];
	/** Dates looked at, of all repetitions. */
	steps: number;
}

const titleOf = (vevent: ICAL.Component): string =>
	String(vevent.getFirstPropertyValue('summary') ?? '').trim() || 'No title';

/** How one date of an event is put among the others, where it lies in the window. */
function putting(reading: Reading, vevent: ICAL.Component, event: ICAL.Event) {
	const { zone, window, instant, events } = reading;
	const title = titleOf(vevent);
	const tzid = vevent.getFirstProperty('dtstart')?.getFirstParameter('tzid') || null;
	const length = event.duration.toSeconds() * 1000;
	if (!(Math.abs(length) <= most.length)) throw new Passed('it is longer than 400 days');
	return (time: ICAL.Time, key: string): void => {
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
			calledOff: String(vevent.getFirstPropertyValue('status') ?? '').toUpperCase() === 'CANCELLED'
		});
	};
}

/** Takes the dates of a series that lie in the window, as far as there is measure in them. */
function takeSeries(
	reading: Reading,
	event: ICAL.Event,
	{ added, out }: { added: readonly ICAL.Time[]; out: ReturnType<typeof takeLeftOut> },
	{ title, put }: { title: string; put: (time: ICAL.Time, key: string) => void }
): void {
	const { events, tell, window } = reading;
	const changed = new Set(
		(reading.ownDates.get(event.uid) ?? []).map((v) =>
			v.getFirstPropertyValue('recurrence-id')!.toString()
		)
	);
	const dates = datesOf(event, added);
	let taken = 0;
	for (let step = 0; ; step += 1) {
		const { value: next } = dates.next();
		if (!next || next.toJSDate().getTime() > window.to + 86_400_000) return;
		reading.steps += 1;
		if (taken >= most.perEvent) {
			tell(
				title,
				`repeats more than ${most.perEvent} times in this stretch; only the first are taken.`
			);
			return;
		}
		if (step >= most.steps || reading.steps >= most.allSteps) {
			tell(title, 'begins too long ago to be counted to this stretch, and is passed over.');
			return;
		}
		if (changed.has(next.toString()) || out.has(next)) continue;
		const before = events.length;
		put(next, `#${next.toString()}`);
		taken += events.length - before;
	}
}

/** Takes an event with all its dates. Throws {@link Passed} where it cannot be taken. */
function takeEvent(reading: Reading, vevent: ICAL.Component): void {
	const title = titleOf(vevent);
	const start = vevent.getFirstProperty('dtstart');
	if (!start) {
		reading.tell(title, 'has no start and is passed over.');
		return;
	}
	const rule = vevent.getFirstPropertyValue('rrule');
	if (rule) {
		const why = ruleProblem(String(rule), start.getFirstValue() as ICAL.Time);
		if (why !== null) throw new Passed(why);
	}
	const { added, stretches } = takeAdded(vevent);
	if (stretches)
		reading.tell(title, 'adds stretches of time of another length; these are passed over.');
	const out = takeLeftOut(vevent);
	// With none given, it would look through all others for each.
	const event = new ICAL.Event(vevent, { exceptions: [] });
	const put = putting(reading, vevent, event);
	if (vevent.hasProperty('recurrence-id')) {
		put(event.startDate, `#${vevent.getFirstPropertyValue('recurrence-id')!.toString()}`);
	} else if (!rule && added.length === 0) put(event.startDate, '');
	else takeSeries(reading, event, { added, out }, { title, put });
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
	const tell: Tell = (where, said) => {
		if (problems.length < most.problems) problems.push({ where, text: said });
	};
	const calendar = opened(text, tell);
	if (!calendar) return { events: [], problems };
	const vevents = calendar.getAllSubcomponents('vevent');
	const reading: Reading = {
		zone,
		window,
		tell,
		instant: placing(calendar, zone),
		ownDates: groupBy(
			vevents.filter((v) => v.hasProperty('recurrence-id')),
			(v) => String(v.getFirstPropertyValue('uid'))
		),
		events: [],
		steps: 0
	};
	for (const vevent of vevents) {
		try {
			takeEvent(reading, vevent);
		} catch (error) {
			// What the package says of it is for its makers.
			const why = error instanceof Passed ? error.message : 'its times cannot be read';
			tell(titleOf(vevent), `is passed over: ${why}.`);
		}
		if (reading.events.length > most.events) {
			tell('the file', `has more than ${most.events} events; only the first are taken.`);
			return { events: reading.events.slice(0, most.events), problems };
		}
	}
	return { events: reading.events, problems };
}
