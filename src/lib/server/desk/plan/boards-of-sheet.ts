import { boardsOf, type BoardsOf } from '../../../core/audience/boards';
import { may, scope } from '../../access/may';
import type { User } from '../../access/user';
import type { Query } from '../../db/open';
import type { Sheet } from '../sheet/sheet';
import { readDistrict } from '../../db/district';
import type { Planned } from './plan-sheet';
import type { Landing } from './types';

/**
 * The boards that a sheet will stand on: those of its audience on which its writer may put something, who then
 * writes to everybody of the place. Null of what stands on none: a message, or what is kept off.
 */
export async function boardsOfSheet(
	db: Query,
	user: User,
	{ kind, board }: Pick<Sheet, 'kind' | 'board'>,
	{ spoken }: Pick<Planned, 'spoken'>
): Promise<BoardsOf | null> {
	if (kind !== 'announcement' || !board.on) return null;
	const all = boardsOf(spoken);
	const own = await ownPlaces(db, user, all);
	const schools = all.schools.filter((id) => may(user, 'write-to-school', id));
	const sections = all.sections.filter((id) => own.sections.has(id));
	const groups = all.groups.filter((id) => own.groups.has(id));
	const courses = all.courses.filter((c) =>
		may(user, 'write-to-school', own.courses.get(c.id) ?? null)
	);
	const district = all.district && may(user, 'write-to-school', null);
	const cut =
		schools.length < all.schools.length ||
		sections.length < all.sections.length ||
		groups.length < all.groups.length ||
		courses.length < all.courses.length ||
		district !== all.district;
	return {
		...{ district, schools, sections, groups, courses },
		notFor: cut ? [...all.notFor, 'not-own'] : all.notFor
	};
}

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

/** The same by their names, the widest first; a course’s boards are those of its sections. */
export async function boardsNamed(
	db: Query,
	user: User,
	sheet: Pick<Sheet, 'kind' | 'board'>,
	planned: Pick<Planned, 'spoken'>
): Promise<Landing['boards']> {
	const boards = await boardsOfSheet(db, user, sheet, planned);
	if (boards === null) return null;
	const { district, schools, sections, courses, groups, notFor } = boards;
	const names = (table: string, column: string, ids: readonly number[]) =>
		db.all<{ name: string }>(
			`SELECT ${column} AS name FROM ${table} WHERE id IN (SELECT value FROM json_each($ids)) ORDER BY name`,
			{ ids: JSON.stringify(ids) }
		);
	const found = [
		...(await names('school', 'name', schools)),
		...(await names(
			'course',
			"title || ', all sections'",
			courses.map((c) => c.id)
		)),
		...(await names('section', 'name', sections)),
		...(await names('school_group', 'name', groups))
	];
	return {
		names: [...(district ? [(await readDistrict(db)).name] : []), ...found.map((f) => f.name)],
		notFor
	};
}

/** When a sheet begins to stand on its boards and when it leaves them, at one of its moments (instants, ms). */
export const boardTimes = (
	{ from, until }: Sheet['board'],
	{ at, endsAt }: { readonly at: number; readonly endsAt: number | null }
): { readonly from: number; readonly until: number | null } => ({
	from: from ?? at,
	until: until ?? endsAt
});
