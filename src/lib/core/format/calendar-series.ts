import ICAL from 'ical.js';
import { timesOfRule } from '../time/recurrence';

/** Takes the dates that are added to a series (RDATE, RFC 5545 section 3.8.5.2) out of an event. The package forgets the start beside them, and gives one that the rule has as well twice. */
export function takeAdded(vevent: ICAL.Component): { added: ICAL.Time[]; stretches: boolean } {
	const values = vevent.getAllProperties('rdate').flatMap((p) => p.getValues() as unknown[]);
	vevent.removeAllProperties('rdate');
	const added = values.filter((v): v is ICAL.Time => v instanceof ICAL.Time);
	return {
		added: added.sort((a, b) => a.compare(b)),
		stretches: added.length < values.length
	};
}

/** Takes the dates that are left out of a series (EXDATE, section 3.8.5.1) out of an event: times, or days, which many calendars write also where the series has times. */
export function takeLeftOut(vevent: ICAL.Component): { has: (time: ICAL.Time) => boolean } {
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
export function* datesOf(
	event: ICAL.Event,
	added: readonly ICAL.Time[]
): Generator<ICAL.Time, undefined> {
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
export function ruleProblem(rule: string, start: ICAL.Time): string | null {
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
