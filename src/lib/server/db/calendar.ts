import type { QuietBook } from '../../core/plan/reader-rules';
import {
	closureOn,
	isSchoolDay,
	type Closure,
	type SchoolCalendar
} from '../../core/time/school-days';
import { quietSchema, readDistrict, type District } from './district';
import type { Query } from './open';
import type { SchoolEvent } from '../../core/time/school-event';
import type { Way } from '../../core/roster/way';
import type { TermRow } from './models/roster';
import type { SchoolQuietRow } from './models/calendar';

/** What the district and its schools have settled about time, ready for planning. */
export interface Times {
	readonly zone: string;
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

/** What is settled about time, as a district has it. */
export async function timesOf(db: Query, district: District): Promise<Times> {
	const calendar = await readCalendar(db, district);
	const schools = await db.all<Pick<SchoolQuietRow, 'quiet'> & { id: SchoolQuietRow['schoolId'] }>(
		'SELECT school_id AS id, quiet FROM school_quiet'
	);
	const own = new Map(schools.map((s) => [s.id, quietSchema.parse(JSON.parse(s.quiet))]));
	const { zone, quiet, quietDays, pace, loadLimit } = district;
	return {
		zone,
		calendar,
		loadLimit,
		pace: {
			...(pace.email === null ? {} : { email: pace.email }),
			...(pace.text === null ? {} : { text: pace.text })
		},
		isSchoolDay: (date) => isSchoolDay(calendar, date),
		quiet: {
			zone,
			hours(way, schoolIds) {
				const books =
					schoolIds.length === 0 ? [quiet] : schoolIds.map((id) => own.get(id) ?? quiet);
				return [...new Set(books.map((b) => (way === 'text' ? b.text : b.mail)))];
			},
			closed: (date, schoolIds) =>
				quietDays === 'closures'
					? closureOn(calendar, date, schoolIds) !== null
					: quietDays === 'all' && !isSchoolDay(calendar, date, schoolIds)
		},
		mark: JSON.stringify([district, calendar, schools])
	};
}

export const readTimes = async (db: Query): Promise<Times> => timesOf(db, await readDistrict(db));

export const eventColumns = `id, uid, title, starts_local AS startsLocal, ends_local AS endsLocal, all_day AS allDay,
	starts_at AS startsAt, ends_at AS endsAt, place, school_ids AS schoolIds, section_ids AS sectionIds, state,
	made_by AS madeBy, changed_at AS changedAt`;
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

export async function eventOf(db: Query, id: number | null): Promise<SchoolEvent | null> {
	if (id === null) return null;
	const row = await db.one<EventRow>(`SELECT ${eventColumns} FROM school_event WHERE id = $id`, {
		id
	});
	return row ? toEvent(row) : null;
}
