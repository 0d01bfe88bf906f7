import { writeCsv } from '../../../core/format/csv';
import { listFields } from '../../../core/roster/list/fields';
import type { Query } from '../../db/open';
import { ownKey } from './own-keys';

const atATime = 4_000;

/** A condition on `person`, with what it binds. */
interface Which {
	readonly sql: string;
	readonly bind: Readonly<Record<string, string | number | null>>;
}

/**
 * Students as CSV in pieces, each by a key of ours that is signed, so that the table means the same students
 * where it is brought in again; with a column of one more thing that is said of them.
 */
export async function* studentsCsv(
	db: Query,
	secret: Buffer,
	which: Which,
	more: { readonly title: string; readonly sql: string } | null
): AsyncGenerator<string> {
	const heading = (['studentNumber', 'studentName', 'studentGrade', 'studentSchool'] as const).map(
		(field) => listFields[field]
	);
	yield writeCsv([[...heading, ...(more ? [more.title] : [])]]);
	for (let after = 0; ;) {
		const rows = await db.all<{
			id: number;
			name: string;
			grade: string | null;
			school: string | null;
			more: string | null;
		}>(
			`SELECT person.id, given_name || ' ' || family_name AS name, grade_level AS grade, school.name AS school,
				${more?.sql ?? 'NULL'} AS more
			FROM person_now AS person LEFT JOIN school ON school.id = person.school_id
			WHERE person.kind = 'student' AND person.id > $after AND ${which.sql} ORDER BY person.id LIMIT ${atATime}`,
			{ ...which.bind, after }
		);
		if (rows.length === 0) return;
		yield writeCsv(
			rows.map((r) => [
				...[ownKey(secret, 'person', r.id), r.name, r.grade ?? '', r.school ?? ''],
				...(more ? [r.more ?? ''] : [])
			])
		);
		after = rows.at(-1)!.id;
	}
}
