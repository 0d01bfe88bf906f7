import type { Value } from '../../db/many';
import type { Query } from '../../db/open';

/**
 * The tables that a roster is put down in, and that go over where two people are one: by which columns a
 * row is found, and which of its columns may change. What is written, undone and compared follows this list.
 */
export const rowTables = {
	school: { key: ['id'], columns: ['name', 'short_name'] },
	term: { key: ['id'], columns: ['name', 'starts_on', 'ends_on'] },
	course: { key: ['id'], columns: ['school_id', 'code', 'title'] },
	section: {
		key: ['id'],
		columns: ['course_id', 'term_id', 'name', 'period', 'since', 'gone_at']
	},
	person: {
		key: ['id'],
		columns: [
			'kind',
			'given_name',
			'family_name',
			'language',
			'identifier',
			'school_id',
			'grade_level',
			'has_inbox',
			'since',
			'gone_at'
		]
	},
	address: {
		key: ['id'],
		columns: [
			'person_id',
			'way',
			'value',
			'consent',
			'failing',
			'failing_since',
			'slot',
			'consent_at',
			'consent_how',
			'consent_said'
		]
	},
	household: { key: ['id'], columns: ['name', 'since', 'gone_at'] },
	staff: { key: ['person_id', 'school_id', 'role'], columns: [] },
	contact: {
		key: ['student_id', 'person_id'],
		columns: ['relation', 'guardian', 'custody', 'correspondence', 'emergency', 'since', 'gone_at']
	},
	household_member: { key: ['household_id', 'person_id'], columns: [] },
	enrolment: { key: ['section_id', 'student_id'], columns: ['since', 'gone_at'] },
	section_staff: { key: ['section_id', 'person_id'], columns: [] },
	group_member: { key: ['group_id', 'person_id'], columns: ['how', 'since', 'by_id'] },
	marked: {
		key: ['marker_id', 'student_id'],
		columns: ['value', 'how', 'since', 'by_id', 'listed']
	},
	joining: { key: ['id'], columns: ['person_id', 'student_id', 'made_person'] },
	declined: { key: ['person_id', 'kind', 'way'], columns: [] },
	own_time: { key: ['person_id'], columns: ['zone', 'quiet_from', 'quiet_to', 'digest_at'] },
	roster_line: { key: ['source_id', 'file', 'key'], columns: ['said'] },
	known_as: { key: ['source_id', 'kind', 'key'], columns: ['row_id'] }
} as const satisfies Readonly<
	Record<string, { readonly key: readonly string[]; readonly columns: readonly string[] }>
>;
export type RowTable = keyof typeof rowTables;

/** Tables in the order in which their rows name each other. */
export const tablesInOrder = Object.keys(rowTables) as RowTable[];

type Shape<T extends RowTable> = (typeof rowTables)[T];
/** A row, by the names of its columns in the database. */
export type KeptRow<T extends RowTable> = Readonly<
	Record<Shape<T>['key'][number] | Shape<T>['columns'][number], Value>
>;

/** A row of any table. */
export type AnyRow = Readonly<Record<string, Value>>;

/** All columns of a table, its key first. */
export const columnsOfTable = (table: RowTable): readonly string[] => [
	...rowTables[table].key,
	...rowTables[table].columns
];

/** Reads rows of a table by a condition on it. */
export async function rowsWhere<T extends RowTable>(
	db: Query,
	table: T,
	condition: string,
	bind: Readonly<Record<string, string | number>>
): Promise<KeptRow<T>[]> {
	return db.all<KeptRow<T>>(
		`SELECT ${columnsOfTable(table).join(', ')} FROM ${table} WHERE ${condition}`,
		{ ...bind }
	);
}
