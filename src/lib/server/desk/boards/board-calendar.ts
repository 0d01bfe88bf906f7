import { textWithoutNames } from '../../../core/copy/without-names';
import { dayAfter } from '../../../core/time/local';
import { writeCalendarFile, type WrittenEvent } from '../../../core/format/write-calendar';
import { eventColumns, toEvent, waitsForSheet, type EventRow } from '../../db/calendar';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import type { Query } from '../../db/open';
import { namesOnFile } from '../../db/person-names';
import { placeSchool, type NamedPlace } from './places';

/** So far back events stay in a calendar that is subscribed to, ms: a term and some. */
const backMs = 200 * 86_400_000;
/** How often programs are told to ask, hours. */
const refreshHours = 4;

/** What of the calendar a place sees: the whole district’s, its school’s, and its own. */
async function eventsOf(db: Query, place: NamedPlace): Promise<WrittenEvent[]> {
	const from = (await now(db)) - backMs;
	const school = placeSchool(place);
	const section = place.kind === 'section' ? place.id : null;
	const rows = await db.all<EventRow>(
		`SELECT ${eventColumns} FROM school_event WHERE ends_at > $from AND NOT ${waitsForSheet} AND (
			(school_ids = '[]' AND section_ids = '[]')
			OR EXISTS (SELECT 1 FROM json_each(school_ids) AS s WHERE s.value = $school)
			OR EXISTS (SELECT 1 FROM json_each(section_ids) AS s WHERE s.value = $section))
		ORDER BY starts_at, id`,
		{ from, school, section, time: await now(db) }
	);
	return rows.map(toEvent);
}

interface ClosureOut {
	readonly uid: string;
	readonly name: string;
	readonly startsOn: string;
	readonly endsOn: string;
	readonly sequence: number;
	readonly changedAt: number;
	readonly gone: 0 | 1;
}

/** Days without school of a place, and those that were taken out again, as events of whole days. */
async function closuresOf(db: Query, place: NamedPlace): Promise<WrittenEvent[]> {
	const from = new Date((await now(db)) - backMs).toISOString().slice(0, 10);
	const columns =
		'uid, name, starts_on AS startsOn, ends_on AS endsOn, sequence, changed_at AS changedAt';
	const here = 'ends_on > $from AND (school_id IS NULL OR school_id = $school)';
	const rows = await db.all<ClosureOut>(
		`SELECT ${columns}, 0 AS gone FROM closure WHERE ${here}
		UNION ALL SELECT ${columns}, 1 FROM closure_gone WHERE ${here} ORDER BY startsOn, uid`,
		{ from, school: placeSchool(place) }
	);
	return rows.map(({ uid, name, startsOn, endsOn, sequence, changedAt, gone }) => {
		const last = endsOn > startsOn ? endsOn : dayAfter(startsOn);
		return {
			...{ uid, title: name, place: '', allDay: true, calledOff: gone === 1, sequence, changedAt },
			...{ startsLocal: `${startsOn}T00:00`, endsLocal: `${last}T00:00` },
			...{ startsAt: Date.parse(startsOn), endsAt: Date.parse(last) }
		};
	});
}

/** A calendar as it is asked for again and again: written only where it has changed. */
export interface CalendarOut {
	/** What it rests on: the same mark means the same calendar. */
	readonly mark: string;
	/** When it was last changed (instant, ms). */
	readonly changedAt: number;
	readonly write: () => string;
}

/** The events and days without school of a place, as a calendar to subscribe to; `link` is where a person reads more. Where `open` to anybody, nobody is named in it. */
export async function boardCalendar(
	db: Query,
	place: NamedPlace,
	{ link, open }: { readonly link: string; readonly open: boolean }
): Promise<CalendarOut> {
	const all = [...(await eventsOf(db, place)), ...(await closuresOf(db, place))];
	const isName = open ? await namesOnFile(db) : null;
	const events = isName
		? all.map((e) => ({
				...e,
				title: textWithoutNames(e.title, isName),
				place: textWithoutNames(e.place, isName)
			}))
		: all;
	const { name } = await readDistrict(db);
	const changedAt = events.reduce((latest, e) => Math.max(latest, e.changedAt), 0);
	const title = place.kind === 'district' ? name : `${place.name}, ${name}`;
	return {
		mark: JSON.stringify([title, link, events]),
		changedAt,
		write: () =>
			writeCalendarFile(
				{
					name: title,
					subscribed: {
						...{ url: link, refreshHours, changedAt },
						description: `Events and days without school: ${title}`
					}
				},
				events
			)
	};
}
