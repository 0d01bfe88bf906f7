/** After an older database was put back, what stands in a feed may have been sent before by the one that was lost. */
export const up: readonly string[] = [
	'ALTER TABLE feed ADD COLUMN pass_over INTEGER NOT NULL DEFAULT 0'
];
