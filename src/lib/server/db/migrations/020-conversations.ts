/** Conversations: what families send back by any way, beside what it answers, and what is answered to them. */
export const up: readonly string[] = [
	`CREATE TABLE conversation (id INTEGER PRIMARY KEY AUTOINCREMENT, dispatch_id INTEGER REFERENCES dispatch ON DELETE CASCADE,
		person_id INTEGER REFERENCES person, number TEXT, section_id INTEGER REFERENCES section,
		school_id INTEGER REFERENCES school, handler_id INTEGER REFERENCES person, subject TEXT NOT NULL DEFAULT '',
		state TEXT NOT NULL, state_at INTEGER NOT NULL, aside_until INTEGER, since INTEGER, unread INTEGER NOT NULL,
		alike TEXT, way TEXT NOT NULL, last_at INTEGER NOT NULL,
		nonce TEXT NOT NULL DEFAULT (lower(hex(randomblob(16)))))`,
	'CREATE UNIQUE INDEX conversation_one ON conversation (dispatch_id, person_id) WHERE dispatch_id IS NOT NULL',
	'CREATE UNIQUE INDEX conversation_number ON conversation (number) WHERE number IS NOT NULL',
	'CREATE INDEX conversation_person ON conversation (person_id)',
	// What a place of work shows: whose, how it stands, since when.
	'CREATE INDEX conversation_state ON conversation (state, since, handler_id, school_id, section_id, way, aside_until)',
	'CREATE INDEX conversation_handler ON conversation (handler_id, state)',
	'CREATE INDEX conversation_school ON conversation (school_id, state)',
	'CREATE INDEX conversation_section ON conversation (section_id)',

	// Answers by mail that are here, each with the conversation that it is in; what was passed on to its sender waits for nobody.
	`INSERT INTO conversation (dispatch_id, person_id, school_id, handler_id, state, state_at, unread, way, last_at)
		SELECT dispatch.id, delivery.person_id, dispatch.school_id, dispatch.sender_id, 'settled', max(answer.at), 0, 'email', max(answer.at)
		FROM answer JOIN delivery ON delivery.id = delivery_id JOIN dispatch ON dispatch.id = dispatch_id
		GROUP BY dispatch.id, delivery.person_id`,
	'ALTER TABLE answer RENAME TO answer_before',
	'DROP INDEX answer_at',
	`CREATE TABLE answer (id INTEGER PRIMARY KEY AUTOINCREMENT, conversation_id INTEGER NOT NULL REFERENCES conversation ON DELETE CASCADE,
		delivery_id INTEGER REFERENCES delivery ON DELETE SET NULL, at INTEGER NOT NULL, way TEXT NOT NULL,
		from_name TEXT NOT NULL DEFAULT '', from_address TEXT NOT NULL DEFAULT '', known INTEGER NOT NULL,
		subject TEXT NOT NULL DEFAULT '', text TEXT NOT NULL, whole TEXT NOT NULL DEFAULT '', message_key TEXT NOT NULL,
		message_id TEXT, doubt TEXT, translated TEXT, translated_to TEXT)`,
	`INSERT INTO answer (conversation_id, delivery_id, at, way, from_name, from_address, known, subject, text, message_key, doubt)
		SELECT conversation.id, answer_before.delivery_id, answer_before.at, 'email', from_name, from_address,
			EXISTS (SELECT 1 FROM address WHERE address.person_id = conversation.person_id AND value = from_address COLLATE NOCASE),
			answer_before.subject, answer_before.text, message_key, doubt
		FROM answer_before JOIN delivery ON delivery.id = delivery_id
		JOIN conversation ON conversation.dispatch_id = delivery.dispatch_id AND conversation.person_id = delivery.person_id
		WHERE true ORDER BY answer_before.id`,
	'DROP TABLE answer_before',

	// Texts that phones sent and that asked for nothing by themselves are answers too.
	`INSERT OR IGNORE INTO conversation (dispatch_id, person_id, school_id, handler_id, state, state_at, unread, way, last_at)
		SELECT dispatch.id, text_in.person_id, dispatch.school_id, dispatch.sender_id, 'settled', max(text_in.at), 0, 'text', max(text_in.at)
		FROM text_in JOIN delivery ON delivery.id = delivery_id JOIN dispatch ON dispatch.id = dispatch_id
		WHERE command IS NULL AND text_in.person_id IS NOT NULL GROUP BY dispatch.id, text_in.person_id`,
	`UPDATE conversation SET section_id = (SELECT section_id FROM delivery JOIN delivery_student ON delivery_id = delivery.id
			JOIN dispatch_student ON dispatch_student.dispatch_id = delivery.dispatch_id
				AND dispatch_student.student_id = delivery_student.student_id
			WHERE delivery.dispatch_id = conversation.dispatch_id AND delivery.person_id = conversation.person_id
			ORDER BY section_id IS NULL, delivery_student.student_id LIMIT 1)`,
	`INSERT INTO conversation (number, state, state_at, unread, way, last_at)
		SELECT from_number, 'settled', max(at), 0, 'text', max(at) FROM text_in
		WHERE command IS NULL AND (delivery_id IS NULL OR person_id IS NULL) GROUP BY from_number`,
	`INSERT INTO answer (conversation_id, delivery_id, at, way, from_address, known, text, message_key)
		SELECT conversation.id, text_in.delivery_id, text_in.at, 'text', from_number, 1, words, 'text ' || text_in.id
		FROM text_in JOIN delivery ON delivery.id = text_in.delivery_id
		JOIN conversation ON conversation.dispatch_id = delivery.dispatch_id AND conversation.person_id = text_in.person_id
		WHERE command IS NULL`,
	`INSERT INTO answer (conversation_id, at, way, from_address, known, text, message_key)
		SELECT conversation.id, text_in.at, 'text', from_number, 0, words, 'text ' || text_in.id
		FROM text_in JOIN conversation ON number = from_number
		WHERE command IS NULL AND (delivery_id IS NULL OR text_in.person_id IS NULL)`,
	'DELETE FROM text_in WHERE command IS NULL',

	'CREATE UNIQUE INDEX answer_once ON answer (conversation_id, message_key)',
	'CREATE INDEX answer_delivery ON answer (delivery_id, at)',
	`CREATE INDEX answer_phone ON answer (from_address, at) WHERE way = 'text'`,
	`CREATE TABLE answer_file (id INTEGER PRIMARY KEY AUTOINCREMENT, answer_id INTEGER NOT NULL REFERENCES answer ON DELETE CASCADE,
		name TEXT NOT NULL, type TEXT NOT NULL, bytes INTEGER NOT NULL, hash TEXT, width INTEGER, height INTEGER, why TEXT)`,
	'CREATE INDEX answer_file_answer ON answer_file (answer_id)',
	`CREATE TABLE conversation_copy (delivery_id INTEGER PRIMARY KEY REFERENCES delivery ON DELETE CASCADE,
		conversation_id INTEGER NOT NULL REFERENCES conversation ON DELETE CASCADE)`,
	'CREATE INDEX conversation_copy_of ON conversation_copy (conversation_id)',
	`CREATE TABLE conversation_guest (conversation_id INTEGER NOT NULL REFERENCES conversation ON DELETE CASCADE,
		person_id INTEGER NOT NULL REFERENCES person, by_id INTEGER NOT NULL REFERENCES person, at INTEGER NOT NULL,
		PRIMARY KEY (conversation_id, person_id)) WITHOUT ROWID`,
	'CREATE INDEX conversation_guest_person ON conversation_guest (person_id)',
	'CREATE INDEX conversation_guest_by ON conversation_guest (by_id)',
	`CREATE TABLE conversation_act (id INTEGER PRIMARY KEY AUTOINCREMENT, conversation_id INTEGER NOT NULL REFERENCES conversation ON DELETE CASCADE,
		at INTEGER NOT NULL, by_id INTEGER REFERENCES person, act TEXT NOT NULL, what TEXT NOT NULL DEFAULT '{}')`,
	'CREATE INDEX conversation_act_of ON conversation_act (conversation_id, at)',
	'CREATE INDEX conversation_act_by ON conversation_act (by_id)',
	// What staff answer to a letter that tells of an answer goes into its conversation, and to no family's own address.
	'ALTER TABLE notice ADD COLUMN conversation_id INTEGER REFERENCES conversation ON DELETE SET NULL',
	`UPDATE notice SET conversation_id = (SELECT conversation.id FROM delivery
		JOIN conversation ON conversation.dispatch_id = delivery.dispatch_id AND conversation.person_id = delivery.person_id
		WHERE delivery.id = CAST(substr(key, 8) AS INTEGER)) WHERE kind = 'answer'`,
	'CREATE INDEX notice_conversation ON notice (conversation_id)',
	'ALTER TABLE notice DROP COLUMN reply_to',

	// Found again by words: sqlite.org/fts5.html section 4.4.3, external content, kept by triggers.
	`CREATE VIRTUAL TABLE answer_words USING fts5 (subject, text, content = 'answer', content_rowid = 'id',
		tokenize = 'unicode61 remove_diacritics 2', prefix = '1 2 3')`,
	`INSERT INTO answer_words (answer_words) VALUES ('rebuild')`,
	`CREATE TRIGGER answer_words_put AFTER INSERT ON answer BEGIN
		INSERT INTO answer_words (rowid, subject, text) VALUES (new.id, new.subject, new.text); END`,
	`CREATE TRIGGER answer_words_take AFTER DELETE ON answer BEGIN
		INSERT INTO answer_words (answer_words, rowid, subject, text) VALUES ('delete', old.id, old.subject, old.text); END`,
	`CREATE TRIGGER answer_words_change AFTER UPDATE OF subject, text ON answer BEGIN
		INSERT INTO answer_words (answer_words, rowid, subject, text) VALUES ('delete', old.id, old.subject, old.text);
		INSERT INTO answer_words (rowid, subject, text) VALUES (new.id, new.subject, new.text); END`
];
