import { dutyReason } from './reasons';
import { gradeRank } from '../roster/grade';
import type { Roster } from '../roster/roster';

/** A home of students: a household, or a student who lives in none, with the adults there who are to be written to. */
export interface FamilyHome {
	readonly householdId: number | null;
	/** The student who lives in no household; null for a household. */
	readonly studentId: number | null;
	/** The youngest first. */
	readonly students: readonly number[];
	/** Guardians with custody who are marked to receive correspondence; none where nobody may be written to. */
	readonly adults: readonly number[];
	/** Guardians of whom nobody has said whether they have custody. */
	readonly unsaid: readonly number[];
}

/** A home under a name of its own. */
export const homeKey = ({
	householdId,
	studentId
}: Pick<FamilyHome, 'householdId' | 'studentId'>): string =>
	householdId === null ? `s${studentId}` : `h${householdId}`;

/** Who is to be written to for a student, and who waits for somebody to say their custody. */
function guardiansOf(roster: Roster, studentId: number) {
	const adults: number[] = [];
	const unsaid: number[] = [];
	for (const contact of roster.contactsOf(studentId)) {
		if (!contact.guardian || !roster.person(contact.personId)) continue;
		const reason = dutyReason(contact);
		if (!reason) adults.push(contact.personId);
		else if (reason.code === 'custody-unsaid') unsaid.push(contact.personId);
	}
	return { adults, unsaid };
}

/** A home as it is put together. */
interface Making {
	readonly householdId: number | null;
	readonly studentId: number | null;
	readonly students: number[];
	readonly adults: Set<number>;
	readonly unsaid: Set<number>;
}

/**
 * The homes of students. A guardian counts where they live; one who lives in no household on file counts in every home
 * of the student. Of a student with several homes those without anybody to be written to are none, but for one where
 * there is nobody at all.
 */
export function familyHomes(roster: Roster, studentIds: readonly number[]): FamilyHome[] {
	const homes = new Map<string, Making>();
	const youngestFirst = [...studentIds].sort((a, b) => rank(roster, a) - rank(roster, b) || a - b);
	for (const student of youngestFirst) {
		const { adults, unsaid } = guardiansOf(roster, student);
		const households = roster.householdsOf(student);
		const homeless = households.length === 0;
		const livesIn = (id: number, home: number) => {
			const theirs = roster.householdsOf(id);
			return theirs.length === 0 || theirs.includes(home);
		};
		const candidates = homeless
			? [{ householdId: null, studentId: student, adults, unsaid }]
			: households.map((home) => ({
					...{ householdId: home, studentId: null },
					adults: adults.filter((id) => livesIn(id, home)),
					unsaid: unsaid.filter((id) => livesIn(id, home))
				}));
		const some = candidates.filter((c) => c.adults.length + c.unsaid.length > 0);
		for (const one of some.length > 0 ? some : candidates.slice(0, 1)) {
			const key = homeKey(one);
			let home = homes.get(key);
			if (!home) {
				const { householdId, studentId } = one;
				home = { householdId, studentId, students: [], adults: new Set(), unsaid: new Set() };
				homes.set(key, home);
			}
			home.students.push(student);
			one.adults.forEach((id) => home.adults.add(id));
			one.unsaid.forEach((id) => home.unsaid.add(id));
		}
	}
	return [...homes.values()].map((home) => ({
		...home,
		adults: [...home.adults],
		unsaid: [...home.unsaid].filter((id) => !home.adults.has(id))
	}));
}

/** Where a student stands by their grade, the youngest first. */
const rank = (roster: Roster, id: number): number => gradeRank(roster.person(id)?.gradeLevel ?? '');
