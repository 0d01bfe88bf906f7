/** The family's own side: whether a section may be written to, and when its staff read it. */
export const up: readonly string[] = [
	`CREATE TABLE section_talk (section_id INTEGER PRIMARY KEY REFERENCES section, open INTEGER NOT NULL, hours TEXT NOT NULL DEFAULT '')`
];
