import { groupBy } from '../../../core/group-by';
import type { Way } from '../../../core/roster/way';
import { zoneOf, type Clocks } from '../../../core/time/clocks';
import type { CoverRule } from '../../../core/track/coverage';
import { byClock, keepFirst } from '../../../core/track/expect/ahead';
import type { CopyAhead, StudentAhead } from '../../../core/track/expect/families';
import type { Reader, ReaderOf } from '../../../core/track/expect/past-copy';
import { readMany } from '../../db/many';
import type { Query } from '../../db/open';
import { homesOf } from '../track/dispatch-homes';
import { readersOf } from './readers';

/** A dispatch as its rows have it. */
interface RowsAhead {
	readonly students: readonly StudentAhead[];
	readonly readerOf: ReaderOf;
}

const ofCopies = `JOIN delivery ON delivery.id = delivery_id WHERE dispatch_id = $id`;

/** The copies of a dispatch, by delivery; `readers` are told the school they are written to for. */
async function copiesOf(
	db: Query,
	id: number,
	readers: Map<number, Reader>,
	clocks: Clocks
): Promise<Map<number, CopyAhead>> {
	const also = groupBy(
		await db.all<{ id: number; personId: number; adult: 0 | 1 }>(
			`SELECT delivery_id AS id, delivery_also.person_id AS personId, kind = 'adult' AS adult FROM delivery_also
			JOIN person ON person.id = delivery_also.person_id ${ofCopies}`,
			{ id }
		),
		(a) => a.id
	);
	const clockOf = byClock();
	const schools = new Map<number, number>();
	const copies = new Map(
		await readMany(
			db,
			'copy, personId, way, due_at, step, adult, school',
			`FROM (SELECT delivery.id AS copy, person_id AS personId, way, due_at, step, kind = 'adult' AS adult,
				coalesce(school_id, (SELECT min(student.school_id) FROM delivery_student
					JOIN person AS student ON student.id = student_id WHERE delivery_id = delivery.id)) AS school
				FROM delivery JOIN person ON person.id = person_id WHERE dispatch_id = $id)`,
			([copy, personId, way, dueAt, step, adult, school]): [number, CopyAhead] => {
				const [person, at] = [personId as number, dueAt as number];
				const { hour, weekday } = clockOf(at, zoneOf(clocks, school as number | null));
				const others = also.get(copy as number) ?? [];
				const all = [person, ...others.map((o) => o.personId)];
				keepFirst(schools, all, school as number | null);
				return [
					copy as number,
					{
						...{ personId: person, at, way: way as Way, step: step as number, hour, weekday },
						householdId: readers.get(person)!.householdId,
						readers: all,
						adult: adult === 1 || others.some((o) => o.adult === 1)
					}
				];
			},
			{ id }
		)
	);
	// As the plan knows them.
	for (const [id, reader] of readers)
		readers.set(id, { ...reader, schoolId: schools.get(id) ?? null });
	return copies;
}

/** The students of a dispatch with the copies that speak of them, by its rows; where it speaks of none, everybody who gets one is as their own student. */
export async function rowsAhead(
	db: Query,
	dispatchId: number,
	rule: CoverRule,
	clocks: Clocks
): Promise<RowsAhead> {
	const bind = { id: dispatchId };
	const people = await db.all<{ id: number }>(
		'SELECT DISTINCT person_id AS id FROM delivery WHERE dispatch_id = $id',
		bind
	);
	const readers = await readersOf(
		db,
		people.map((p) => p.id)
	);
	const readerOf: ReaderOf = (id) => readers.get(id)!;
	const copies = await copiesOf(db, dispatchId, readers, clocks);
	const students = await db.all<{ id: number }>(
		'SELECT student_id AS id FROM dispatch_student WHERE dispatch_id = $id ORDER BY student_id',
		bind
	);
	if (students.length === 0)
		return {
			readerOf,
			students: [...groupBy([...copies.values()], (c) => c.personId)].map(([studentId, own]) => ({
				...{ studentId, homes: [] },
				copies: own.map((c) => ({ ...c, adult: true }))
			}))
		};
	const pairs = await readMany(
		db,
		'copy, student',
		`FROM (SELECT delivery_id AS copy, student_id AS student FROM delivery_student ${ofCopies})`,
		(values) => values as [number, number],
		bind
	);
	const mine = groupBy(pairs, ([, student]) => student);
	const homes =
		rule === 'households'
			? await homesOf(
					db,
					dispatchId,
					pairs.map(([copy, studentId]) => ({ studentId, readers: copies.get(copy)!.readers }))
				)
			: () => [];
	return {
		readerOf,
		students: students.map(({ id }) => ({
			studentId: id,
			copies: (mine.get(id) ?? []).map(([copy]) => copies.get(copy)!),
			homes: homes(id)
		}))
	};
}
