import { DateTime } from 'luxon';
import { writeCsv } from '../../../core/format/csv';
import { evidenceText, stateWords } from '../../../core/track/evidence-words';
import type { DeliveryState, Strength } from '../../../core/track/evidence';
import type { User } from '../../access/user';
import { readDistrict } from '../../db/district';
import { readMany } from '../../db/many';
import type { Db } from '../../db/open';
import { leftOutLines } from '../track/left-out-lines';
import { dispatchHead } from './head';
import { studentsLeftLines } from '../track/students-left';
import { studentLeftWords } from '../../../core/plan/students-left';
import type { MachineSign } from '../../../core/track/visitor';

const head = [
	'copy',
	'person',
	'relation',
	'students',
	'sections',
	'way',
	'address',
	'also read by',
	'turn',
	'state',
	'evidence of reading',
	'planned for',
	'left',
	'read',
	'last event',
	'last event at',
	'left out'
] as const;

/** Every delivery of a dispatch as CSV, a line each, then everyone left out and every student of whom no copy speaks; times in the district's zone (ISO 8601 with offset); null where the user may not see it. */
export async function deliveryCsv(db: Db, user: User, id: number): Promise<string | null> {
	if (!(await dispatchHead(db, user, id))) return null;
	const { zone } = await readDistrict(db);
	const local = (at: number | null) =>
		at === null ? '' : DateTime.fromMillis(at, { zone }).toFormat("yyyy-MM-dd'T'HH:mm:ssZZ");
	const rows = await readMany(
		db,
		'id, person, relation, students, sections, way, address, also, step, state, strength, due_at, left_at, read_at, detail, said, tries, sign, at',
		`FROM (SELECT delivery.id, given_name || ' ' || family_name AS person,
			CASE WHEN person.kind = 'student' THEN 'student' ELSE coalesce((SELECT group_concat(DISTINCT relation)
				FROM delivery_student JOIN contact ON contact.student_id = delivery_student.student_id
					AND contact.person_id = delivery.person_id WHERE delivery_id = delivery.id), '') END AS relation,
			coalesce((SELECT group_concat(student.given_name || ' ' || student.family_name, '; ') FROM delivery_student
				JOIN person AS student ON student.id = student_id WHERE delivery_id = delivery.id), '') AS students,
			coalesce((SELECT group_concat(DISTINCT section.name) FROM delivery_student
				JOIN dispatch_student ON dispatch_student.dispatch_id = delivery.dispatch_id
					AND dispatch_student.student_id = delivery_student.student_id
				JOIN section ON section.id = section_id WHERE delivery_id = delivery.id), '') AS sections,
			way, coalesce(address, '') AS address,
			coalesce((SELECT group_concat(other.given_name || ' ' || other.family_name, '; ') FROM delivery_also
				JOIN person AS other ON other.id = delivery_also.person_id WHERE delivery_id = delivery.id), '') AS also,
			step, state, delivery.strength AS strength, due_at, left_at, read_at, last.detail, said, tries, sign, last.at
		FROM delivery JOIN person ON person.id = person_id
		LEFT JOIN event AS last ON last.id = (SELECT max(id) FROM event WHERE delivery_id = delivery.id)
		WHERE dispatch_id = $id ORDER BY family_name, given_name, person_id, step, way, delivery.id)`,
		(v) => [
			v[0] as number,
			...(v.slice(1, 8) as string[]),
			(v[8] as number) + 1,
			stateWords[v[9] as DeliveryState],
			v[10] as Strength,
			local(v[11] as number),
			local(v[12] as number | null),
			local(v[13] as number | null),
			v[14] === null
				? ''
				: evidenceText({
						detail: v[14] as string,
						said: v[15] as string | null,
						tries: v[16] as number | null,
						sign: v[17] as MachineSign | null
					}),
			local(v[18] as number | null),
			''
		],
		{ id }
	);
	const blank = (person: string, relation: string, students: string, why: string): string[] => [
		'',
		person,
		relation,
		students,
		...Array.from({ length: head.length - 5 }, () => ''),
		why
	];
	const out = (await leftOutLines(db, id)).map((l) =>
		blank(l.name, l.reached ? 'left out for some' : 'left out', l.students, l.why)
	);
	const students = (await studentsLeftLines(db, id)).map((s) =>
		blank(s.name, studentLeftWords[s.kind], s.name, s.why)
	);
	return writeCsv([[...head], ...rows, ...out, ...students]);
}
