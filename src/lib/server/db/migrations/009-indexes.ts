/** What names another row is found by it without reading the whole table: a person's groups, an event's reminders, what follows a dispatch up; and what is asked all day reads no table that grows from end to end. */
export const up: readonly string[] = [
	'CREATE INDEX person_school ON person (school_id)',
	'CREATE INDEX course_school ON course (school_id)',
	'CREATE INDEX staff_school ON staff (school_id)',
	'CREATE INDEX group_member_person ON group_member (person_id)',
	'CREATE INDEX session_person ON session (person_id)',
	'CREATE INDEX family_link_person ON family_link (person_id)',
	'CREATE INDEX file_owner ON file (owner_id)',
	'CREATE INDEX proof_user ON proof (user_id)',
	'CREATE INDEX kept_person_person ON kept_person (person_id)',
	'CREATE INDEX kept_person_student ON kept_person (student_id)',
	'CREATE INDEX dispatch_chases ON dispatch (chases) WHERE chases IS NOT NULL',
	'CREATE INDEX dispatch_school ON dispatch (school_id, leaves_at)',
	'CREATE INDEX dispatch_file_file ON dispatch_file (file_id)',
	'CREATE INDEX dispatch_student_student ON dispatch_student (student_id)',
	'CREATE INDEX dispatch_student_section ON dispatch_student (section_id)',
	'CREATE INDEX taken_out_student ON taken_out (student_id)',
	'CREATE INDEX round_event ON round (event_id) WHERE event_id IS NOT NULL',
	'CREATE INDEX notice_dispatch ON notice (dispatch_id)',
	'CREATE INDEX text_in_delivery ON text_in (delivery_id)',
	'CREATE INDEX text_in_person ON text_in (person_id)',
	// The students that somebody was left out for, a row each.
	`CREATE TABLE left_out_student (left_out_id INTEGER NOT NULL REFERENCES left_out ON DELETE CASCADE,
		student_id INTEGER NOT NULL REFERENCES person, PRIMARY KEY (left_out_id, student_id)) WITHOUT ROWID`,
	`INSERT OR IGNORE INTO left_out_student (left_out_id, student_id)
		SELECT left_out.id, pick.value FROM left_out, json_each(student_ids) AS pick
		WHERE pick.value IN (SELECT id FROM person)`,
	'ALTER TABLE left_out DROP COLUMN student_ids',
	'CREATE INDEX left_out_student_student ON left_out_student (student_id)',
	'CREATE INDEX address_failing ON address (way) WHERE failing IS NOT NULL',
	"CREATE INDEX notice_failed ON notice (id) WHERE state = 'failed'",
	`CREATE INDEX returned_mail_strange ON returned_mail (at) WHERE code IN ('other-recipient', 'wrong-mailbox')`,
	// A number is looked for by its last two digits, however it is written.
	`CREATE INDEX address_end ON address (substr(value, -2)) WHERE way = 'text'`
];
