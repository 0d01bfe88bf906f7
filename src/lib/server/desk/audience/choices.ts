import { remembering, type Memory } from '../../db/remember';
import { staffSchools } from '../../access/allowed';
import { may, scope } from '../../access/may';
import { schoolsOf, userWith, whereOf } from '../../access/rights';
import type { User } from '../../access/user';
import { districtDay } from '../../db/district';
import { nameOfLanguage } from '../../../core/copy/language';
import { onlyStands } from '../../db/copy-state';
import type { Db } from '../../db/open';
import { peopleVersion } from '../../db/roster';
import { runningTerms } from '../../db/terms';
import { keptNames } from './kept';
import { markersOfUser } from './markers-seen';
import type {
	SectionChoice,
	Choice,
	WordChoice,
	TermChoice,
	Choices,
	DispatchChoice,
	RosterChoices
} from './types';
import type { TermRow } from '../../db/models/roster';

/** The terms, and which of them run on the district's day. */
async function terms(db: Db): Promise<TermChoice[]> {
	const running = await runningTerms(db, await districtDay(db));
	const all = await db.all<Pick<TermRow, 'id' | 'name'>>(
		'SELECT id, name FROM term ORDER BY starts_on, ends_on, id'
	);
	return all.map(({ id, name }) => ({ id, name, current: running.includes(id) }));
}

/** How many earlier dispatches can be asked about at a time; the newest. */
const mostDispatches = 100;

/** Read again only when the roster has changed: the lists of a large district are long. Of an older roster nothing is kept. */
const ofRoster = remembering<Memory<RosterChoices>>(1);
/** Of so many who see different things at a time. */
const most = 60;

/** Reads the longest lists before somebody waits for them. */
export async function warmChoices(db: Db): Promise<void> {
	const whole = [{ role: 'coordinator', schoolId: null, sectionId: null }] as const;
	await choices(db, userWith({ personId: 0, name: '', title: '' }, whole));
}

/** What a user may pick. A teacher picks own sections only; an office its school's. */
export async function choices(db: Db, user: User): Promise<Choices> {
	const version = await peopleVersion(db);
	const lists = await ofRoster.get(db, String(version), () =>
		Promise.resolve(remembering<RosterChoices>(most))
	);
	// Where it holds says all of it, but for whoever's own sections are meant.
	const where = whereOf(user, 'write');
	const mark = JSON.stringify([where, where.own ? user.personId : null]);
	const mine = scope(user).dispatches;
	return {
		...(await lists.get(db, mark, () => rosterChoices(db, user))),
		terms: await terms(db),
		dispatches: (
			await db.all<Omit<DispatchChoice, 'asks'> & { asks: 0 | 1 }>(
				`SELECT id, subject, leaves_at AS leftAt, invitation ->> '$.kind' IS 'asks' AS asks FROM dispatch WHERE state != 'draft' AND NOT ${onlyStands} AND ${mine.sql}
			ORDER BY leaves_at DESC LIMIT ${mostDispatches}`,
				mine.bind
			)
		).map((d) => ({ ...d, asks: d.asks === 1 })),
		kept: await keptNames(db, user),
		openGroups: await openGroupChoices(db, user),
		markers: (await markersOfUser(db, user)).map(({ id, name, kind, school }) => ({
			id,
			kind,
			name: school === null || schoolsOf(user).length === 1 ? name : `${name} (${school})`
		})),
		anyone: may(user, 'speak-for-district')
	};
}

/** Open groups, and closed ones that somebody is still in. */
async function openGroupChoices(db: Db, user: User): Promise<Choice[]> {
	const { sql, bind } = scope(user).groups;
	return db.all<Choice>(
		`SELECT school_group.id, school_group.name, count(joining.id) || ' joined' || coalesce(', ' || short_name, '') AS note,
			count(joining.id) AS students
		FROM school_group_now AS school_group LEFT JOIN school ON school.id = school_id
		LEFT JOIN joining ON group_id = school_group.id AND state = 'in'
		WHERE ${sql} GROUP BY school_group.id HAVING code IS NOT NULL OR count(joining.id) > 0
		ORDER BY school_group.name, school_group.id LIMIT 1000`,
		bind
	);
}

const byTerm = <T extends { termId: number }>(rows: readonly T[]) => {
	const of: Record<number, Omit<T, 'termId'>[]> = {};
	for (const { termId, ...row } of rows) (of[termId] ??= []).push(row);
	return of;
};

/** What of the roster a user may pick: whoever sees only their own students picks their own sections, and no lists of others. */
async function rosterChoices(db: Db, user: User): Promise<RosterChoices> {
	const { whole, schools } = whereOf(user, 'write');
	const wide = whole || schools.length > 0;
	return {
		sections: byTerm(await sectionChoices(db, user)) as Record<number, SectionChoice[]>,
		courses: wide ? (byTerm(await courseChoices(db, user)) as Record<number, Choice[]>) : {},
		wholeTerms: wide ? await termChoices(db, user) : [],
		...(wide ? await schoolChoices(db, user) : { groups: [], grades: [], schools: [] }),
		...(await staffChoices(db, user)),
		...(await wordChoices(db))
	};
}

