/**
 * Evidence with its source and strength, ways in turn, the rule of coverage, answers by mail, and
 * letters to the staff themselves. Run with foreign keys off, since it makes `delivery` anew.
 */
export const up: readonly string[] = [
	// A new state, `spared`: its turn came when its reader had read already. A check cannot be changed in place.
	`CREATE TABLE delivery_new (id INTEGER PRIMARY KEY, dispatch_id INTEGER NOT NULL REFERENCES dispatch ON DELETE CASCADE,
		person_id INTEGER NOT NULL REFERENCES person,
		way TEXT NOT NULL CHECK (way IN ('email', 'text', 'inbox')), address TEXT,
		state TEXT NOT NULL CHECK (state IN ('held', 'planned', 'spared', 'sent', 'delivered', 'failed', 'read', 'answered')),
		state_at INTEGER NOT NULL, due_at INTEGER NOT NULL, attempts INTEGER NOT NULL DEFAULT 0,
		claimed_by TEXT, link_hash TEXT UNIQUE, provider_ref TEXT,
		step INTEGER NOT NULL DEFAULT 0, strength TEXT NOT NULL DEFAULT 'none',
		left_at INTEGER, read_at INTEGER)`,
	`INSERT INTO delivery_new (id, dispatch_id, person_id, way, address, state, state_at, due_at, attempts,
			claimed_by, link_hash, provider_ref, left_at, read_at, strength)
		SELECT id, dispatch_id, person_id, way, address, state, state_at, due_at, attempts, claimed_by, link_hash,
			provider_ref,
			(SELECT min(at) FROM event WHERE delivery_id = delivery.id AND (kind = 'accepted' OR (kind = 'delivered' AND way = 'inbox'))),
			(SELECT min(at) FROM event WHERE delivery_id = delivery.id AND kind IN ('link-followed', 'opened', 'acknowledged', 'answered')),
			CASE
				WHEN EXISTS (SELECT 1 FROM event WHERE delivery_id = delivery.id AND kind IN ('opened', 'acknowledged', 'answered')) THEN 'strong'
				WHEN EXISTS (SELECT 1 FROM event WHERE delivery_id = delivery.id AND kind = 'link-followed') THEN 'fair'
				ELSE 'none' END
		FROM delivery`,
	`DROP TABLE delivery`,
	`ALTER TABLE delivery_new RENAME TO delivery`,
	`CREATE INDEX delivery_dispatch ON delivery (dispatch_id, state)`,
	`CREATE INDEX delivery_person ON delivery (person_id, dispatch_id)`,
	`CREATE INDEX delivery_due ON delivery (way, due_at) WHERE state IN ('held', 'planned')`,
	`CREATE INDEX delivery_provider_ref ON delivery (provider_ref) WHERE provider_ref IS NOT NULL`,
	`CREATE INDEX delivery_left ON delivery (left_at) WHERE left_at IS NOT NULL`,
	`CREATE INDEX delivery_failed ON delivery (state_at) WHERE state = 'failed'`,
	`CREATE INDEX delivery_student_of ON delivery_student (student_id)`,

	`ALTER TABLE event ADD COLUMN source TEXT NOT NULL DEFAULT 'courier'`,
	`ALTER TABLE event ADD COLUMN strength TEXT NOT NULL DEFAULT 'none'`,
	// A hash of where a request came from, kept to tell a machine that opens many people's letters.
	`ALTER TABLE event ADD COLUMN visitor TEXT`,
	// What a request was for: the address behind a link of the words, or a file's name.
	`ALTER TABLE event ADD COLUMN about TEXT`,
	`UPDATE event SET source = 'link', strength = 'fair' WHERE kind = 'link-followed'`,
	`UPDATE event SET source = 'inbox', strength = 'strong' WHERE kind IN ('opened', 'acknowledged', 'answered')`,
	`CREATE INDEX event_visitor ON event (visitor, at) WHERE visitor IS NOT NULL`,

	// Rises with each piece of evidence: what was counted from it is then counted anew.
	`ALTER TABLE dispatch ADD COLUMN evidence INTEGER NOT NULL DEFAULT 0`,
	`ALTER TABLE dispatch ADD COLUMN cover TEXT NOT NULL DEFAULT 'adult'
		CHECK (cover IN ('adult', 'households', 'student-too'))`,
	// Ways that wait for those before them: JSON, checked by Zod on the way out.
	`ALTER TABLE dispatch ADD COLUMN turns TEXT NOT NULL DEFAULT '[]'`,
	`ALTER TABLE dispatch ADD COLUMN chases INTEGER REFERENCES dispatch ON DELETE SET NULL`,
	// When its account was written, once it had ended.
	`ALTER TABLE dispatch ADD COLUMN reported_at INTEGER`,

	// How the courier is: since when, what ails it, receipts of texts that nobody knows.
	`ALTER TABLE courier ADD COLUMN started_at INTEGER NOT NULL DEFAULT 0`,
	`ALTER TABLE courier ADD COLUMN trouble TEXT NOT NULL DEFAULT ''`,
	`ALTER TABLE courier ADD COLUMN trouble_at INTEGER NOT NULL DEFAULT 0`,
	`ALTER TABLE courier ADD COLUMN strangers INTEGER NOT NULL DEFAULT 0`,
	// How long a way is slowed down, since its provider asked for less; 0 where it is not.
	`ALTER TABLE courier_way ADD COLUMN slow_ms INTEGER NOT NULL DEFAULT 0`,

	// An answer that came in by mail. The same letter comes in once.
	`CREATE TABLE answer (id INTEGER PRIMARY KEY, delivery_id INTEGER NOT NULL REFERENCES delivery ON DELETE CASCADE,
		at INTEGER NOT NULL, from_name TEXT NOT NULL, from_address TEXT NOT NULL, subject TEXT NOT NULL,
		text TEXT NOT NULL, message_key TEXT NOT NULL, UNIQUE (delivery_id, message_key))`,
	// An address that failed and is used again: by whom, and what it was before.
	`CREATE TABLE mended (id INTEGER PRIMARY KEY, address_id INTEGER NOT NULL REFERENCES address ON DELETE CASCADE,
		at INTEGER NOT NULL, by_id INTEGER NOT NULL REFERENCES person, before TEXT NOT NULL, after TEXT NOT NULL)`,
	`CREATE INDEX mended_address ON mended (address_id, at)`,
	`CREATE INDEX delivery_address ON delivery (address COLLATE NOCASE, id) WHERE address IS NOT NULL`,
	// A letter to a member of the staff: an answer passed on, an account, a digest.
	`CREATE TABLE notice (id INTEGER PRIMARY KEY, key TEXT NOT NULL UNIQUE, person_id INTEGER NOT NULL REFERENCES person,
		kind TEXT NOT NULL, subject TEXT NOT NULL, html TEXT NOT NULL, text TEXT NOT NULL, reply_to TEXT,
		dispatch_id INTEGER REFERENCES dispatch ON DELETE CASCADE, made_at INTEGER NOT NULL,
		address TEXT, state TEXT NOT NULL CHECK (state IN ('waiting', 'sent', 'failed', 'inbox')),
		due_at INTEGER NOT NULL, attempts INTEGER NOT NULL DEFAULT 0, detail TEXT NOT NULL DEFAULT '', read_at INTEGER)`,
	`CREATE INDEX notice_waiting ON notice (due_at) WHERE state = 'waiting'`,
	`CREATE INDEX notice_person ON notice (person_id, made_at)`
];
