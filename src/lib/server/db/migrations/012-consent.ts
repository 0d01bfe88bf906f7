/** Consent has a time and a source: a text, somebody's own page, or a paper that an office has. */
export const up: readonly string[] = [
	'ALTER TABLE address ADD COLUMN consent_at INTEGER',
	'ALTER TABLE address ADD COLUMN consent_how TEXT',
	'ALTER TABLE address ADD COLUMN consent_said TEXT'
];
