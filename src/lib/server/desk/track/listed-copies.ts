import { isCovered } from '../../../core/track/coverage';
import type { DeliveryState } from '../../../core/track/evidence';
import type { Way } from '../../../core/roster/way';
import { groupBy } from '../../../core/group-by';
import { readMany } from '../../db/many';
import type { Query } from '../../db/open';
import { remembering } from '../../db/remember';
import type { CountedDispatch } from './coverage';
import type { Copy } from './counted-copies';
import { deliveryLines } from './delivery-lines';
import { planKey } from './plan-key';
import type { DeliveryLine } from './types';

/** Which deliveries of a dispatch are listed. */
export interface DeliveryFilter {
	readonly way: Way | 'all';
	readonly state: DeliveryState | 'all' | 'not-covered' | 'weak' | 'unsure';
	/** Of one section; 0 for all. */
	readonly section: number;
	/** Part of the name of the person or of a student. */
	readonly search: string;
	/** 1 is the first page. */
	readonly page: number;
}
const deliveriesPerPage = 50;

/** The page of a dispatch's deliveries that fit a filter, and how many fit. Only the page itself is read from the rows. */
export async function deliveryPage(
	db: Query,
	id: number,
	counted: CountedDispatch,
	filter: DeliveryFilter
): Promise<{ found: number; deliveries: DeliveryLine[] }> {
	const conditions = await conditionsOf(db, id, counted, filter);
	const all = await inOrder(db, id, counted);
	const found =
		conditions.length === 0 ? all : all.filter((copy) => conditions.every((holds) => holds(copy)));
	const first = (filter.page - 1) * deliveriesPerPage;
	return {
		found: found.length,
		deliveries: await deliveryLines(
			db,
			found.slice(first, first + deliveriesPerPage).map((copy) => copy.id)
		)
	};
}

interface Order {
	/** By whose names; another list where the roster has changed. */
	readonly people: readonly number[];
	readonly copies: readonly Copy[];
}
/** Beside the copies that are in it. */
const orders = new WeakMap<object, Order>();

const asTheyLeave = (a: Copy, b: Copy): number =>
	a.step - b.step || (a.way < b.way ? -1 : a.way > b.way ? 1 : 0) || a.id - b.id;

const people = remembering<readonly number[]>(6);

/** Those whom copies of a dispatch go to, by their names, as it is kept. */
export const peopleInOrder = async (db: Query, id: number): Promise<readonly number[]> =>
	people.get(db, await planKey(db, id), () =>
		readMany(
			db,
			'id',
			`FROM (SELECT id FROM person WHERE id IN (SELECT person_id FROM delivery WHERE dispatch_id = $id)
				ORDER BY family_name, given_name, id)`,
			([person]) => person as number,
			{ id }
		)
	);

/** The copies of a dispatch by their people's names, then as they leave. */
async function inOrder(
	db: Query,
	id: number,
	{ copies }: CountedDispatch
): Promise<readonly Copy[]> {
	const people = await peopleInOrder(db, id);
	const before = orders.get(copies);
	if (before?.people === people) return before.copies;
	const own = groupBy([...copies.values()], (copy) => copy.personId);
	const sorted = people.flatMap((person) => (own.get(person) ?? []).sort(asTheyLeave));
	orders.set(copies, { people, copies: sorted });
	return sorted;
}

/** What must hold of a copy that fits a filter. */
async function conditionsOf(
	db: Query,
	id: number,
	{ deliveries, coverage }: CountedDispatch,
	{ way, state, section, search }: DeliveryFilter
): Promise<((copy: Copy) => boolean)[]> {
	const conditions: ((copy: Copy) => boolean)[] = [];
	if (way !== 'all') conditions.push((c) => c.way === way);
	const aboutStudents = (which: (studentId: number) => boolean): Set<Copy> => {
		const about = new Set<Copy>();
		for (const { copy, studentId } of deliveries) if (which(studentId)) about.add(copy);
		return about;
	};
	if (state === 'not-covered') {
		const open = aboutStudents((s) => {
			const standing = coverage.standing.get(s);
			return standing !== undefined && !isCovered(standing);
		});
		conditions.push((c) => open.has(c));
	} else if (state === 'weak') conditions.push((c) => c.strength === 'weak');
	else if (state === 'unsure') conditions.push((c) => c.unsure);
	else if (state !== 'all') conditions.push((c) => c.state === state);
	if (section > 0) {
		const own = await idsOf(
			db,
			'SELECT student_id AS id FROM dispatch_student WHERE dispatch_id = $id AND section_id = $section',
			{ id, section }
		);
		const about = aboutStudents((s) => own.has(s));
		conditions.push((c) => about.has(c));
	}
	if (search !== '') {
		const named = await idsOf(
			db,
			`SELECT id FROM person WHERE (given_name || ' ' || family_name) LIKE $search ESCAPE '\\'`,
			{ search: `%${search.replace(/[\\%_]/g, '\\$&')}%` }
		);
		const about = aboutStudents((s) => named.has(s));
		conditions.push((c) => named.has(c.personId) || about.has(c));
	}
	return conditions;
}

const idsOf = async (
	db: Query,
	sql: string,
	bind: Record<string, string | number>
): Promise<Set<number>> =>
	new Set(await readMany(db, 'id', `FROM (${sql})`, ([one]) => one as number, bind));
