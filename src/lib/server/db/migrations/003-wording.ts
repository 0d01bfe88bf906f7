/** Wording by way and language, files, kept wording, proofs, and how long an announcement stands. */
export const up: readonly string[] = [
	// JSON, checked by Zod on the way out. `subject` and `body` stay: the original's words, for lists.
	`ALTER TABLE dispatch ADD COLUMN wording TEXT NOT NULL DEFAULT ''`,
	`UPDATE dispatch SET wording = json_object('language', 'en', 'words', json_object(
		'subject', subject, 'body', json_object('type', 'doc', 'content', json_array(CASE WHEN body = ''
			THEN json_object('type', 'paragraph')
			ELSE json_object('type', 'paragraph', 'content',
				json_array(json_object('type', 'text', 'text', body))) END))))`,
	// Reply address, section before the subject and below the words, files: JSON.
	`ALTER TABLE dispatch ADD COLUMN letter TEXT NOT NULL DEFAULT '{}'`,
	`ALTER TABLE dispatch ADD COLUMN board TEXT NOT NULL DEFAULT '{}'`,

	// The content lies beside the database, under its hash (SHA-256, hex).
	`CREATE TABLE file (id INTEGER PRIMARY KEY, hash TEXT NOT NULL, name TEXT NOT NULL, type TEXT NOT NULL,
		bytes INTEGER NOT NULL, width INTEGER, height INTEGER, owner_id INTEGER NOT NULL REFERENCES person,
		made_at INTEGER NOT NULL)`,
	// What a sent dispatch shows or hands out: who may read it may open these.
	`CREATE TABLE dispatch_file (dispatch_id INTEGER NOT NULL REFERENCES dispatch ON DELETE CASCADE,
		file_id INTEGER NOT NULL REFERENCES file, PRIMARY KEY (dispatch_id, file_id)) WITHOUT ROWID`,

	`CREATE TABLE kept_wording (id INTEGER PRIMARY KEY, name TEXT NOT NULL, wording TEXT NOT NULL,
		made_by INTEGER NOT NULL REFERENCES person, made_at INTEGER NOT NULL)`,
	`CREATE INDEX kept_wording_maker ON kept_wording (made_by)`,

	// A copy sent to its writer as one recipient would get it: written out when it was asked for.
	`CREATE TABLE proof (id INTEGER PRIMARY KEY, user_id INTEGER NOT NULL REFERENCES person,
		way TEXT NOT NULL CHECK (way IN ('email', 'text', 'inbox')), address TEXT,
		for_name TEXT NOT NULL, letter TEXT NOT NULL,
		state TEXT NOT NULL CHECK (state IN ('waiting', 'sent', 'failed')), detail TEXT NOT NULL,
		made_at INTEGER NOT NULL)`,
	`CREATE INDEX proof_waiting ON proof (state) WHERE state = 'waiting'`
];