async function sectionChoices(db: Db, user: User) {
	const { sql, bind } = scope(user).sections;
	return db.all<SectionChoice & { termId: number }>(
		`SELECT section.id, term_id AS termId, section.name, course.school_id AS schoolId,
			course_id AS courseId, coalesce(teachers, '') AS teachers,
			school.short_name || ', ' || section.period || coalesce(', ' || teachers, '') AS note,
			(SELECT count(*) FROM enrolment_now AS enrolment WHERE section_id = section.id) AS students
		FROM section_now AS section JOIN course ON course.id = course_id JOIN school ON school.id = course.school_id
		LEFT JOIN (SELECT section_id, group_concat(family_name, ', ') AS teachers FROM section_staff
			JOIN person_now AS person ON person.id = person_id GROUP BY section_id) ON section_id = section.id
		WHERE ${sql} ORDER BY school.id, course.title, section.name`,
		bind
	);
}

async function courseChoices(db: Db, user: User) {
	const { sql, bind } = scope(user).sections;
	return db.all<Choice & { termId: number }>(
		`SELECT course.id, section.term_id AS termId, course.title AS name, school.short_name AS note,
			count(DISTINCT student_id) AS students
		FROM section_now AS section JOIN course ON course.id = course_id JOIN school ON school.id = course.school_id
		LEFT JOIN enrolment_now AS enrolment ON section_id = section.id
		WHERE ${sql} GROUP BY course.id, section.term_id ORDER BY school.id, course.title`,
		bind
	);
}

async function termChoices(db: Db, user: User) {
	const { sql, bind } = scope(user).sections;
	return db.all<Choice>(
		`SELECT term.id, term.name, '' AS note, count(DISTINCT student_id) AS students
		FROM term JOIN section_now AS section ON term_id = term.id JOIN course ON course.id = course_id
		JOIN enrolment_now AS enrolment ON section_id = section.id WHERE ${sql}
		GROUP BY term.id ORDER BY starts_on`,
		bind
	);
}

/** Groups, grade levels and schools: those of a user's school, or all. */
async function schoolChoices(
	db: Db,
	user: User
): Promise<Pick<RosterChoices, 'groups' | 'grades' | 'schools'>> {
	const { whole, schools } = whereOf(user, 'write');
	const own = (column: string) =>
		whole ? '1' : `${column} IN (SELECT value FROM json_each($schools))`;
	const bind: Record<string, string> = whole ? {} : { schools: JSON.stringify(schools) };
	return {
		groups: await db.all<Choice>(
			`SELECT school_group.id, school_group.name,
				kind || coalesce(', ' || short_name, '') AS note, count(person_id) AS students
			FROM school_group_now AS school_group LEFT JOIN group_member ON group_id = school_group.id
			LEFT JOIN school ON school.id = school_id
			WHERE ${own('school_id')} GROUP BY school_group.id ORDER BY school_group.name`,
			bind
		),
		grades: await db.all<Choice>(
			`SELECT min(id) AS id, grade_level AS name, '' AS note, count(*) AS students FROM person_now AS person
			WHERE kind = 'student' AND grade_level IS NOT NULL AND ${own('school_id')}
			GROUP BY grade_level ORDER BY grade_level != 'K', CAST(grade_level AS INTEGER)`,
			bind
		),
		schools: await db.all<Choice>(
			`SELECT school.id, school.name, '' AS note,
				(SELECT count(*) FROM person_now AS person WHERE kind = 'student' AND school_id = school.id) AS students
			FROM school WHERE ${own('school.id')} ORDER BY school.id`,
			bind
		)
	};
}

const worded = (rows: readonly { value: string; people: number }[], wordOf = (v: string) => v) =>
	rows.map((r): WordChoice => ({ ...r, word: wordOf(r.value) }));

/** Roles of staff and the schools they work at. */
async function staffChoices(
	db: Db,
	user: User
): Promise<Pick<RosterChoices, 'roles' | 'staffSchools'>> {
	const schools = staffSchools(user);
	const own = (column: string) =>
		schools === null ? '1' : `${column} IN (SELECT value FROM json_each($schools))`;
	const bind: Record<string, string> = schools === null ? {} : { schools: JSON.stringify(schools) };
	return {
		roles: worded(
			await db.all(
				`SELECT role AS value, count(DISTINCT person_id) AS people FROM staff
				WHERE ${own('school_id')} GROUP BY role ORDER BY role`,
				bind
			)
		),
		staffSchools: await db.all(
			`SELECT id, short_name AS name FROM school WHERE ${own('id')} ORDER BY id`,
			bind
		)
	};
}

/** Relations and languages that somebody has, the most usual first. */
async function wordChoices(db: Db): Promise<Pick<RosterChoices, 'relations' | 'languages'>> {
	return {
		relations: worded(
			await db.all(
				`SELECT relation AS value, count(DISTINCT person_id) AS people FROM contact_now AS contact
				GROUP BY relation ORDER BY people DESC LIMIT 60`
			)
		),
		languages: worded(
			await db.all(
				`SELECT language AS value, count(*) AS people FROM person_now AS person GROUP BY language ORDER BY people DESC`
			),
			nameOfLanguage
		)
	};
}
