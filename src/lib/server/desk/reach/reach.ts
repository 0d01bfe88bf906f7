import type { Way } from '../../../core/roster/way';
import type { User } from '../../access/user';
import type { Db, Query } from '../../db/open';
import { remembering } from '../../db/remember';
import { countedBy } from '../track/coverage';
import { peopleInOrder, type DeliveryFilter } from '../track/listed-copies';
import { planKey } from '../track/plan-key';
import { countLeftOut, leftOutLines } from '../track/left-out-lines';
import { countStudentsLeft, studentsLeftLines } from '../track/students-left';
import { copiesPage, copyFigures } from './copies';
import { fieldOfDispatch, reachCoverage } from './covered';
import { dispatchHead, reachedDispatch } from './head';
import type { DispatchReach } from './types';

const leftOutShown = 100;

/** Who was left out, which changes with the plan and the roster only: evidence changes none of it. */
const lefts = remembering<DispatchReach['left']>(6);

async function readLeft(db: Query, id: number): Promise<DispatchReach['left']> {
	const people = await countLeftOut(db, id);
	return {
		...people,
		first: people.rows > 0 ? await leftOutLines(db, id, leftOutShown) : [],
		students: await countStudentsLeft(db, id),
		studentsFirst: await studentsLeftLines(db, id, leftOutShown)
	};
}

const leftOf = async (db: Query, id: number): Promise<DispatchReach['left']> =>
	lefts.get(db, await planKey(db, id), () => readLeft(db, id));

/** A dispatch that was sent or is on hold, with where each copy stands; null where the user may not see it or it is a draft. */
export async function dispatchReach(
	db: Db,
	user: User,
	id: number,
	filter: DeliveryFilter
): Promise<DispatchReach | null> {
	const head = await dispatchHead(db, user, id);
	if (!head) return null;
	// The copies are counted while the engine goes on to what rests on the plan and the roster alone, which is kept for whoever
	// asks for it below. What is asked for first is found first: the copies.
	const [found] = await Promise.all([
		countedBy(db, [id]),
		fieldOfDispatch(db, id),
		peopleInOrder(db, id),
		leftOf(db, id)
	]);
	const counted = found.get(id)!;
	// As they stand with the counts: while the rest is read more may come in.
	const { coverage, plan, event } = counted;
	const figures = await copyFigures(db, id, counted, JSON.parse(head.ways) as Way[]);
	const { all, firstLeft } = figures;
	return {
		asOf: { plan, event },
		dispatch: await reachedDispatch(db, user, head, all),
		coverage: await reachCoverage(db, user, id, { coverage, firstLeft }),
		copies: { ...figures, ...(await copiesPage(db, id, counted, filter)) },
		left: await leftOf(db, id)
	};
}
