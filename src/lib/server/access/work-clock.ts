import { zoneOf } from '../../core/time/clocks';
import { dayPartsOf, type DayPart } from '../../core/time/zone';
import { clocksOf, readSchoolsOwn } from '../db/school-own';
import { readDistrict } from '../db/district';
import type { Query } from '../db/open';
import { scope } from './may';
import { whereOf } from './rights';
import type { User } from './user';

/** The school that somebody works at, where it is one alone: its clock is theirs. Null for whoever works at several, or for the district. */
export async function workSchool(db: Query, user: User): Promise<number | null> {
	const { whole, schools } = whereOf(user, 'see');
	if (whole) return null;
	const { sql, bind } = scope(user).sections;
	const rows = await db.all<{ schoolId: number }>(
		`SELECT DISTINCT course.school_id AS schoolId FROM section_now AS section
		JOIN course ON course.id = course_id WHERE ${sql} LIMIT 2`,
		bind
	);
	const all = new Set([...schools, ...rows.map((r) => r.schoolId)]);
	return all.size === 1 ? [...all][0]! : null;
}

/** The clock that somebody works by, and how their day is parted. */
export interface WorkClock {
	/** IANA name of its zone. */
	readonly zone: string;
	readonly parts: readonly DayPart[];
}

/** The clock that somebody works by: their school's, else the district's. */
export async function workClock(db: Query, user: User): Promise<WorkClock> {
	const district = await readDistrict(db);
	const schools = await readSchoolsOwn(db);
	// Where no school has a time of its own nobody has to be asked where they work.
	const school = schools.size === 0 ? null : await workSchool(db, user);
	const marks = (school === null ? null : schools.get(school)?.marks) ?? district.marks;
	return { zone: zoneOf(clocksOf(district, schools), school), parts: dayPartsOf(marks) };
}

export const workZone = async (db: Query, user: User): Promise<string> =>
	(await workClock(db, user)).zone;
