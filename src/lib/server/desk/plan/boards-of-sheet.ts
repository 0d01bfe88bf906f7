import { boardsOf, type BoardsOf } from '../../../core/audience/boards';
import { may, scope } from '../../access/may';
import type { User } from '../../access/user';
import type { Query } from '../../db/open';
import type { Sheet } from '../sheet/sheet';
import { readDistrict } from '../../db/district';
import type { Planned } from './plan-sheet';

/** The boards that a sheet will stand on, and their names, the widest first. */
export interface SheetBoards {
	readonly on: BoardsOf;
	readonly names: readonly string[];
}

/**
 * The boards that a sheet will stand on: those of its audience on which its writer may put something, who then
 * writes to everybody of the place. Null of what stands on none: a message, or what is kept off.
 */
export async function boardsOfSheet(
	db: Query,
	user: User,
	{ kind, board }: Pick<Sheet, 'kind' | 'board'>,
	{ spoken }: Pick<Planned, 'spoken'>
): Promise<SheetBoards | null> {
	return kind === 'announcement' && board.on ? ownBoards(db, user, spoken) : null;
}

/** The boards of an audience on which a user may put something, and their names. */
export async function ownBoards(
	db: Query,
	user: User,
	spoken: Planned['spoken']
): Promise<SheetBoards> {
	const all = boardsOf(spoken);
	const own = await ownPlaces(db, user, all);
	const on = {
		district: all.district && may(user, 'write-to-school', null),
		schools: all.schools.filter((id) => may(user, 'write-to-school', id)),
		sections: all.sections.filter((id) => own.sections.has(id)),
		groups: all.groups.filter((id) => own.groups.has(id)),
		courses: all.courses.filter((c) => may(user, 'write-to-school', own.courses.get(c.id) ?? null))
	};
	const cut = sizeOf(on) < sizeOf(all);
	return {
		on: { ...on, notFor: cut ? [...all.notFor, 'not-own'] : all.notFor },
		names: await namesOf(db, on)
	};
}

type Places = Omit<BoardsOf, 'notFor'>;

const sizeOf = ({ district, schools, sections, groups, courses }: Places): number =>
	Number(district) + schools.length + sections.length + groups.length + courses.length;

/** Of the sections and groups of some boards those that a user writes to, and the school of each course. */
async function ownPlaces(db: Query, user: User, { sections, groups, courses }: BoardsOf) {
	const { sections: mine, groups: looked } = scope(user);
	const ids = (of: readonly number[]) => ({ ids: JSON.stringify(of) });
	const found = await db.all<{ id: number }>(
		`SELECT section.id FROM section_now AS section JOIN course ON course.id = course_id
		WHERE section.id IN (SELECT value FROM json_each($ids)) AND ${mine.sql}`,
		{ ...ids(sections), ...mine.bind }
	);
	const inGroups = await db.all<{ id: number }>(
		`SELECT id FROM school_group WHERE id IN (SELECT value FROM json_each($ids)) AND gone_at IS NULL AND ${looked.sql}`,
		{ ...ids(groups), ...looked.bind }
	);
	const ofCourses = await db.all<{ id: number; schoolId: number }>(
		'SELECT id, school_id AS schoolId FROM course WHERE id IN (SELECT value FROM json_each($ids))',
		ids(courses.map((c) => c.id))
	);
	return {
		sections: new Set(found.map((s) => s.id)),
		groups: new Set(inGroups.map((g) => g.id)),
		courses: new Map(ofCourses.map((c) => [c.id, c.schoolId]))
	};
}

/** Boards by their names; a course’s are those of its sections. */
async function namesOf(
	db: Query,
	{ district, schools, sections, courses, groups }: Places
): Promise<string[]> {
	const rows = await db.all<{ name: string }>(
		`SELECT name FROM (
			SELECT 1 AS rank, name FROM school WHERE id IN (SELECT value FROM json_each($schools))
			UNION ALL SELECT 2, title || ', all sections' FROM course WHERE id IN (SELECT value FROM json_each($courses))
			UNION ALL SELECT 3, name FROM section WHERE id IN (SELECT value FROM json_each($sections))
			UNION ALL SELECT 4, name FROM school_group WHERE id IN (SELECT value FROM json_each($groups)))
		ORDER BY rank, name`,
		{
			schools: JSON.stringify(schools),
			courses: JSON.stringify(courses.map((c) => c.id)),
			sections: JSON.stringify(sections),
			groups: JSON.stringify(groups)
		}
	);
	return [...(district ? [(await readDistrict(db)).name] : []), ...rows.map((r) => r.name)];
}

/** When a sheet begins to stand on its boards and when it leaves them, at one of its moments (instants, ms). */
export const boardTimes = (
	{ from, until }: Sheet['board'],
	{ at, endsAt }: { readonly at: number; readonly endsAt: number | null }
): { readonly from: number; readonly until: number | null } => ({
	from: from ?? at,
	until: until ?? endsAt
});
