import type { Roster } from '../../../core/roster/roster';
import { gradeRank } from '../../../core/roster/grade';
import { reachable } from '../../../core/plan/reachable';
import { studentsAllowed } from '../../access/allowed';
import { isAllowed, scope } from '../../access/may';
import { whereOf } from '../../access/rights';
import type { User } from '../../access/user';
import { districtDay, readDistrict } from '../../db/district';
import type { Db } from '../../db/open';
import { readRoster } from '../../db/roster';
import { pickedPlace } from './picked';
import type { Place, PlaceLine, PlacesView } from './types';

/** How well the families of a place can be reached. */
export function lineOf(roster: Roster, { key, name, students }: Place): PlaceLine {
	const { all, languages } = reachable(roster, students);
	return { key, name, ...all, languages: languages.filter((l) => l.language !== '').length };
}

/** The students of a section whom its users write to: those who are on the roster. */
const here = (roster: Roster, ids: readonly number[]) =>
	ids.filter((id) => roster.person(id)?.kind === 'student');

/** Every school, or the one of an office; every grade of one school; a teacher's own sections of the terms that run. */
export async function placesOf(
	db: Db,
	user: User,
	roster: Roster
): Promise<{ readonly what: PlacesView['what']; readonly places: readonly Place[] }> {
	const { whole, schools: seen } = whereOf(user, 'see');
	if (whole || seen.length > 1) {
		const schools = await db.all<{ id: number; name: string }>(
			'SELECT id, name FROM school ORDER BY name'
		);
		const places = schools
			.filter(({ id }) => whole || seen.includes(id))
			.map(({ id, name }) => ({
				...{ key: `school-${id}`, name, students: roster.studentsOfSchool(id) }
			}));
		return { what: 'schools', places: places.filter((p) => p.students.length > 0) };
	}
	const [school] = seen;
	if (school !== undefined) {
		const grades = new Map<string, number[]>();
		for (const id of roster.studentsOfSchool(school)) {
			const level = roster.person(id)!.gradeLevel ?? '';
			const list = grades.get(level);
			if (list) list.push(id);
			else grades.set(level, [id]);
		}
		const places = [...grades].sort(([a], [b]) => gradeRank(a) - gradeRank(b));
		return {
			what: 'grades',
			places: places.map(([level, students]) => ({
				key: `grade-${school}-${level}`,
				name: level === '' ? 'No grade' : `Grade ${level}`,
				students
			}))
		};
	}
	const today = await districtDay(db);
	const mine = scope(user).sections;
	const own = await db.all<{ id: number; name: string }>(
		`SELECT section.id, section.name FROM section_now AS section JOIN course ON course.id = course_id
		JOIN term ON term.id = term_id WHERE ends_on > $today AND ${mine.sql} ORDER BY starts_on, section.name`,
		{ today, ...mine.bind }
	);
	return {
		what: 'sections',
		places: own.map(({ id, name }) => ({
			...{ key: `section-${id}`, name, students: here(roster, roster.studentsIn(id)) }
		}))
	};
}

/** How well the families can be reached, place by place, of those a user looks after. */
export async function reachOfPlaces(db: Db, user: User): Promise<PlacesView> {
	const roster = await readRoster(db);
	const { what, places } = await placesOf(db, user, roster);
	const whole = await wholeOf(db, user, roster);
	return {
		what,
		lines: places.map((place) => lineOf(roster, place)),
		all: places.length > 1 ? lineOf(roster, whole) : null
	};
}

/** Everybody whom a user looks after. */
async function wholeOf(db: Db, user: User, roster: Roster): Promise<Place> {
	const own = await studentsAllowed(db, user, 'see');
	if (own !== null) return { key: 'mine', name: 'All of them', students: here(roster, own) };
	const schools = await db.all<{ id: number }>('SELECT id FROM school');
	const { name } = await readDistrict(db);
	return {
		...{ key: 'mine', name },
		students: schools.flatMap((s) => roster.studentsOfSchool(s.id))
	};
}

/** A place by its key, for a user who may see it; null else. */
export async function placeByKey(
	db: Db,
	user: User,
	roster: Roster,
	key: string
): Promise<Place | null> {
	if (key === 'mine') return wholeOf(db, user, roster);
	if (key.startsWith('sheet-')) return pickedPlace(db, user, roster, key);
	const [, kind, number, level] =
		/^(school|grade|section|group)-(\d{1,15})(?:-(.*))?$/.exec(key) ?? [];
	const id = Number(number);
	if (kind === 'school' || kind === 'grade') {
		const school = await db.one<{ name: string }>('SELECT name FROM school WHERE id = $id', { id });
		if (!school || !isAllowed(user, 'look-after', id)) return null;
		const students = roster.studentsOfSchool(id);
		if (kind === 'school') return { key, name: school.name, students };
		return {
			key,
			name: `${level === '' ? 'No grade' : `Grade ${level}`}, ${school.name}`,
			students: students.filter((s) => (roster.person(s)!.gradeLevel ?? '') === level)
		};
	}
	if (kind === 'section') {
		const { sql, bind } = scope(user).sections;
		const section = await db.one<{ name: string }>(
			`SELECT section.name FROM section JOIN course ON course.id = course_id WHERE section.id = $id AND ${sql}`,
			{ id, ...bind }
		);
		return section
			? { key, name: section.name, students: here(roster, roster.studentsIn(id)) }
			: null;
	}
	if (kind === 'group') {
		const { sql, bind } = scope(user).groups;
		const group = await db.one<{ name: string }>(
			`SELECT name FROM school_group WHERE id = $id AND ${sql}`,
			{ id, ...bind }
		);
		return group ? { key, name: group.name, students: roster.studentsOfGroup(id) } : null;
	}
	return null;
}
