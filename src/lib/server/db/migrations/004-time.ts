/** When things leave: timing, rounds, events, days without school, own times. */
export const up: readonly string[] = [
	// JSON, checked by Zod on the way out.
	`ALTER TABLE dispatch ADD COLUMN timing TEXT NOT NULL DEFAULT '{}'`,
	// No copy leaves at or after this instant.
	`ALTER TABLE dispatch ADD COLUMN ends_at INTEGER`,
	// 0 while its copies are what it would come to, to be worked out again before it leaves.
	`ALTER TABLE dispatch ADD COLUMN settled INTEGER NOT NULL DEFAULT 1`,
	// Each change of its copies gives it the next number: what was counted from them is then counted anew.
	`ALTER TABLE dispatch ADD COLUMN plan INTEGER NOT NULL DEFAULT 0`,
	// Why it waits for an answer instead of leaving, in plain words.
	`ALTER TABLE dispatch ADD COLUMN waits TEXT`,
	`ALTER TABLE dispatch ADD COLUMN round_id INTEGER REFERENCES round`,
	// The date within its round, as the rule has it, or the offset from its event.
	`ALTER TABLE dispatch ADD COLUMN round_key TEXT`,
	// 1 where this date was changed by itself and no longer follows its round.
	`ALTER TABLE dispatch ADD COLUMN own_time INTEGER NOT NULL DEFAULT 0`,
	// Who changed it last: said to another who would have changed it at the same time.
	`ALTER TABLE dispatch ADD COLUMN changed_by INTEGER REFERENCES person`,
	// Copies by way at the last look, for those that are too far ahead to be written down; JSON.
	`ALTER TABLE dispatch ADD COLUMN expected TEXT NOT NULL DEFAULT '{}'`,
	`CREATE INDEX dispatch_round ON dispatch (round_id) WHERE round_id IS NOT NULL`,
	`CREATE INDEX dispatch_state ON dispatch (state, leaves_at)`,
	`CREATE UNIQUE INDEX dispatch_round_key ON dispatch (round_id, round_key) WHERE round_id IS NOT NULL`,

	// One wording, several dates: by a rule, or before and after an event.
	`CREATE TABLE round (id INTEGER PRIMARY KEY, sheet_key TEXT NOT NULL UNIQUE,
		timing TEXT NOT NULL, event_id INTEGER REFERENCES school_event,
		made_by INTEGER NOT NULL REFERENCES person, made_at INTEGER NOT NULL)`,
	`CREATE TABLE school_event (id INTEGER PRIMARY KEY, uid TEXT NOT NULL UNIQUE, title TEXT NOT NULL,
		starts_local TEXT NOT NULL, ends_local TEXT NOT NULL, all_day INTEGER NOT NULL,
		starts_at INTEGER NOT NULL, ends_at INTEGER NOT NULL, place TEXT NOT NULL,
		school_ids TEXT NOT NULL, section_ids TEXT NOT NULL,
		state TEXT NOT NULL CHECK (state IN ('on', 'called-off')),
		made_by INTEGER NOT NULL REFERENCES person, changed_at INTEGER NOT NULL)`,
	`CREATE INDEX school_event_start ON school_event (starts_at)`,
	`CREATE TABLE closure (id INTEGER PRIMARY KEY, uid TEXT NOT NULL UNIQUE, school_id INTEGER REFERENCES school,
		name TEXT NOT NULL, starts_on TEXT NOT NULL, ends_on TEXT NOT NULL, CHECK (starts_on < ends_on))`,
	// Quiet hours of one school by way, JSON, in place of the district's.
	`CREATE TABLE school_quiet (school_id INTEGER PRIMARY KEY REFERENCES school, quiet TEXT NOT NULL)`,
	`CREATE TABLE own_time (person_id INTEGER PRIMARY KEY REFERENCES person, zone TEXT,
		quiet_from INTEGER, quiet_to INTEGER)`
];
