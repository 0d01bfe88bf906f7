import { z } from 'zod';
import { may, scope } from '../../access/may';
import type { User } from '../../access/user';
import { districtDay } from '../../db/district';
import type { Db } from '../../db/open';
import { readRoster } from '../../db/roster';
import { found } from '../../db/search';
import { lineOf } from './place';
import { reachLines } from './reach';
import { lastSent } from './sent';
import type { SectionLine, SectionList, SectionView } from './types';

const perPage = 50;

/** Which sections are listed. */
export const sectionFilterSchema = z.object({
	/** 0 for those of all terms that run today. */
	term: z.coerce.number().int().min(0).catch(0),
	q: z.string().max(200).catch(''),
	page: z.coerce.number().int().min(1).catch(1)
});

const staffOf = `(SELECT group_concat(given_name || ' ' || family_name, ', ') FROM section_staff
	JOIN person_now AS person ON person.id = person_id WHERE section_id = section.id)`;
const joined = `section_now AS section JOIN course ON course.id = course_id
	JOIN school ON school.id = course.school_id JOIN term ON term.id = term_id`;

/** The sections that a user may write to, of a term or of all that run; between terms of the next ones. */
export async function sectionList(
	db: Db,
	user: User,
	{ term, q, page }: z.infer<typeof sectionFilterSchema>
): Promise<SectionList> {
	const today = await districtDay(db);
	const { sql, bind } = scope(user).sections;
	const terms = await db.all<{ id: number; name: string; running: number }>(
		`SELECT DISTINCT term.id, term.name, starts_on <= $today AND ends_on > $today AS running FROM ${joined}
		WHERE ${sql} ORDER BY starts_on, ends_on`,
		{ today, ...bind }
	);
	const termId = terms.some((t) => t.id === term) ? term : null;
	const running = terms.some((t) => t.running === 1);
	const by = found(q, ['section.id', 'section_words']);
	const conditions = [
		sql,
		termId === null
			? running
				? 'starts_on <= $today AND ends_on > $today'
				: 'ends_on > $today'
			: 'term_id = $term',
		...(by ? [by.sql] : [])
	].join(' AND ');
	const binds = { ...bind, ...by?.bind, ...(termId === null ? { today } : { term: termId }) };
	const { n } = (await db.one<{ n: number }>(
		`SELECT count(*) AS n FROM ${joined} WHERE ${conditions}`,
		binds
	))!;
	const shown = Math.min(page, Math.max(1, Math.ceil(n / perPage)));
	return {
		found: n,
		page: shown,
		termId,
		terms: terms.map((t) => ({ ...t, running: t.running === 1 })),
		lines: await db.all<SectionLine>(
			`SELECT section.id, section.name, school.short_name AS school, term.name AS term,
				coalesce(${staffOf}, '') AS staff,
				(SELECT count(*) FROM enrolment_now WHERE section_id = section.id) AS students
			FROM ${joined} WHERE ${conditions} ORDER BY school.name, section.name, section.id
			LIMIT ${perPage} OFFSET $offset`,
			{ ...binds, offset: (shown - 1) * perPage }
		)
	};
}

/** The name of a section that a user may write to; null where there is none. */
export async function sectionName(db: Db, user: User, id: number): Promise<string | null> {
	const { sql, bind } = scope(user).sections;
	const row = await db.one<{ name: string }>(
		`SELECT section.name FROM ${joined} WHERE section.id = $id AND ${sql}`,
		{ id, ...bind }
	);
	return row?.name ?? null;
}

/** A section: its students with their people and ways, its staff, and what was last sent about it; null where the user may not see it. */
export async function sectionView(db: Db, user: User, id: number): Promise<SectionView | null> {
	const { sql, bind } = scope(user).sections;
	const section = await db.one<
		Pick<SectionView, 'id' | 'name' | 'course' | 'school' | 'term' | 'period' | 'goneAt'>
	>(
		`SELECT section.id, section.name, course.title AS course, school.name AS school, term.name AS term, period,
			gone_at AS goneAt
		FROM section JOIN course ON course.id = course_id JOIN school ON school.id = course.school_id
		JOIN term ON term.id = term_id WHERE section.id = $id AND ${sql}`,
		{ id, ...bind }
	);
	if (!section) return null;
	const roster = await readRoster(db);
	const students = roster.studentsIn(id).filter((s) => roster.person(s)?.kind === 'student');
	return {
		...section,
		reach: lineOf(roster, { key: `section-${id}`, name: section.name, students }),
		staff: await db.all(
			`SELECT person.id AS personId, given_name || ' ' || family_name AS name FROM section_staff
			JOIN person_now AS person ON person.id = person_id WHERE section_id = $id ORDER BY family_name`,
			{ id }
		),
		people: reachLines(roster, students),
		sent: await lastSent(db, user, 'section_id = $section', { section: id }),
		mayCorrect: may(user, 'correct-people')
	};
}
