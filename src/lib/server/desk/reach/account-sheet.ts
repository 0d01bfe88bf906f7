import type { User } from '../../access/user';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import type { Db } from '../../db/open';
import { isCovered } from '../../../core/track/coverage';
import { growthOf } from '../../../core/track/growth';
import { readAccount } from './account';
import { accountPdf } from './account-pdf';
import { coverageBy } from '../track/coverage';
import { countLeftOut, leftOutLines } from '../track/left-out-lines';
import { countStudentsLeft, studentsLeftLines } from '../track/students-left';

/** Names of each list that the pages hold at most. */
const mostNames = 1_500;

/** The account of a dispatch as a PDF; null where the user may not see it. */
export async function accountSheet(db: Db, user: User, id: number): Promise<Uint8Array | null> {
	const account = await readAccount(db, user, id);
	if (!account) return null;
	const coverage = (await coverageBy(db, [id])).get(id)!;
	const first = (await db.one<{ at: number | null }>(
		'SELECT min(left_at) AS at FROM delivery WHERE dispatch_id = $id',
		{ id }
	))!.at;
	const open = [...coverage.standing].flatMap(([person, s]) => (isCovered(s) ? [] : [person]));
	const names = await db.all<{ name: string; section: string | null }>(
		`SELECT given_name || ' ' || family_name AS name, section.name AS section FROM person
		LEFT JOIN dispatch_student ON dispatch_id = $id AND student_id = person.id
		LEFT JOIN section ON section.id = section_id
		WHERE person.id IN (SELECT value FROM json_each($open))
		ORDER BY section.name, family_name, given_name`,
		{ id, open: JSON.stringify(open) }
	);
	const leftOut = [
		...(await leftOutLines(db, id, mostNames)).map(
			(l) =>
				`${l.name}${l.students ? `, for ${l.students}` : ''}: ${l.why}${l.reached ? '. Gets a copy for others' : ''}`
		),
		...(await studentsLeftLines(db, id, mostNames)).flatMap((s) =>
			// Whose people are left out stands with their names already.
			s.kind === 'unreached' ? [] : [`${s.name}${s.section ? `, ${s.section}` : ''}: ${s.why}`]
		)
	];
	const counted = await countStudentsLeft(db, id);
	return accountPdf({
		account,
		district: (await readDistrict(db)).name,
		growth:
			first === null
				? null
				: growthOf(coverage.kept.timesInOrder, coverage.students, first, await now(db)),
		all: coverage.students,
		lists: {
			notCovered: names
				.slice(0, mostNames)
				.map((n) => (n.section ? `${n.name}, ${n.section}` : n.name)),
			notCoveredInAll: names.length,
			leftOut,
			leftOutInAll: (await countLeftOut(db, id)).rows + counted.alone + counted.out
		}
	});
}
