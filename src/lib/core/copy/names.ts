/** "Ana", "Ana and Rui", "Ana, Rui and Lia". */
export function nameList(names: readonly string[]): string {
	if (names.length < 2) return names[0] ?? '';
	return `${names.slice(0, -1).join(', ')} and ${names[names.length - 1]}`;
}
