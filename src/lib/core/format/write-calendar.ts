import ICAL from 'ical.js';
import type { LocalTime } from '../time/local';
import type { FileEvent } from './icalendar';
import { foldLine } from './fold-lines';

/** What is written out of an event. */
export interface WrittenEvent extends FileEvent {
	/** Instants, ms. */
	readonly startsAt: number;
	readonly endsAt: number;
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
	// Folded anew: the package's lines have an octet too many.
	const lines = calendar.toString().replace(/\r\n /g, '').split('\r\n');
	return lines.map((line) => `${foldLine(line)}\r\n`).join('');
}
