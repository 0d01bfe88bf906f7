/**
 * Numbers that are never used again, a random value for whatever is named outside, a lease for the
 * courier, and the mark by which a database that was put back is noticed. Run with foreign keys off,
 * since it makes tables anew.
 *
 * What existed before keeps its number as its value, so that links, Message-IDs and return addresses
 * that are out in the world stay what they were. Lists of ways, states and kinds are held by Zod and the
 * types; a check in the table would have to make it anew for each new state.
 */
import { anew, list } from './anew';

const nonce = `nonce TEXT NOT NULL DEFAULT (lower(hex(randomblob(16))))`;

const asText = 'CAST(id AS TEXT)';

export const up: readonly string[] = [
	...anew(
		'dispatch',
		`id INTEGER PRIMARY KEY AUTOINCREMENT, sheet_key TEXT NOT NULL UNIQUE, subject TEXT NOT NULL, body TEXT NOT NULL,
		audience TEXT NOT NULL, audience_words TEXT NOT NULL, ways TEXT NOT NULL, hold_minutes INTEGER NOT NULL,
		sender_id INTEGER NOT NULL REFERENCES person, school_id INTEGER REFERENCES school, state TEXT NOT NULL,
		changed_at INTEGER NOT NULL, scheduled_at INTEGER, leaves_at INTEGER, sent_at INTEGER,
		kind TEXT NOT NULL DEFAULT 'message', handling TEXT NOT NULL DEFAULT '{}', wording TEXT NOT NULL DEFAULT '',
		letter TEXT NOT NULL DEFAULT '{}', board TEXT NOT NULL DEFAULT '{}', timing TEXT NOT NULL DEFAULT '{}',
		ends_at INTEGER, settled INTEGER NOT NULL DEFAULT 1, plan INTEGER NOT NULL DEFAULT 0, waits TEXT,
		round_id INTEGER REFERENCES round, round_key TEXT, own_time INTEGER NOT NULL DEFAULT 0,
		changed_by INTEGER REFERENCES person, expected TEXT NOT NULL DEFAULT '{}', evidence INTEGER NOT NULL DEFAULT 0,
		cover TEXT NOT NULL DEFAULT 'adult', turns TEXT NOT NULL DEFAULT '[]',
		chases INTEGER REFERENCES dispatch ON DELETE SET NULL, reported_at INTEGER`,
		list(`id sheet_key subject body audience audience_words ways hold_minutes sender_id school_id state changed_at
			scheduled_at leaves_at sent_at kind handling wording letter board timing ends_at settled plan waits round_id
			round_key own_time changed_by expected evidence cover turns chases reported_at`)
	),
	`CREATE INDEX dispatch_leaves ON dispatch (leaves_at)`,
	`CREATE INDEX dispatch_sender ON dispatch (sender_id, changed_at)`,
	`CREATE INDEX dispatch_round ON dispatch (round_id) WHERE round_id IS NOT NULL`,
	`CREATE INDEX dispatch_state ON dispatch (state, leaves_at)`,
	`CREATE UNIQUE INDEX dispatch_round_key ON dispatch (round_id, round_key) WHERE round_id IS NOT NULL`,

	...anew(
		'delivery',
		`id INTEGER PRIMARY KEY AUTOINCREMENT, dispatch_id INTEGER NOT NULL REFERENCES dispatch ON DELETE CASCADE,
		person_id INTEGER NOT NULL REFERENCES person, way TEXT NOT NULL, address TEXT, state TEXT NOT NULL,
		state_at INTEGER NOT NULL, due_at INTEGER NOT NULL, attempts INTEGER NOT NULL DEFAULT 0,
		claimed_by INTEGER, link_hash TEXT UNIQUE, provider_ref TEXT, step INTEGER NOT NULL DEFAULT 0,
		strength TEXT NOT NULL DEFAULT 'none', left_at INTEGER, read_at INTEGER,
		unanswered INTEGER NOT NULL DEFAULT 0, ${nonce}`,
		list(`id dispatch_id person_id way address state state_at due_at attempts link_hash provider_ref step strength
			left_at read_at`),
		{ nonce: asText }
	),
	`CREATE INDEX delivery_dispatch ON delivery (dispatch_id, state)`,
	`CREATE INDEX delivery_person ON delivery (person_id, dispatch_id)`,
	`CREATE INDEX delivery_due ON delivery (way, due_at) WHERE state IN ('held', 'planned')`,
	`CREATE INDEX delivery_claimed ON delivery (claimed_by) WHERE claimed_by IS NOT NULL`,
	`CREATE INDEX delivery_provider_ref ON delivery (provider_ref) WHERE provider_ref IS NOT NULL`,
	`CREATE INDEX delivery_left ON delivery (left_at) WHERE left_at IS NOT NULL`,
	`CREATE INDEX delivery_unanswered ON delivery (state_at) WHERE unanswered > 1`,
	`CREATE INDEX delivery_failed ON delivery (state_at) WHERE state = 'failed'`,
	`CREATE INDEX delivery_address ON delivery (address COLLATE NOCASE, id) WHERE address IS NOT NULL`,

	...anew(
		'event',
		`id INTEGER PRIMARY KEY AUTOINCREMENT, delivery_id INTEGER NOT NULL REFERENCES delivery ON DELETE CASCADE,
		at INTEGER NOT NULL, kind TEXT NOT NULL, detail TEXT NOT NULL, source TEXT NOT NULL DEFAULT 'courier',
		strength TEXT NOT NULL DEFAULT 'none', visitor TEXT, about TEXT, code TEXT`,
		list('id delivery_id at kind detail source strength visitor about')
	),
	`CREATE INDEX event_delivery ON event (delivery_id)`,
	`CREATE INDEX event_visitor ON event (visitor, at) WHERE visitor IS NOT NULL`,

	...anew(
		'family_link',
		`id INTEGER PRIMARY KEY AUTOINCREMENT, token_hash TEXT NOT NULL UNIQUE,
		person_id INTEGER NOT NULL REFERENCES person, ends_at INTEGER NOT NULL, ${nonce}`,
		list('id token_hash person_id ends_at'),
		{ nonce: asText }
	),

	...anew(
		'file',
		`id INTEGER PRIMARY KEY AUTOINCREMENT, hash TEXT NOT NULL, name TEXT NOT NULL, type TEXT NOT NULL,
		bytes INTEGER NOT NULL, width INTEGER, height INTEGER, owner_id INTEGER NOT NULL REFERENCES person,
		made_at INTEGER NOT NULL`,
		list('id hash name type bytes width height owner_id made_at')
	),

	...anew(
		'proof',
		`id INTEGER PRIMARY KEY AUTOINCREMENT, user_id INTEGER NOT NULL REFERENCES person, way TEXT NOT NULL, address TEXT,
		for_name TEXT NOT NULL, letter TEXT NOT NULL, state TEXT NOT NULL, detail TEXT NOT NULL,
		made_at INTEGER NOT NULL, ${nonce}`,
		list('id user_id way address for_name letter state detail made_at'),
		{ nonce: asText }
	),
	`CREATE INDEX proof_waiting ON proof (state) WHERE state = 'waiting'`,

	...anew(
		'notice',
		`id INTEGER PRIMARY KEY AUTOINCREMENT, key TEXT NOT NULL UNIQUE, person_id INTEGER NOT NULL REFERENCES person,
		kind TEXT NOT NULL, subject TEXT NOT NULL, html TEXT NOT NULL, text TEXT NOT NULL, reply_to TEXT,
		dispatch_id INTEGER REFERENCES dispatch ON DELETE CASCADE, made_at INTEGER NOT NULL,
		address TEXT, state TEXT NOT NULL, due_at INTEGER NOT NULL, attempts INTEGER NOT NULL DEFAULT 0,
		detail TEXT NOT NULL DEFAULT '', read_at INTEGER, ${nonce}`,
		list(`id key person_id kind subject html text reply_to dispatch_id made_at address state due_at attempts detail
			read_at`),
		{ nonce: asText }
	),
	`CREATE INDEX notice_waiting ON notice (due_at) WHERE state = 'waiting'`,
	`CREATE INDEX notice_person ON notice (person_id, made_at)`,

	// What came back by mail about a copy, as it came: what a person reads in it, and the part for machines.
	`CREATE TABLE returned_mail (id INTEGER PRIMARY KEY AUTOINCREMENT,
		delivery_id INTEGER NOT NULL REFERENCES delivery ON DELETE CASCADE, at INTEGER NOT NULL, code TEXT NOT NULL,
		words TEXT NOT NULL, machine TEXT NOT NULL, looked_at INTEGER)`,
	`CREATE INDEX returned_mail_of ON returned_mail (delivery_id, at)`,
	// Not null where it may have come from a machine: why, as a code. Null again once a person has said it did not.
	`ALTER TABLE answer ADD COLUMN doubt TEXT`,
	`CREATE INDEX answer_at ON answer (at)`,

	// Which courier is in office: each new one has the next fence, which its claims carry; its beats are counted, so
	// that whoever waits can see it live without comparing clocks. Where it runs is JSON.
	`DROP TABLE courier`,
	`CREATE TABLE courier (id INTEGER PRIMARY KEY CHECK (id = 1), instance TEXT NOT NULL, fence INTEGER NOT NULL,
		beats INTEGER NOT NULL, runs_in TEXT NOT NULL DEFAULT '', pid INTEGER NOT NULL, beat_at INTEGER NOT NULL,
		job_at INTEGER NOT NULL, started_at INTEGER NOT NULL DEFAULT 0, trouble TEXT NOT NULL DEFAULT '',
		trouble_at INTEGER NOT NULL DEFAULT 0, strangers INTEGER NOT NULL DEFAULT 0)`,

	// Moves on whenever copies are taken up, here and in a file beside the database: where the two differ, the database
	// is not the one that was sent from last. Then it is held until a person has looked; JSON.
	`CREATE TABLE mark (id INTEGER PRIMARY KEY CHECK (id = 1), number INTEGER NOT NULL, held TEXT)`,
	`INSERT INTO mark (id, number, held) VALUES (1, 0, NULL)`
];
