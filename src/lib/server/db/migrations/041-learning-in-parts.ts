/** How far a learning has come that is under way: a large district’s takes longer than one task may. */
export const up: readonly string[] = [
	'ALTER TABLE reading_model ADD COLUMN done TEXT',
	// What was begun before and not ended begins anew.
	'DELETE FROM reading_model WHERE form = 0'
];
