/** Who is known by which name at the district's identity provider, and which sessions came from there with a second factor of its own. */
export const up: readonly string[] = [
	`CREATE TABLE outside_name (issuer TEXT NOT NULL, subject TEXT NOT NULL, person_id INTEGER NOT NULL REFERENCES person,
		since INTEGER NOT NULL, PRIMARY KEY (issuer, subject)) WITHOUT ROWID`,
	'CREATE UNIQUE INDEX outside_name_person ON outside_name (person_id, issuer)',
	'ALTER TABLE session ADD COLUMN factor_outside INTEGER NOT NULL DEFAULT 0'
];
