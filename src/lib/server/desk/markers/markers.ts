import type { Roster } from '../../../core/roster/roster';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { districtDay } from '../../db/district';
import { markerStands, marksOf } from '../../db/markers';
import type { MarkedRow, MarkerRow } from '../../db/models/roster';
import type { Db, Query } from '../../db/open';
import { readRoster } from '../../db/roster';
import { placesOf } from '../places/place';
import { sectionList, sectionName } from '../places/sections';
import type { Place } from '../places/types';
import { mayGiveUp } from './marking';
import type { MarkedStudent, MarkerLine, MarkerPlace, MarkerView } from './types';

const columns = `marker.id, marker.name, marker.kind, short_name AS school, term.name AS term,
	marker.school_id AS schoolId, marker.made_by AS madeBy, marker.made_at AS madeAt, marker.gone_at AS goneAt`;
const joined = `marker LEFT JOIN school ON school.id = marker.school_id LEFT JOIN term ON term.id = marker.term_id`;

type Row = Pick<MarkerRow, 'id' | 'name' | 'kind' | 'schoolId' | 'madeBy' | 'madeAt' | 'goneAt'> &
	Pick<MarkerLine, 'school' | 'term'>;

/** The markers that a user can use today, by name. */
export async function markerList(db: Db, user: User): Promise<MarkerLine[]> {
	const [mine, stands] = [scope(user).markers, await markerStands(db)];
	const rows = await db.all<Row>(
		`SELECT ${columns} FROM ${joined} WHERE ${mine.sql} AND ${stands.sql}
		ORDER BY marker.name, marker.id LIMIT 500`,
		{ ...mine.bind, ...stands.bind }
	);
	const countOf = await counts(db, user);
	return rows.map(({ id, name, kind, school, term, schoolId }) => ({
		...{ id, name, kind, school, term },
		...countOf(id, schoolId)
	}));
}

/** Of a user's own students, how many have each marker and how many could: asked once for all markers. */
async function counts(
	db: Query,
	user: User
): Promise<(id: number, schoolId: number | null) => Pick<MarkerLine, 'have' | 'of'>> {
	const { sql, bind } = scope(user).people('person.id');
	const have = new Map(
		(
			await db.all<{ id: number; n: number }>(
				`SELECT marker_id AS id, count(*) AS n FROM marked JOIN marker ON marker.id = marker_id
				JOIN person_now AS person ON person.id = student_id
				WHERE value IS NOT NULL AND (marker.school_id IS NULL OR person.school_id = marker.school_id) AND ${sql}
				GROUP BY marker_id`,
				bind
			)
		).map((row) => [row.id, row.n])
	);
	const schools = await db.all<{ schoolId: number | null; n: number }>(
		`SELECT school_id AS schoolId, count(*) AS n FROM person_now AS person
		WHERE kind = 'student' AND ${sql} GROUP BY school_id`,
		bind
	);
	return (id, schoolId) => ({
		have: have.get(id) ?? 0,
		of: schools.reduce(
			(sum, s) => sum + (schoolId === null || s.schoolId === schoolId ? s.n : 0),
			0
		)
	});
}

/** What is asked for of a marker: one section's list, or sections by name. */
export interface MarkerAsked {
	readonly sectionId: number | null;
	readonly find: string;
}

