import type { User } from '../access/sessions';
import { now } from '../clock';
import { readDistrict } from '../db/district';
import type { Db } from '../db/open';
import { isCovered } from '../../core/track/coverage';
import { growthOf } from '../../core/track/growth';
import { readAccount } from './account';
import { accountPdf } from './account-pdf';
import { coverageBy } from './coverage';
import { leftOutLines } from './left-out-lines';

/** Names that two pages could hold at most. */
const mostNames = 400;

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
	const leftOut = await leftOutLines(db, id, mostNames);
	return accountPdf(
		account,
		(await readDistrict(db)).name,
		first === null
			? null
			: growthOf(coverage.times().values(), coverage.students, first, await now(db)),
		coverage.students,
		{
			notCovered: names.map((n) => (n.section ? `${n.name}, ${n.section}` : n.name)),
			leftOut: leftOut.map((l) => `${l.name}${l.students ? `, for ${l.students}` : ''}: ${l.why}`)
		}
	);
}
