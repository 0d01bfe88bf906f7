/** Replies opens as fast with a year's conversations as with a week's: what waits, and what a machine may have written, each has an index of its own. */
export const up: readonly string[] = [
	`CREATE INDEX conversation_open ON conversation (section_id, way, state, aside_until, since, unread, school_id, handler_id, dispatch_id, alike)
		WHERE state IN ('waiting', 'aside')`,
	'CREATE INDEX answer_doubt ON answer (conversation_id) WHERE doubt IS NOT NULL'
];
