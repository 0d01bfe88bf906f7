/** Groups rows by a key, keeping their order. */
export function groupBy<K, V>(rows: Iterable<V>, keyOf: (row: V) => K): Map<K, V[]> {
	const groups = new Map<K, V[]>();
	for (const row of rows) {
		const key = keyOf(row);
		const group = groups.get(key);
		if (group) group.push(row);
		else groups.set(key, [row]);
	}
	return groups;
}
