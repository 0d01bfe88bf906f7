/** Each change of a chapter of the settings, with what stood there before, so that there is a way back. */
export const up: readonly string[] = [
	`CREATE TABLE setting_change (id INTEGER PRIMARY KEY AUTOINCREMENT, at INTEGER NOT NULL, by_id INTEGER REFERENCES person,
		chapter TEXT NOT NULL, before TEXT NOT NULL, after TEXT NOT NULL)`,
	'CREATE INDEX setting_change_chapter ON setting_change (chapter, id)',
	'CREATE INDEX setting_change_by ON setting_change (by_id)'
];