/** A marker with who has it where; null where the user may not see it. */
export async function markerView(
	db: Db,
	user: User,
	id: number,
	{ sectionId, find }: MarkerAsked
): Promise<MarkerView | null> {
	const mine = scope(user).markers;
	const stands = await markerStands(db);
	const row = await db.one<Row & { stands: number; maker: string }>(
		`SELECT ${columns}, ${stands.sql} AS stands, given_name || ' ' || family_name AS maker
		FROM ${joined} JOIN person ON person.id = marker.made_by WHERE marker.id = $id AND ${mine.sql}`,
		{ id, ...mine.bind, ...stands.bind }
	);
	if (!row) return null;
	const { name, kind, school, term, schoolId, madeBy, madeAt } = row;
	const roster = await readRoster(db);
	const marks = (await marksOf(db, [id])).get(id)!;
	const within = (student: number) =>
		schoolId === null || roster.person(student)?.schoolId === schoolId;
	const placeOf = ({ key, name: placeName, students }: Place): MarkerPlace => {
		const could = students.filter(within);
		return {
			key,
			name: placeName,
			sectionId: key.startsWith('section-') ? Number(key.slice('section-'.length)) : null,
			have: could.filter((s) => marks.has(s)).length,
			of: could.length
		};
	};
	const { what, places } = await placesOf(db, user, roster);
	const sections = what === 'sections' ? [] : await sectionsShown(db, user, id, find);
	return {
		...{ id, name, kind, school, term, madeAt, madeBy: row.maker },
		...(await counts(db, user))(id, schoolId),
		ended:
			row.stands === 1 ? null : row.goneAt === null ? `It ended with ${term}.` : 'It was given up.',
		places: places.map(placeOf).filter((p) => p.of > 0),
		sections: sections.map((s) =>
			placeOf({
				key: `section-${s.id}`,
				name: [s.name, s.school].join(', '),
				students: studentsHere(roster, s.id)
			})
		),
		section:
			sectionId === null ? null : await sectionMarks(db, user, roster, { id, within }, sectionId),
		mayGiveUp: row.stands === 1 && mayGiveUp(user, { madeBy, schoolId })
	};
}

/** Sections that a search has found; without one those of running terms in which most students have the marker. */
async function sectionsShown(
	db: Db,
	user: User,
	id: number,
	find: string
): Promise<readonly { readonly id: number; readonly name: string; readonly school: string }[]> {
	if (find.trim() !== '')
		return (await sectionList(db, user, { term: 0, q: find, page: 1 })).lines.slice(0, 20);
	const { sql, bind } = scope(user).sections;
	return db.all(
		`SELECT section.id, section.name, short_name AS school FROM section_now AS section
		JOIN course ON course.id = course_id JOIN school ON school.id = course.school_id
		JOIN term ON term.id = term_id JOIN enrolment_now ON section_id = section.id
		JOIN marked ON marked.student_id = enrolment_now.student_id AND marker_id = $id AND value IS NOT NULL
		WHERE starts_on <= $today AND ends_on > $today AND ${sql}
		GROUP BY section.id ORDER BY count(*) DESC, section.name, section.id LIMIT 20`,
		{ id, today: await districtDay(db), ...bind }
	);
}

const studentsHere = (roster: Roster, sectionId: number) =>
	roster.studentsIn(sectionId).filter((s) => roster.person(s)?.kind === 'student');

/** One section's list for a marker; null where the user may not see the section. */
async function sectionMarks(
	db: Db,
	user: User,
	roster: Roster,
	marker: { readonly id: number; readonly within: (student: number) => boolean },
	sectionId: number
): Promise<MarkerView['section']> {
	const name = await sectionName(db, user, sectionId);
	if (name === null) return null;
	const students = studentsHere(roster, sectionId).filter(marker.within);
	const rows = new Map(
		(
			await db.all<
				Pick<MarkedRow, 'studentId' | 'value' | 'how' | 'since' | 'listed'> & { by: string }
			>(
				`SELECT student_id AS studentId, value, how, marked.since, listed,
					given_name || ' ' || family_name AS "by"
				FROM marked JOIN person ON person.id = by_id
				WHERE marker_id = $marker AND student_id IN (SELECT value FROM json_each($students))`,
				{ marker: marker.id, students: JSON.stringify(students) }
			)
		).map((row) => [row.studentId, row])
	);
	return {
		id: sectionId,
		name,
		students: students.map((studentId): MarkedStudent => {
			const row = rows.get(studentId);
			const person = roster.person(studentId)!;
			return {
				studentId,
				name: `${person.givenName} ${person.familyName}`,
				value: row?.value ?? null,
				by: row?.by ?? null,
				since: row?.since ?? null,
				byHand: row?.how === 'hand',
				listSays: row?.listed ?? null,
				differs: row?.how === 'hand' && row.listed !== row.value && row.listed !== null
			};
		})
	};
}
