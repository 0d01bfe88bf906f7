import type { StudentLeftKind } from '../../../core/plan/students-left';
import type { User } from '../../access/sessions';
import type { Db } from '../../db/open';
import { countLeftOut, leftOutLines, type LeftOutLine } from '../track/left-out-lines';
import type { StudentLeftLine } from '../plan/manifest';
import { dispatchHead } from './reach';
import { countStudentsLeft, studentsLeftLines } from '../track/students-left';

/** A page of everyone left out of a dispatch, and the students of whom no copy speaks. */
export interface LeftOutPage {
	readonly subject: string;
	readonly all: { readonly people: number; readonly rows: number };
	readonly page: number;
	readonly perPage: number;
	readonly lines: readonly LeftOutLine[];
	readonly studentCounts: Readonly<Record<StudentLeftKind, number>>;
	readonly students: readonly StudentLeftLine[];
}

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
