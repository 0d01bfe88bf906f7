/** A school has a zone and parts of the day of its own, beside its quiet hours. */
export const up: readonly string[] = [
	`CREATE TABLE school_time (school_id INTEGER PRIMARY KEY REFERENCES school, zone TEXT, quiet TEXT, marks TEXT)`,
	'INSERT INTO school_time (school_id, quiet) SELECT school_id, quiet FROM school_quiet',
	'DROP TABLE school_quiet',
	`UPDATE setting SET key = 'planned-clocks', value = json_array(value ->> '$', json_array()) WHERE key = 'planned-zone'`
];
