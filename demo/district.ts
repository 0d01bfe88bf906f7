import { addCourses, addGroups } from './courses';
import { addFamilies } from './families';
import { languages } from './names';
import { demoSize, type DistrictSize } from './sizes';
import type { DistrictRows } from './rows';
import { Town, type Faults } from './town';

/** Somebody who can sign in to the demo. */
interface SampleSignIn {
	readonly personId: number;
	readonly userName: string;
	readonly role: 'coordinator' | 'office' | 'principal' | 'teacher';
	readonly schoolId: number | null;
	readonly title: string;
}

export interface District {
	readonly rows: DistrictRows;
	readonly signIns: readonly SampleSignIn[];
	readonly faults: Faults;
}

/** Makes the Brackwater Isles School District from a seed: always the same. `say` hears how far it is. */
export function makeDistrict(
	seed: number,
	size: DistrictSize = demoSize,
	say: (line: string) => void = () => {}
): District {
	const town = new Town(seed, size);
	const { rows, r, faults } = town;
	addStaff(town);
	const studentsAt = addFamilies(town, say);
	say('courses and sections');
	addCourses(rows, r, size, studentsAt);
	addGroups(rows, r, size);
	// A few want no announcements by mail, or none in the inbox.
	const guardians = new Set(rows.contact.filter((c) => c[3] === 1).map((c) => c[1]));
	for (const id of guardians) {
		if (r.chance(0.025)) rows.declined.push([id, 'announcement', r.pick(['email', 'inbox'] as const)]);
	}
	return { rows, signIns: sampleSignIns(rows), faults };
}

/** The four people who sign in come first, so that they are the same in every size of the district. */
const named = [
	{ given: 'Maren', family: 'Quill', schoolId: null, role: 'communications coordinator' },
	{ given: 'Ines', family: 'Tavares', schoolId: 2, role: 'school office' },
	{ given: 'Chidi', family: 'Okafor', schoolId: 3, role: 'teacher' },
	{ given: 'Ruth', family: 'Lindqvist', schoolId: 3, role: 'principal' }
] as const;

function addStaff(town: Town): void {
	const { rows, r, size, name } = town;
	const add = (given: string, family: string, schoolId: number | null, role: string) => {
		const id = town.addPerson({ kind: 'adult', given, family, language: 'en', schoolId: schoolId ?? undefined, inbox: true });
		town.addAddress(id, 'email', town.mailFor(given, family, 'brackwater.example'), 'in');
		rows.staff.push([id, schoolId, role]);
	};
	named.forEach((n) => add(n.given, n.family, n.schoolId, n.role));
	for (let i = named.length; i < size.staff; i += 1) {
		const schoolId = (i % size.schools.length) + 1;
		const share = (i / size.staff) * 90;
		const role = share < 10 ? 'school office' : share < 76 ? 'teacher' : share < 84 ? 'aide' : 'ferry monitor';
		add(name.given('en', r.pick(['female', 'male'] as const)), name.family(r.pick(languages)), schoolId, role);
	}
}

function sampleSignIns(rows: DistrictRows): SampleSignIn[] {
	const idOf = (given: string) => rows.person.find((p) => p[1] === 'adult' && p[2] === given)![0];
	return [
		{ personId: idOf('Maren'), userName: 'maren', role: 'coordinator', schoolId: null, title: 'Communications' },
		{ personId: idOf('Ines'), userName: 'ines', role: 'office', schoolId: 2, title: 'Brackwater Middle, office' },
		{ personId: idOf('Chidi'), userName: 'chidi', role: 'teacher', schoolId: 3, title: 'Boatbuilding, Lightkeeper High' },
		{ personId: idOf('Ruth'), userName: 'ruth', role: 'principal', schoolId: 3, title: 'Principal, Lightkeeper High' }
	];
}
