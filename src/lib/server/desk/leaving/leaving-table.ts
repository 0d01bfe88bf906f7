/** What a column holds, in words; instants are UTC (ISO 8601), days ISO dates, yes and no words. */
type ColumnSaid = readonly [name: string, means: string];

/** A table as it leaves: its columns in the order in which the question gives them. */
export interface LeavingTable {
	readonly name: string;
	readonly about: string;
	/** The tables of the database that it is made of. */
	readonly of: readonly string[];
	readonly columns: readonly ColumnSaid[];
	/** A large one is read by and by: `{page}` stands where its rows are told apart, and its first column is what they are told apart by. */
	readonly sql: string;
}

/** An instant as ISO 8601 has it, in UTC. */
export const at = (column: string): string =>
	`iif(${column} IS NULL, NULL, strftime('%Y-%m-%dT%H:%M:%SZ', ${column} / 1000, 'unixepoch'))`;
/** Yes or no; nothing where nobody has said. */
export const yes = (column: string): string =>
	`CASE ${column} WHEN 1 THEN 'yes' WHEN 0 THEN 'no' ELSE NULL END`;

export const personId = ['person_id', 'The person, as in people.csv'] as const satisfies ColumnSaid;
export const studentId = [
	'student_id',
	'The student, as in people.csv'
] as const satisfies ColumnSaid;
export const since = [
	'since',
	'Since when; empty where it was so from the beginning'
] as const satisfies ColumnSaid;
export const gone = [
	'gone_at',
	'Since when it is so no more; empty where it still is'
] as const satisfies ColumnSaid;
