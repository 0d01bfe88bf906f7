import { isCovered } from '../../../core/track/coverage';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { onlyStands } from '../../db/copy-state';
import type { Db } from '../../db/open';
import { coverageBy } from '../track/coverage';
import type { SentLine } from './types';

const most = 6;

/**
 * What was last sent to somebody about some students, of what the user may see: how many of these students each
 * spoke of, and how many of them are covered. `condition` picks rows of `dispatch_student`.
 */
export async function lastSent(
	db: Db,
	user: User,
	condition: string,
	bind: Readonly<Record<string, number>>
): Promise<SentLine[]> {
	const rights = scope(user).dispatches;
	const rows = await db.all<Omit<SentLine, 'students' | 'covered'> & { ids: string }>(
		`SELECT dispatch.id AS dispatchId, subject, given_name || ' ' || family_name AS sender,
			leaves_at AS leavesAt, json_group_array(student_id) AS ids
		FROM dispatch_student JOIN dispatch ON dispatch.id = dispatch_id JOIN person ON person.id = sender_id
		WHERE ${condition} AND state = 'sent' AND NOT ${onlyStands} AND ${rights.sql}
		GROUP BY dispatch.id ORDER BY leaves_at DESC, dispatch.id DESC LIMIT ${most}`,
		{ ...bind, ...rights.bind }
	);
	const coverages = await coverageBy(
		db,
		rows.map((r) => r.dispatchId)
	);
	return rows.map(({ ids, ...line }) => {
		const standing = coverages.get(line.dispatchId)!.standing;
		const students = JSON.parse(ids) as number[];
		return {
			...line,
			students: students.length,
			covered: students.filter((id) => isCovered(standing.get(id) ?? 'nobody')).length
		};
	});
}
