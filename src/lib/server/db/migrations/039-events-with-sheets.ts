/** An event that was put into the calendar with a sheet: it is shown outside from when that leaves. */
export const up: readonly string[] = [
	`ALTER TABLE dispatch ADD COLUMN event TEXT NOT NULL DEFAULT 'null'`,
	'ALTER TABLE school_event ADD COLUMN dispatch_id INTEGER REFERENCES dispatch ON DELETE SET NULL',
	'CREATE INDEX school_event_dispatch ON school_event (dispatch_id)'
];
