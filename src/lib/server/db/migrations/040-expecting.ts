/** What is to be expected: how everybody and each one reads, by when a sheet is wanted to be known, and the forecast of each dispatch as it was made. */
export const up: readonly string[] = [
	`ALTER TABLE dispatch ADD COLUMN wanted TEXT NOT NULL DEFAULT '{"days":1,"time":"07:00","share":90}'`,
	`CREATE TABLE reading_model (id INTEGER PRIMARY KEY AUTOINCREMENT, at INTEGER NOT NULL, form INTEGER NOT NULL,
		everybody TEXT NOT NULL, bonds TEXT NOT NULL, people INTEGER NOT NULL, copies INTEGER NOT NULL)`,
	`CREATE TABLE habit (person_id INTEGER NOT NULL REFERENCES person, way TEXT NOT NULL, model_id INTEGER NOT NULL,
		share REAL NOT NULL, middle REAL NOT NULL, weight REAL NOT NULL, copies INTEGER NOT NULL, read INTEGER NOT NULL,
		PRIMARY KEY (person_id, way)) WITHOUT ROWID`,
	`CREATE TABLE forecast (dispatch_id INTEGER PRIMARY KEY NOT NULL REFERENCES dispatch ON DELETE CASCADE, plan INTEGER NOT NULL, made_at INTEGER NOT NULL,
		leaves_at INTEGER NOT NULL, by_at INTEGER NOT NULL, students INTEGER NOT NULL, expected REAL NOT NULL, low INTEGER NOT NULL,
		high INTEGER NOT NULL, curve TEXT NOT NULL, covered INTEGER, judged TEXT)`,
	'CREATE INDEX forecast_open ON forecast (by_at) WHERE covered IS NULL',
	`CREATE TABLE forecast_chance (dispatch_id INTEGER NOT NULL REFERENCES dispatch ON DELETE CASCADE,
		person_id INTEGER NOT NULL REFERENCES person, chance REAL NOT NULL, PRIMARY KEY (dispatch_id, person_id)) WITHOUT ROWID`,
	'CREATE INDEX forecast_chance_person ON forecast_chance (person_id)'
];
