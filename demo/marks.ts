import { setClock } from '../src/lib/server/clock';
import type { Db } from '../src/lib/server/db/open';
import type { PersonRow } from '../src/lib/server/db/models/roster';
import { makeMarker, markerSchema } from '../src/lib/server/desk/markers/change-marker';
import { takeMarks } from '../src/lib/server/desk/markers/list-marks';
import { userNamed } from './history';

const fourDays = 4 * 86_400_000;

/** Makes two markers four days before the demo begins: slips that have come back, and how long ferry passes hold. */
export async function markSome(db: Db, until: number): Promise<void> {
	const maren = await userNamed(db, 'maren');
	await setClock(db, until - fourDays);
	const mark = async (
		over: Record<string, string>,
		sections: string,
		school: number,
		valueOf: (id: number) => string | null
	) => {
		const made = await makeMarker(db, maren, markerSchema.parse({ termId: '', ...over }));
		if (!made.ok) throw new Error(`markers: ${made.why}`);
		const students = await db.all<Pick<PersonRow, 'id'>>(
			`SELECT DISTINCT person.id FROM person_now AS person JOIN enrolment_now ON student_id = person.id
			JOIN section ON section.id = section_id JOIN term ON term.id = term_id
			WHERE school_id = $school AND section.name LIKE $sections AND term_id = 2`,
			{ school, sections }
		);
		const said = students.flatMap(({ id }): [number, string][] => {
			const value = valueOf(id);
			return value === null ? [] : [[id, value]];
		});
		const put = await takeMarks(db, maren, made.id, { said, complete: 'no' });
		if (!put.ok) throw new Error(`markers: ${put.why}`);
	};
	await mark({ name: 'museum slip', kind: 'yes-no', schoolId: '1' }, 'Homeroom 2-%', 1, (id) =>
		id % 3 === 0 ? null : 'yes'
	);
	await mark({ name: 'ferry pass until', kind: 'date', schoolId: '' }, 'Boatbuilding%', 3, (id) =>
		id % 4 === 0 ? null : `2027-0${4 + (id % 5)}-01`
	);
}
