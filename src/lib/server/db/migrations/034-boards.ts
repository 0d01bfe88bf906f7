/**
 * Announcements stand on boards, and a school says whether anybody may open its own. Those that were sent to whole sections before stand there from now on; what
 * went to a group or a school may have been kept to its sender's own students, and is left out.
 */
export const up: readonly string[] = [
	`CREATE TABLE board_place (dispatch_id INTEGER NOT NULL REFERENCES dispatch ON DELETE CASCADE, kind TEXT NOT NULL,
		place_id INTEGER NOT NULL, term_id INTEGER NOT NULL, PRIMARY KEY (dispatch_id, kind, place_id, term_id))`,
	'CREATE INDEX board_place_of ON board_place (kind, place_id)',
	`CREATE TABLE board_wording (id INTEGER PRIMARY KEY AUTOINCREMENT, dispatch_id INTEGER NOT NULL REFERENCES dispatch ON DELETE CASCADE,
		wording TEXT NOT NULL, at INTEGER NOT NULL, by_id INTEGER NOT NULL REFERENCES person)`,
	'CREATE INDEX board_wording_of ON board_wording (dispatch_id)',
	`CREATE TABLE board_read (dispatch_id INTEGER NOT NULL REFERENCES dispatch ON DELETE CASCADE,
		person_id INTEGER NOT NULL REFERENCES person, at INTEGER NOT NULL, PRIMARY KEY (dispatch_id, person_id))`,
	'CREATE INDEX board_read_by ON board_read (person_id)',
	`CREATE TABLE board_link (id INTEGER PRIMARY KEY AUTOINCREMENT, kind TEXT NOT NULL, place_id INTEGER NOT NULL,
		person_id INTEGER REFERENCES person, token_hash TEXT NOT NULL UNIQUE, nonce TEXT NOT NULL DEFAULT (lower(hex(randomblob(16)))), made_by INTEGER NOT NULL REFERENCES person,
		made_at INTEGER NOT NULL, ended_at INTEGER, ended_by INTEGER REFERENCES person)`,
	'CREATE INDEX board_link_of ON board_link (kind, place_id)',
	'CREATE INDEX board_link_for ON board_link (person_id)',
	'CREATE INDEX board_link_made ON board_link (made_by)',
	'CREATE INDEX board_link_ended ON board_link (ended_by) WHERE ended_by IS NOT NULL',
	'CREATE INDEX board_wording_by ON board_wording (by_id)',
	'ALTER TABLE school_time RENAME TO school_own',
	'ALTER TABLE school_own ADD COLUMN open_boards INTEGER',
	`INSERT OR IGNORE INTO board_place (dispatch_id, kind, place_id, term_id)
		SELECT dispatch.id, 'section', pick.value, 0 FROM dispatch, json_each(audience, '$.lines') AS line,
			json_each(CASE WHEN line.value ->> '$.of.kind' = 'sections' THEN json_array(json(line.value -> '$.of'))
				WHEN line.value ->> '$.of.kind' = 'any' THEN line.value -> '$.of.of' ELSE '[]' END) AS part,
			json_each(part.value, '$.ids') AS pick
		WHERE dispatch.kind = 'announcement' AND dispatch.state IN ('scheduled', 'sent') AND waits IS NULL
			AND part.value ->> '$.kind' = 'sections' AND coalesce(json_array_length(line.value, '$.only'), 0) = 0
			AND NOT EXISTS (SELECT 1 FROM json_each(audience, '$.lines') AS other WHERE other.value ->> '$.verb' = 'but-not')`
];
