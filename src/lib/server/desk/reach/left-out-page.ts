import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import { countLeftOut, leftOutLines } from '../track/left-out-lines';
import { dispatchHead } from './head';
import { countStudentsLeft, studentsLeftLines } from '../track/students-left';
import type { LeftOutPage } from './types';

const perPage = 200;
const mostStudents = 500;

/** The left-out list of a dispatch, a page at a time; null where the user may not see it. */
export async function leftOutPage(
	db: Db,
	user: User,
	id: number,
	page: number
): Promise<LeftOutPage | null> {
	const head = await dispatchHead(db, user, id);
	if (!head) return null;
	const all = await countLeftOut(db, id);
	const shown = Math.min(page, Math.max(1, Math.ceil(all.rows / perPage)));
	return {
		subject: head.subject,
		all,
		page: shown,
		perPage,
		lines: await leftOutLines(db, id, perPage, (shown - 1) * perPage),
		studentCounts: await countStudentsLeft(db, id),
		students: await studentsLeftLines(db, id, mostStudents)
	};
}
