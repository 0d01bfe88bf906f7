import { audienceOf, type Audience } from '../../../core/audience/audience';
import type { Query } from '../../db/open';

/** Everybody of a group: the guardians of its students, and whoever joined it by its code. What of it a user may see is weighed where it is worked out. */
export async function audienceOfGroup(db: Query, id: number): Promise<Audience> {
	const has = (await db.one<{ students: number; joined: number }>(
		`SELECT EXISTS (SELECT 1 FROM group_member WHERE group_id = $id) AS students,
			EXISTS (SELECT 1 FROM joining WHERE group_id = $id AND state = 'in') AS joined`,
		{ id }
	))!;
	const ofStudents = audienceOf([id], ['guardians'], 'groups');
	if (has.joined === 0) return ofStudents;
	return {
		...ofStudents,
		lines: [
			...(has.students === 0 ? [] : ofStudents.lines),
			{ verb: 'and', people: { kind: 'joined', groupIds: [id] }, only: [] }
		]
	};
}
