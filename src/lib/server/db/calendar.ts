import { sharedZone, type Clocks } from '../../core/time/clocks';
import type { ClockStyle } from '../../core/copy/clock-style';
import type { QuietBook } from '../../core/plan/reader-rules';
import {
	closureOn,
	isSchoolDay,
	type Closure,
	type SchoolCalendar
} from '../../core/time/school-days';
import { readDistrict, type District } from './district';
import { clocksOf, readSchoolsOwn, type SchoolsOwn } from './school-own';
import type { Query } from './open';
import type { SchoolEvent } from '../../core/time/school-event';
import type { Way } from '../../core/roster/way';
import type { TermRow } from './models/roster';

/** What the district and its schools have settled about time, ready for planning. */
export interface Times {
	/** Of the district's clock. */
	readonly zone: string;
	readonly clocks: Clocks;
	/** How a time of day is written. */
	readonly style: ClockStyle;
	readonly calendar: SchoolCalendar;
	readonly quiet: QuietBook;
	readonly pace: Readonly<Partial<Record<Way, number>>>;
	readonly loadLimit: number;
	/** Whether any school is held on a day (ISO date). */
	isSchoolDay(date: string): boolean;
	/** The same mark means that nothing of it has changed. */
	readonly mark: string;
}

export async function readCalendar(db: Query, district: District): Promise<SchoolCalendar> {
	return {
		weekdays: district.schoolWeekdays,
		terms: await db.all<Pick<TermRow, 'startsOn' | 'endsOn'>>(
			'SELECT starts_on AS startsOn, ends_on AS endsOn FROM term'
		),
		closures: await db.all<Closure>(
			'SELECT school_id AS schoolId, name, starts_on AS startsOn, ends_on AS endsOn FROM closure'
		)
	};
}

/** What is settled about time, as a district and its schools have it. */
export async function timesOf(db: Query, district: District, schools: SchoolsOwn): Promise<Times> {
	const calendar = await readCalendar(db, district);
	const clocks = clocksOf(district, schools);
	const { zone, quiet, quietDays, pace, loadLimit } = district;
	return {
		...{ zone, clocks, calendar, loadLimit, style: district.clock },
		pace: {
			...(pace.email === null ? {} : { email: pace.email }),
			...(pace.text === null ? {} : { text: pace.text })
		},
		isSchoolDay: (date) => isSchoolDay(calendar, date),
		quiet: {
			zone: (schoolIds) => sharedZone(clocks, schoolIds),
			hours(way, schoolIds) {
				const books =
					schoolIds.length === 0 ? [quiet] : schoolIds.map((id) => schools.get(id)?.quiet ?? quiet);
				return [...new Set(books.map((b) => (way === 'text' ? b.text : b.mail)))];
			},
			closed: (date, schoolIds) =>
				quietDays === 'closures'
					? closureOn(calendar, date, schoolIds) !== null
					: quietDays === 'all' && !isSchoolDay(calendar, date, schoolIds)
		},
		mark: JSON.stringify([district, calendar, [...schools]])
	};
}

export const readTimes = async (db: Query): Promise<Times> =>
	timesOf(db, await readDistrict(db), await readSchoolsOwn(db));

export const eventColumns = `id, uid, title, starts_local AS startsLocal, ends_local AS endsLocal, all_day AS allDay,
	starts_at AS startsAt, ends_at AS endsAt, place, school_ids AS schoolIds, section_ids AS sectionIds, state,
	made_by AS madeBy, changed_at AS changedAt, sequence`;
/** Whether an event waits for the sheet that it was put into the calendar with, in SQL: until then nobody outside sees it, and nothing hangs on it. `$time` is the instant, ms. */
export const waitsForSheet = `EXISTS (SELECT 1 FROM dispatch WHERE dispatch.id = school_event.dispatch_id
	AND dispatch.state = 'scheduled' AND (waits IS NOT NULL OR leaves_at > $time))`;

export type EventRow = Omit<SchoolEvent, 'allDay' | 'schoolIds' | 'sectionIds' | 'calledOff'> & {
	readonly allDay: number;
	readonly schoolIds: string;
	readonly sectionIds: string;
	readonly state: 'on' | 'called-off';
};
export const toEvent = ({ state, ...row }: EventRow): SchoolEvent => ({
	...row,
	allDay: row.allDay === 1,
	schoolIds: JSON.parse(row.schoolIds) as number[],
	sectionIds: JSON.parse(row.sectionIds) as number[],
	calledOff: state === 'called-off'
});

/** By which zone each event's times are meant: that of the schools it concerns, where they share one. */
export async function eventZones(
	db: Query,
	clocks: Clocks
): Promise<(event: Pick<SchoolEvent, 'schoolIds' | 'sectionIds'>) => string> {
	const of = new Map<number, number>();
	if (clocks.schools.size > 0)
		for (const { id, schoolId } of await db.all<{ id: number; schoolId: number }>(
			'SELECT section.id, course.school_id AS schoolId FROM section JOIN course ON course.id = course_id'
		))
			of.set(id, schoolId);
	return ({ schoolIds, sectionIds }) =>
		sharedZone(clocks, [...schoolIds, ...sectionIds.flatMap((id) => of.get(id) ?? [])]);
}

export async function eventOf(db: Query, id: number | null): Promise<SchoolEvent | null> {
	if (id === null) return null;
	const row = await db.one<EventRow>(`SELECT ${eventColumns} FROM school_event WHERE id = $id`, {
		id
	});
	return row ? toEvent(row) : null;
}
