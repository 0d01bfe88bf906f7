import { DateTime } from 'luxon';
import { writeCsv } from '../../../core/format/csv';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { readDistrict } from '../../db/district';
import type { Db } from '../../db/open';

const atATime = 4_000;
const heading = ['Name', 'By', 'Address', 'How', 'Joined', 'Student claimed', 'Student'];

/** Who is in an open group as CSV in pieces; null where the user does not look after it. */
export async function joinedCsv(
	db: Db,
	user: User,
	groupId: number
): Promise<{ readonly name: string; readonly csv: AsyncGenerator<string> } | null> {
	const { sql, bind } = scope(user).groups;
	const group = await db.one<{ name: string }>(
		`SELECT name FROM school_group WHERE id = $groupId AND ${sql}`,
		{ groupId, ...bind }
	);
	return group ? { name: `${group.name}, joined`, csv: lines(db, groupId) } : null;
}

async function* lines(db: Db, groupId: number): AsyncGenerator<string> {
	yield writeCsv([heading]);
	const { zone } = await readDistrict(db);
	const timeOf = (at: number) => DateTime.fromMillis(at, { zone }).toFormat('yyyy-MM-dd HH:mm');
	for (let after = 0; ;) {
		const rows = await db.all<{
			id: number;
			name: string;
			way: string;
			address: string;
			how: string;
			joinedAt: number;
			claimed: string;
			student: string | null;
		}>(
			`SELECT joining.id, name, way, address, how, joined_at AS joinedAt, student_said AS claimed,
				given_name || ' ' || family_name AS student
			FROM joining LEFT JOIN person ON person.id = student_id
			WHERE group_id = $groupId AND state = 'in' AND joining.id > $after ORDER BY joining.id LIMIT ${atATime}`,
			{ groupId, after }
		);
		if (rows.length === 0) return;
		yield writeCsv(
			rows.map((r) => [
				...[r.name, r.way, r.address, r.how, timeOf(r.joinedAt)],
				...[r.student === null ? r.claimed : '', r.student ?? '']
			])
		);
		after = rows.at(-1)!.id;
	}
}
