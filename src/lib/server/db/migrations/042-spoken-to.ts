/** That somebody spoke to a family which nothing had reached. */
export const up: readonly string[] = [
	`CREATE TABLE spoken_to (id INTEGER PRIMARY KEY AUTOINCREMENT, household_id INTEGER REFERENCES household, student_id INTEGER REFERENCES person,
		at INTEGER NOT NULL, by_id INTEGER REFERENCES person, words TEXT NOT NULL)`,
	'CREATE INDEX spoken_to_household ON spoken_to (household_id, at)',
	'CREATE INDEX spoken_to_student ON spoken_to (student_id, at)',
	'CREATE INDEX spoken_to_by ON spoken_to (by_id)'
];
