/** What was said while both were there, and may have to go by another way since the family had left. */
export const up: readonly string[] = [
	`CREATE TABLE live_follow (conversation_id INTEGER PRIMARY KEY REFERENCES conversation ON DELETE CASCADE,
		sender_id INTEGER NOT NULL REFERENCES person, since INTEGER NOT NULL, due_at INTEGER NOT NULL)`,
	'CREATE INDEX live_follow_due ON live_follow (due_at)',
	'CREATE INDEX live_follow_sender ON live_follow (sender_id)'
];
