import { reasonsText, type Reason } from '../../../core/audience/reasons';
import { isCovered, type StudentStanding } from '../../../core/track/coverage';
import type { User } from '../../access/user';
import type { Db, Query } from '../../db/open';
import { chainOf } from '../track/chase-chain';
import { coverageBy } from '../track/coverage';
import { dispatchHead } from './head';
import { groupBy } from '../../../core/group-by';
import type { DispatchStudentRow, LeftOutRow } from '../../db/models/dispatch';
import type { ContactRow } from '../../db/models/roster';
import type { DeliveryRow } from '../../db/models/delivery';

/** An adult to be called about a student. */
interface ToCall {
	readonly name: string;
	readonly relation: string;
	/** Every number on file, E.164: one that takes no texts may well be answered. */
	readonly numbers: readonly string[];
	/** Why they have not read, as far as it is known. */
	readonly why: string;
}

interface CallStudent {
	readonly studentId: number;
	readonly name: string;
	readonly people: readonly ToCall[];
}

/** Students whose families are to be called, by section. */
export interface CallSheet {
	readonly subject: string;
	readonly body: string;
	/** Of all schools, whatever is shown. */
	readonly students: number;
	/** Where they go to school; id 0 for those in none. */
	readonly schools: readonly {
		readonly id: number;
		readonly name: string;
		readonly students: number;
	}[];
	/** The one school that is shown; null where all are, being few enough for one sheet. */
	readonly school: number | null;
	readonly sections: readonly {
		readonly section: string;
		readonly school: string;
		readonly students: readonly CallStudent[];
	}[];
}

/** Whom to call: those whom no way reaches, or everyone who is not covered. */
export type CallWhom = 'unreachable' | 'open';

/** More students than this are shown a school at a time: nobody calls a whole district from one sheet. */
const mostOnSheet = 400;

/** The sheet for phone calls about a dispatch, after it and all that followed it up; null where the user may not see it. Guardians with custody who are marked for correspondence, and no others. Where there are too many for one sheet it is that of one school, `wanted` or the first. */
export async function callSheet(
	db: Db,
	user: User,
	id: number,
	whom: CallWhom,
	wanted: number | null = null
): Promise<CallSheet | null> {
	const head = await dispatchHead(db, user, id);
	if (!head) return null;
	const chain = await chainOf(db, user, id);
	const coverages = [...(await coverageBy(db, [id, ...chain.filter((c) => c > id)])).values()];
	const standings = (student: number): StudentStanding[] =>
		coverages.flatMap((c) => c.standing.get(student) ?? []);
	const left = [...(coverages.find((c) => c.unit === 'students')?.standing.keys() ?? [])].filter(
		(student) => {
			const all = standings(student);
			if (all.some(isCovered)) return false;
			return whom === 'open' || all.every((s) => s === 'nobody' || s === 'failed');
		}
	);
	const schools = await db.all<CallSheet['schools'][number]>(
		`SELECT coalesce(school.id, 0) AS id, coalesce(school.name, 'In no school') AS name, count(*) AS students
		FROM person LEFT JOIN school ON school.id = school_id
		WHERE person.id IN (SELECT value FROM json_each($ids)) GROUP BY 1 ORDER BY school.id IS NULL, 2`,
		{ ids: JSON.stringify(left) }
	);
	const school =
		left.length <= mostOnSheet ? null : (schools.find((s) => s.id === wanted) ?? schools[0]!).id;
	const dispatches = [id, ...chain.filter((c) => c > id)];
	const lines = await linesToCall(db, dispatches, { students: left, school });
	return {
		subject: head.subject,
		body: head.body,
		students: left.length,
		schools,
		school,
		sections: [...groupBy(lines, (l) => `${l.school}\n${l.section}`).values()].map((list) => ({
			section: list[0]!.section,
			school: list[0]!.school,
			students: list.map(({ studentId, name, people }) => ({ studentId, name, people }))
		}))
	};
}

/** A student to call about, with where they stand. */
type CallLine = CallStudent & { readonly section: string; readonly school: string };

/** The students of the first of some dispatches, in the order of a sheet, with whom to call and why they have not read. */
async function linesToCall(
	db: Query,
	dispatches: readonly number[],
	of: { readonly students: readonly number[]; readonly school: number | null }
): Promise<CallLine[]> {
	const students = await db.all<
		Pick<DispatchStudentRow, 'studentId'> & { name: string; section: string; school: string }
	>(
		`SELECT student_id AS studentId, given_name || ' ' || family_name AS name,
			coalesce(section.name, 'In no section') AS section, coalesce(school.name, '') AS school
		FROM dispatch_student JOIN person ON person.id = student_id
		LEFT JOIN section ON section.id = section_id LEFT JOIN school ON school.id = person.school_id
		WHERE dispatch_id = $id AND student_id IN (SELECT value FROM json_each($ids))
			${of.school === null ? '' : 'AND coalesce(person.school_id, 0) = $school'}
		ORDER BY school.name, section.name, section_id, family_name, given_name`,
		{
			id: dispatches[0]!,
			ids: JSON.stringify(of.students),
			...(of.school === null ? {} : { school: of.school })
		}
	);
	const adults = await db.all<
		Pick<ContactRow, 'studentId' | 'personId' | 'relation'> & { name: string; numbers: string }
	>(
		`SELECT student_id AS studentId, contact.person_id AS personId,
			given_name || ' ' || family_name AS name, relation,
			(SELECT json_group_array(value) FROM address WHERE person_id = contact.person_id AND way = 'text') AS numbers
		FROM contact_now AS contact JOIN person ON person.id = contact.person_id
		WHERE guardian AND custody AND correspondence AND student_id IN (SELECT value FROM json_each($ids))
		ORDER BY family_name, given_name`,
		{ ids: JSON.stringify(students.map((s) => s.studentId)) }
	);
	const people = groupBy(adults, (p) => p.studentId);
	const why = await whyNot(
		db,
		dispatches,
		adults.map((p) => p.personId)
	);
	return students.map((s) => ({
		...s,
		people: (people.get(s.studentId) ?? []).map(({ personId, name, relation, numbers }) => ({
			name,
			relation,
			numbers: JSON.parse(numbers) as string[],
			why: why.get(personId) ?? ''
		}))
	}));
}

/** What is known, by person, of why some dispatches were not read: the reason there was no copy, or what became of each. */
async function whyNot(
	db: Query,
	ids: readonly number[],
	people: readonly number[]
): Promise<Map<number, string>> {
	const bind = { ids: JSON.stringify(ids), people: JSON.stringify(people) };
	const mine = `dispatch_id IN (SELECT value FROM json_each($ids))
		AND person_id IN (SELECT value FROM json_each($people))`;
	const out = await db.all<Pick<LeftOutRow, 'personId' | 'reasons'>>(
		`SELECT person_id AS personId, reasons FROM left_out WHERE ${mine} ORDER BY dispatch_id`,
		bind
	);
	const copies = await db.all<Pick<DeliveryRow, 'personId'> & { words: string }>(
		`SELECT person_id AS personId, group_concat(DISTINCT way || ' ' || state) AS words FROM delivery
		WHERE ${mine} GROUP BY person_id`,
		bind
	);
	const why = new Map(
		copies.map((c) => [
			c.personId,
			c.words.replaceAll(',', ', ').replaceAll('spared', 'not needed')
		])
	);
	for (const { personId, reasons } of out) {
		const text = reasonsText(JSON.parse(reasons) as Reason[]);
		if (!why.has(personId)) why.set(personId, text);
	}
	return why;
}
