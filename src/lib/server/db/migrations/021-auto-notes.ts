/** What is said to somebody by itself: to whoever joins an open group, as before, and to whoever answered a text or a letter. */
export const up: readonly string[] = [
	`CREATE TABLE auto_note (id INTEGER PRIMARY KEY AUTOINCREMENT, kind TEXT NOT NULL, way TEXT NOT NULL, address TEXT NOT NULL,
		name TEXT NOT NULL DEFAULT '', language TEXT NOT NULL, joining_id INTEGER REFERENCES joining,
		conversation_id INTEGER REFERENCES conversation ON DELETE CASCADE, delivery_id INTEGER REFERENCES delivery ON DELETE SET NULL,
		words TEXT NOT NULL DEFAULT '', made_at INTEGER NOT NULL, due_at INTEGER NOT NULL, state TEXT NOT NULL,
		attempts INTEGER NOT NULL DEFAULT 0, detail TEXT NOT NULL DEFAULT '', answers TEXT,
		nonce TEXT NOT NULL DEFAULT (lower(hex(randomblob(16)))))`,
	`INSERT INTO auto_note (id, kind, way, address, name, language, joining_id, made_at, due_at, state, attempts, detail, answers, nonce)
		SELECT join_note.id, kind, way, address, name, language, joining_id, made_at, due_at, join_note.state, attempts, detail,
			answers, join_note.nonce
		FROM join_note JOIN joining ON joining.id = joining_id ORDER BY join_note.id`,
	'DROP TABLE join_note',
	'CREATE INDEX auto_note_joining ON auto_note (joining_id, made_at)',
	'CREATE INDEX auto_note_conversation ON auto_note (conversation_id, kind)',
	'CREATE INDEX auto_note_delivery ON auto_note (delivery_id)',
	'CREATE INDEX auto_note_address ON auto_note (address, made_at)',
	"CREATE INDEX auto_note_waiting ON auto_note (way, due_at) WHERE state = 'waiting'",
	// When somebody is away, and what whoever writes to them meanwhile is told, once each.
	`CREATE TABLE away (id INTEGER PRIMARY KEY AUTOINCREMENT, person_id INTEGER NOT NULL REFERENCES person,
		starts_at INTEGER NOT NULL, ends_at INTEGER NOT NULL, words TEXT NOT NULL, made_at INTEGER NOT NULL, ended_at INTEGER)`,
	'CREATE INDEX away_person ON away (person_id, ends_at)',
	`CREATE TABLE away_told (away_id INTEGER NOT NULL REFERENCES away ON DELETE CASCADE, person_id INTEGER NOT NULL REFERENCES person,
		at INTEGER NOT NULL, PRIMARY KEY (away_id, person_id)) WITHOUT ROWID`,
	'CREATE INDEX away_told_person ON away_told (person_id)'
];
