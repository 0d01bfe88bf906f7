import { anew, list } from './anew';

/**
 * Ready for rosters and for rights: where people, sections, enrolments, contacts and households come
 * from, since when, and since when they are gone; roles as rows. What ways, kinds, states and roles
 * there are is held by Zod and the models, so that a new one needs no table made anew.
 */
const origin = ['source TEXT', 'source_id TEXT', 'since INTEGER', 'gone_at INTEGER'];
const tables = ['person', 'section', 'enrolment', 'contact', 'household'];

/** A full-text index over some columns of a table: without accents, by the beginnings of words. */
function searched(index: string, table: string, columns: readonly string[]): string[] {
	const names = columns.join(', ');
	const of = (row: 'new' | 'old') => columns.map((column) => `${row}.${column}`).join(', ');
	const put = `INSERT INTO ${index} (rowid, ${names}) VALUES (new.id, ${of('new')});`;
	const take = `INSERT INTO ${index} (${index}, rowid, ${names}) VALUES ('delete', old.id, ${of('old')});`;
	return [
		`CREATE VIRTUAL TABLE ${index} USING fts5 (${names}, content = '${table}', content_rowid = 'id',
			tokenize = 'unicode61 remove_diacritics 2', prefix = '1 2 3')`,
		`INSERT INTO ${index} (${index}) VALUES ('rebuild')`,
		`CREATE TRIGGER ${index}_put AFTER INSERT ON ${table} BEGIN ${put} END`,
		`CREATE TRIGGER ${index}_take AFTER DELETE ON ${table} BEGIN ${take} END`,
		`CREATE TRIGGER ${index}_change AFTER UPDATE OF ${names} ON ${table} BEGIN ${take} ${put} END`
	];
}

export const up: readonly string[] = [
	...anew(
		'person',
		`id INTEGER PRIMARY KEY, kind TEXT NOT NULL, given_name TEXT NOT NULL, family_name TEXT NOT NULL,
		language TEXT NOT NULL, school_id INTEGER REFERENCES school, grade_level TEXT, has_inbox INTEGER NOT NULL`,
		list('id kind given_name family_name language school_id grade_level has_inbox')
	),
	'CREATE INDEX person_school ON person (school_id)',
	...anew(
		'address',
		`id INTEGER PRIMARY KEY, person_id INTEGER NOT NULL REFERENCES person, way TEXT NOT NULL, value TEXT NOT NULL,
		consent TEXT NOT NULL, failing TEXT, failing_since INTEGER`,
		list('id person_id way value consent failing failing_since')
	),
	'CREATE INDEX address_person ON address (person_id)',
	'CREATE INDEX address_value ON address (value COLLATE NOCASE)',
	'CREATE INDEX address_failing ON address (way) WHERE failing IS NOT NULL',
	`CREATE INDEX address_end ON address (substr(value, -2)) WHERE way = 'text'`,
	'ALTER TABLE declined RENAME TO declined_before',
	`CREATE TABLE declined (person_id INTEGER NOT NULL REFERENCES person, kind TEXT NOT NULL, way TEXT NOT NULL,
		PRIMARY KEY (person_id, kind, way)) WITHOUT ROWID`,
	'INSERT INTO declined SELECT person_id, kind, way FROM declined_before',
	'DROP TABLE declined_before',
	...anew(
		'kept_audience',
		`id INTEGER PRIMARY KEY, name TEXT NOT NULL, form TEXT NOT NULL, audience TEXT NOT NULL, words TEXT NOT NULL,
		made_by INTEGER NOT NULL REFERENCES person, made_at INTEGER NOT NULL, used_at INTEGER NOT NULL, gone_at INTEGER`,
		list('id name form audience words made_by made_at used_at gone_at')
	),
	'CREATE INDEX kept_audience_maker ON kept_audience (made_by)',
	...anew(
		'school_event',
		`id INTEGER PRIMARY KEY, uid TEXT NOT NULL UNIQUE, title TEXT NOT NULL, starts_local TEXT NOT NULL,
		ends_local TEXT NOT NULL, all_day INTEGER NOT NULL, starts_at INTEGER NOT NULL, ends_at INTEGER NOT NULL,
		place TEXT NOT NULL, school_ids TEXT NOT NULL, section_ids TEXT NOT NULL, state TEXT NOT NULL,
		made_by INTEGER NOT NULL REFERENCES person, changed_at INTEGER NOT NULL`,
		list(`id uid title starts_local ends_local all_day starts_at ends_at place school_ids section_ids state made_by
			changed_at`)
	),
	'CREATE INDEX school_event_start ON school_event (starts_at)',

	...tables.flatMap((table) => origin.map((column) => `ALTER TABLE ${table} ADD COLUMN ${column}`)),
	// The same thing of the same source is one row. An enrolment and a contact are found by whom they tie.
	...['person', 'section', 'household'].map(
		(table) =>
			`CREATE UNIQUE INDEX ${table}_source ON ${table} (source, source_id) WHERE source_id IS NOT NULL`
	),

	// What someone is here: neither school nor section is the whole district. In force from its start to before its end.
	`CREATE TABLE role (id INTEGER PRIMARY KEY AUTOINCREMENT, person_id INTEGER NOT NULL REFERENCES person,
		role TEXT NOT NULL, school_id INTEGER REFERENCES school, section_id INTEGER REFERENCES section,
		starts_at INTEGER NOT NULL, ends_at INTEGER)`,
	'CREATE INDEX role_person ON role (person_id)',
	'CREATE INDEX role_school ON role (school_id)',
	'CREATE INDEX role_section ON role (section_id)',
	'INSERT INTO role (person_id, role, school_id, starts_at) SELECT person_id, role, school_id, 0 FROM sign_in',
	...anew(
		'sign_in',
		`person_id INTEGER PRIMARY KEY REFERENCES person, user_name TEXT NOT NULL UNIQUE, password_hash TEXT NOT NULL,
		title TEXT NOT NULL`,
		list('person_id user_name password_hash title')
	),

	// What there is now, without what has gone: for whoever is chosen, written to or counted. What was, is read from the table.
	...tables.map(
		(table) => `CREATE VIEW ${table}_now AS SELECT * FROM ${table} WHERE gone_at IS NULL`
	),

	// Few of all events are taps on a link of the words; Reach lists them.
	`CREATE INDEX event_words_link ON event (delivery_id) WHERE kind = 'words-link-followed'`,

	// Full-text indexes of what lists are searched by (sqlite.org/fts5.html section 4.4.3: external content, kept by triggers).
	...searched('person_words', 'person', ['given_name', 'family_name']),
	...searched('dispatch_words', 'dispatch', ['subject', 'body', 'audience_words']),
	...searched('section_words', 'section', ['name'])
];
