/** Parts of longer texts from phones, until the others are there. */
export const up: readonly string[] = [
	`CREATE TABLE text_part (id INTEGER PRIMARY KEY AUTOINCREMENT, from_number TEXT NOT NULL, to_number TEXT NOT NULL,
		reference INTEGER NOT NULL, of_parts INTEGER NOT NULL, number INTEGER NOT NULL, words TEXT NOT NULL, at INTEGER NOT NULL,
		taken INTEGER NOT NULL DEFAULT 0)`,
	'CREATE UNIQUE INDEX text_part_once ON text_part (from_number, reference, of_parts, number)',
	'CREATE INDEX text_part_at ON text_part (at)'
];
