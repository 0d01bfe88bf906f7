/** Makes a table anew with other columns, and moves its rows over. `names` may map a column to what it is made from. */
export function anew(
	table: string,
	columns: string,
	names: readonly string[],
	made: Readonly<Record<string, string>> = {}
): string[] {
	const all = [...names, ...Object.keys(made)];
	return [
		`CREATE TABLE ${table}_new (${columns})`,
		`INSERT INTO ${table}_new (${all.join(', ')}) SELECT ${[...names, ...Object.values(made)].join(', ')} FROM ${table}`,
		`DROP TABLE ${table}`,
		`ALTER TABLE ${table}_new RENAME TO ${table}`
	];
}

/** Names parted by spaces. */
export const list = (words: string): string[] => words.trim().split(/\s+/);
