/**
 * Rosters come in: what each source said of what, line by line; which row is whose; what a file did,
 * so that it can be taken back; who changed what of a person. Custody may be what nobody has said yet.
 */
const origins = ['person', 'section', 'enrolment', 'contact', 'household'];
const bySource = ['person', 'section', 'household'];

const named = [
	['round', 'made_by'],
	['mended', 'by_id'],
	['dispatch', 'urgent_by'],
	['dispatch', 'changed_by'],
	['family_link', 'made_by'],
	['school_event', 'made_by'],
	['roster_file', 'by_id'],
	['roster_file', 'taken_by'],
	['roster_file', 'back_by'],
	['same_or_other', 'person_id'],
	['same_or_other', 'by_id'],
	['person_change', 'about_id'],
	['person_change', 'by_id']
] as const;

export const up: readonly string[] = [
	// One row can be known to several sources, so its names there have a table of their own.
	...origins.map((table) => `DROP VIEW ${table}_now`),
	...bySource.map((table) => `DROP INDEX ${table}_source`),
	...origins
		.filter((table) => table !== 'contact')
		.flatMap((table) => [
			`ALTER TABLE ${table} DROP COLUMN source`,
			`ALTER TABLE ${table} DROP COLUMN source_id`
		]),
	`CREATE TABLE contact_new (student_id INTEGER NOT NULL REFERENCES person, person_id INTEGER NOT NULL REFERENCES person,
		relation TEXT NOT NULL, guardian INTEGER NOT NULL, custody INTEGER, correspondence INTEGER NOT NULL,
		emergency INTEGER NOT NULL, since INTEGER, gone_at INTEGER, PRIMARY KEY (student_id, person_id)) WITHOUT ROWID`,
	`INSERT INTO contact_new SELECT student_id, person_id, relation, guardian, custody, correspondence, emergency,
		since, gone_at FROM contact`,
	'DROP TABLE contact',
	'ALTER TABLE contact_new RENAME TO contact',
	'CREATE INDEX contact_of ON contact (person_id)',
	'CREATE INDEX contact_unsaid ON contact (relation) WHERE custody IS NULL',
	'ALTER TABLE person ADD COLUMN identifier TEXT',
	'CREATE INDEX person_identifier ON person (identifier) WHERE identifier IS NOT NULL',
	// Which cell of a roster's line an address is from: a person's addresses are told apart by it.
	'ALTER TABLE address ADD COLUMN slot TEXT',
	...origins.map(
		(table) => `CREATE VIEW ${table}_now AS SELECT * FROM ${table} WHERE gone_at IS NULL`
	),

	`CREATE TABLE roster_source (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL UNIQUE, kind TEXT NOT NULL,
		made_at INTEGER NOT NULL, custody TEXT NOT NULL DEFAULT '{}', most_share REAL NOT NULL DEFAULT 0.1,
		folder TEXT, applied_on TEXT, next_turn TEXT)`,
	`CREATE TABLE roster_line (source_id INTEGER NOT NULL REFERENCES roster_source, file TEXT NOT NULL, key TEXT NOT NULL,
		said TEXT NOT NULL, PRIMARY KEY (source_id, file, key)) WITHOUT ROWID`,
	`CREATE TABLE known_as (source_id INTEGER NOT NULL REFERENCES roster_source, kind TEXT NOT NULL, key TEXT NOT NULL,
		row_id INTEGER NOT NULL, PRIMARY KEY (source_id, kind, key)) WITHOUT ROWID`,
	'CREATE INDEX known_as_row ON known_as (kind, row_id)',
	`CREATE TABLE roster_file (id INTEGER PRIMARY KEY AUTOINCREMENT, source_id INTEGER NOT NULL REFERENCES roster_source,
		name TEXT NOT NULL, hash TEXT, bytes INTEGER NOT NULL, state TEXT NOT NULL, came_at INTEGER NOT NULL,
		by_id INTEGER REFERENCES person, looked TEXT, why TEXT, custody TEXT NOT NULL DEFAULT '{}',
		changed_at INTEGER NOT NULL, taken_at INTEGER, taken_by INTEGER REFERENCES person,
		back_at INTEGER, back_by INTEGER REFERENCES person)`,
	'CREATE INDEX roster_file_source ON roster_file (source_id)',
	'CREATE INDEX roster_file_state ON roster_file (state)',
	`CREATE TABLE roster_undo (file_id INTEGER NOT NULL REFERENCES roster_file ON DELETE CASCADE, part INTEGER NOT NULL,
		rows TEXT NOT NULL, PRIMARY KEY (file_id, part)) WITHOUT ROWID`,
	`CREATE TABLE same_or_other (source_id INTEGER NOT NULL REFERENCES roster_source, key TEXT NOT NULL,
		person_id INTEGER NOT NULL REFERENCES person, same INTEGER NOT NULL, at INTEGER NOT NULL,
		by_id INTEGER NOT NULL REFERENCES person, PRIMARY KEY (source_id, key, person_id)) WITHOUT ROWID`,
	`CREATE TABLE person_change (id INTEGER PRIMARY KEY AUTOINCREMENT, at INTEGER NOT NULL, by_id INTEGER REFERENCES person,
		file_id INTEGER REFERENCES roster_file, person_id INTEGER NOT NULL REFERENCES person, field TEXT NOT NULL,
		about_id INTEGER REFERENCES person, before TEXT, after TEXT, disputed INTEGER NOT NULL DEFAULT 0)`,
	'CREATE INDEX person_change_person ON person_change (person_id)',
	'CREATE INDEX person_change_file ON person_change (file_id)',

	// What names a person is found by an index: taking a roster back may delete tens of thousands.
	...named.map(([table, column]) => `CREATE INDEX ${table}_${column} ON ${table} (${column})`)
];
