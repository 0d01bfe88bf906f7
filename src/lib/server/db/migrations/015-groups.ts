/** Groups are made by hand as well, and given up; how each member came in. */
export const up: readonly string[] = [
	'ALTER TABLE school_group ADD COLUMN made_by INTEGER REFERENCES person',
	'ALTER TABLE school_group ADD COLUMN made_at INTEGER',
	'ALTER TABLE school_group ADD COLUMN gone_at INTEGER',
	'CREATE INDEX school_group_made_by ON school_group (made_by)',
	'ALTER TABLE group_member ADD COLUMN how TEXT',
	'ALTER TABLE group_member ADD COLUMN since INTEGER',
	'ALTER TABLE group_member ADD COLUMN by_id INTEGER REFERENCES person',
	'CREATE INDEX group_member_by ON group_member (by_id)',
	'CREATE VIEW school_group_now AS SELECT * FROM school_group WHERE gone_at IS NULL'
];
