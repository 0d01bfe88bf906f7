/**
 * Grade levels as schools here say them, from the codes of the Common Education Data Standards
 * (CEDS, "Entry Grade Level"), which OneRoster names for its `grades`.
 */
const special: Readonly<Record<string, string>> = {
	IT: 'Infant',
	PR: 'Preschool',
	PK: 'Pre-K',
	TK: 'TK',
	KG: 'K',
	AE: 'Adult',
	UG: 'Ungraded',
	PS: 'Postsecondary',
	OTHER: 'Other'
};
const codes: ReadonlyMap<string, string> = new Map(
	Object.entries(special).map(([code, level]) => [level, code === 'OTHER' ? 'Other' : code])
);

/** "05" as "5", "KG" as "K"; a school's own word stays as it is written. Null for nothing. */
export function gradeLevelOf(code: string): string | null {
	const text = code.trim();
	if (text === '') return null;
	if (/^\d{1,2}$/.test(text)) return String(Number(text));
	return special[text.toUpperCase()] ?? text;
}

/** The CEDS code of a grade level: "5" as "05", "K" as "KG". */
export const gradeCodeOf = (level: string): string =>
	/^\d{1,2}$/.test(level) ? level.padStart(2, '0') : (codes.get(level) ?? level);

const order: readonly string[] = ['Infant', 'Preschool', 'Pre-K', 'TK', 'K'];

/** By which grade levels stand in their order: those before school, 1 to 13, then all others. */
export function gradeRank(level: string): number {
	const before = order.indexOf(level);
	if (before >= 0) return before - order.length;
	return /^\d{1,2}$/.test(level) ? Number(level) : 100;
}
