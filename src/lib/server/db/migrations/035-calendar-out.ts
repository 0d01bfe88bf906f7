/** The moment by the job's clock (ms), in SQL. */
const moment = `CAST(unixepoch('subsec') * 1000 AS INTEGER) + coalesce((SELECT offset_ms FROM clock), 0)`;
const marks = (row: 'old' | 'new', columns: readonly string[]) =>
	`(${columns.map((c) => `${row}.${c}`).join(', ')})`;
const counting = (table: string, key: string, columns: readonly string[], also = '') =>
	`CREATE TRIGGER ${table}_counted AFTER UPDATE ON ${table}
		WHEN ${marks('old', columns)} IS NOT ${marks('new', columns)}
		BEGIN UPDATE ${table} SET sequence = old.sequence + 1${also} WHERE ${key} = new.${key}; END`;

/**
 * Calendars that are subscribed to: each event and each stretch without school counts its changes (RFC 5545
 * section 3.8.7.4), and one that is taken out is told of as such. Triggers count: no way of changing one forgets it.
 */
export const up: readonly string[] = [
	'ALTER TABLE school_event ADD COLUMN sequence INTEGER NOT NULL DEFAULT 0',
	'ALTER TABLE closure ADD COLUMN sequence INTEGER NOT NULL DEFAULT 0',
	'ALTER TABLE closure ADD COLUMN changed_at INTEGER NOT NULL DEFAULT 0',
	`CREATE TABLE closure_gone (uid TEXT PRIMARY KEY, school_id INTEGER REFERENCES school, name TEXT NOT NULL, starts_on TEXT NOT NULL,
		ends_on TEXT NOT NULL, sequence INTEGER NOT NULL, changed_at INTEGER NOT NULL)`,
	'CREATE INDEX closure_gone_school ON closure_gone (school_id)',
	counting('school_event', 'id', [
		...['title', 'starts_at', 'ends_at', 'all_day', 'place', 'state', 'school_ids', 'section_ids']
	]),
	counting(
		'closure',
		'id',
		['name', 'starts_on', 'ends_on', 'school_id'],
		`, changed_at = ${moment}`
	),
	`CREATE TRIGGER closure_put AFTER INSERT ON closure WHEN new.changed_at = 0
		BEGIN UPDATE closure SET changed_at = ${moment},
			sequence = coalesce((SELECT sequence + 1 FROM closure_gone WHERE uid = new.uid), 0) WHERE id = new.id;
		DELETE FROM closure_gone WHERE uid = new.uid; END`,
	`CREATE TRIGGER closure_dropped BEFORE DELETE ON closure
		BEGIN INSERT OR REPLACE INTO closure_gone (uid, school_id, name, starts_on, ends_on, sequence, changed_at)
			VALUES (old.uid, old.school_id, old.name, old.starts_on, old.ends_on, old.sequence + 1, ${moment}); END`
];
