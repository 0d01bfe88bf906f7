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
	/** How often it was changed (section 3.8.7.4). */
	readonly sequence: number;
}

/** A calendar as it is written. */
export interface WrittenCalendar {
	readonly name: string;
	/** Only of one that is subscribed to (RFC 7986): what it is, where a person reads more, how often it is worth asking. */
	readonly subscribed?: {
		readonly description: string;
		readonly url: string;
		readonly refreshHours: number;
		/** Instant, ms. */
		readonly changedAt: number;
	};
}

/** A property of RFC 7986 that the package does not know, with its type. */
function put(calendar: ICAL.Component, name: string, type: string, value: unknown): void {
	const property = new ICAL.Property(name, calendar);
	property.resetType(type);
	property.setValue(value as string);
	calendar.addProperty(property);
}

/** Events as an iCalendar file (RFC 5545, with the names of RFC 7986): times in UTC, whole days as dates. */
export function writeCalendarFile(
	{ name, subscribed }: WrittenCalendar,
	events: readonly WrittenEvent[]
): string {
	const calendar = new ICAL.Component('vcalendar');
	calendar.updatePropertyWithValue('version', '2.0');
	calendar.updatePropertyWithValue('prodid', `-//Idle Courier//${name}//EN`);
	put(calendar, 'name', 'text', name);
	if (subscribed) {
		put(calendar, 'description', 'text', subscribed.description);
		put(calendar, 'url', 'uri', subscribed.url);
		put(
			calendar,
			'refresh-interval',
			'duration',
			ICAL.Duration.fromSeconds(subscribed.refreshHours * 3600)
		);
		put(
			calendar,
			'last-modified',
			'date-time',
			ICAL.Time.fromJSDate(new Date(subscribed.changedAt), true)
		);
	}
	const utc = (ms: number) => ICAL.Time.fromJSDate(new Date(ms), true);
	for (const event of events) {
		const v = new ICAL.Component('vevent');
		v.updatePropertyWithValue('uid', event.uid);
		v.updatePropertyWithValue('dtstamp', utc(event.changedAt));
		v.updatePropertyWithValue('last-modified', utc(event.changedAt));
		v.updatePropertyWithValue('sequence', event.sequence);
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
	const lines = calendar
		.toString()
		.replace(/\r\n /g, '')
		// Text is what it is anyway (RFC 7986 section 5.1), and not every reader takes its being said.
		.replace(/^NAME;VALUE=TEXT:/m, 'NAME:')
		.split('\r\n');
	return lines.map((line) => `${foldLine(line)}\r\n`).join('');
}
