/** What each role can do, as it was until now; accounts that are closed; and whether what is urgent passes over wishes. */
export const up: readonly string[] = [
	'CREATE TABLE role_right (role TEXT NOT NULL, can TEXT NOT NULL, PRIMARY KEY (role, can)) WITHOUT ROWID',
	`INSERT INTO role_right (role, can) VALUES
		('coordinator', 'see'), ('coordinator', 'write'), ('coordinator', 'schedule'), ('coordinator', 'urgent'), ('coordinator', 'pass-over'), ('coordinator', 'answer'), ('coordinator', 'look-after'), ('coordinator', 'give-link'), ('coordinator', 'roster'), ('coordinator', 'settings'), ('coordinator', 'accounts'), ('coordinator', 'log'), ('coordinator', 'operate'),
		('principal', 'see'), ('principal', 'write'), ('principal', 'schedule'), ('principal', 'urgent'), ('principal', 'pass-over'), ('principal', 'answer'), ('principal', 'look-after'), ('principal', 'log'),
		('office', 'see'), ('office', 'write'), ('office', 'schedule'), ('office', 'answer'), ('office', 'look-after'), ('office', 'give-link'),
		('teacher', 'see'), ('teacher', 'write'), ('teacher', 'schedule'), ('teacher', 'answer'),
		('helper', 'see'), ('helper', 'answer'),
		('operator', 'operate')`,
	'ALTER TABLE sign_in ADD COLUMN closed_at INTEGER',
	'ALTER TABLE role ADD COLUMN given_by INTEGER REFERENCES person',
	'CREATE INDEX role_given_by ON role (given_by)',
	'ALTER TABLE dispatch ADD COLUMN passes_over INTEGER NOT NULL DEFAULT 0',
	'UPDATE dispatch SET passes_over = 1 WHERE urgent_by IS NOT NULL'
];
