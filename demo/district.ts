import type { WayOut } from '../src/lib/core/roster/way';
import { addCourses, addGroups } from './courses';
import { names, languages, plain, type DemoLanguage, type Sex } from './names';
import { random, type Random } from './random';
import { demoSize, type DistrictSize } from './sizes';
import { type DistrictRows, type StudentsAt, placeKey } from "./rows";

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
	/** Mailboxes and phones that fail, and how. */
	readonly faults: {
		readonly mailboxes: readonly { mailbox: string; fault: 'refuse' | 'return' }[];
		readonly phones: readonly { phone: string; fault: 'dead' | 'off' }[];
	};
}

const termRows: DistrictRows['term'] = [
	[1, 'Fall 2026', '2026-08-31', '2026-12-01'],
	[2, 'Winter 2026–27', '2026-12-01', '2027-03-22'],
	[3, 'Spring 2027', '2027-03-22', '2027-06-19']
];

const mailDomains = ['harbormail.example', 'islandpost.example', 'tidebox.example', 'ferrynet.example'] as const;
const languageWeights: Readonly<Record<DemoLanguage, number>> = { en: 62, es: 16, pt: 10, vi: 7, ar: 5 };

/** What a relation says of a person's first name; a neighbour's says nothing. */
const sexOf = (relation: string): Sex | null =>
	/mother|aunt/.test(relation) ? 'female' : /father|uncle/.test(relation) ? 'male' : null;

const yes = (b: boolean): 0 | 1 => (b ? 1 : 0);

/** Makes the Brackwater Isles School District from a seed: always the same. `say` hears how far it is. */
export function makeDistrict(
	seed: number,
	size: DistrictSize = demoSize,
	say: (line: string) => void = () => {}
): District {
	const { schools } = size;
	const r = random(seed);
	const name = names(seed, r);
	const rows: DistrictRows = {
		school: schools.map((s) => [s.id, s.name, s.short]),
		term: termRows,
		course: [], section: [], person: [], household: [], household_member: [], contact: [],
		address: [], enrolment: [], staff: [], section_staff: [], school_group: [], group_member: [], declined: []
	};
	const mailboxes: District['faults']['mailboxes'][number][] = [];
	const phones: District['faults']['phones'][number][] = [];
	/** Each mailbox name so far, with the number that the next of its name gets. */
	const usedMail = new Map<string, number>();
	let nextPhone = 0;

	const addPerson = (
		kind: 'student' | 'adult', given: string, family: string, language: string,
		schoolId: number | null, grade: string | null, inbox: boolean
	): number => {
		const id = rows.person.length + 1;
		rows.person.push([id, kind, given, family, language, schoolId, grade, yes(inbox)]);
		return id;
	};
	const addAddress = (personId: number, way: WayOut, value: string, consent: 'in' | 'out' | 'unknown') =>
		rows.address.push([rows.address.length + 1, personId, way, value, consent]);
	const mailFor = (given: string, family: string, domain: string): string => {
		const base = `${plain(given, 'family')}.${plain(family, 'home')}`;
		const first = `${base}@${domain}`;
		const n = usedMail.get(first) ?? 1;
		usedMail.set(first, n + 1);
		return n === 1 ? first : `${base}${n}@${domain}`;
	};
	const newPhone = (): string => {
		const code = size.areaCodes[Math.floor(nextPhone / 100) % size.areaCodes.length]!;
		const line = 100 + (nextPhone % 100);
		nextPhone += 1;
		return `+1${code}5550${line}`;
	};

	addStaff(rows, r, size, name, addPerson, addAddress, mailFor);

	/** Gives an adult of a family their addresses, with the gaps real ones have. */
	const reach = (personId: number, given: string, family: string, sharedMail: string | null) => {
		if (sharedMail) addAddress(personId, 'email', sharedMail, 'unknown');
		else if (r.chance(0.92)) {
			const mailbox = mailFor(given, family, r.pick(mailDomains));
			addAddress(personId, 'email', mailbox, r.chance(0.03) ? 'out' : 'unknown');
			if (r.chance(0.025)) mailboxes.push({ mailbox, fault: r.chance(0.5) ? 'refuse' : 'return' });
		}
		if (r.chance(0.95)) {
			const phone = newPhone();
			addAddress(personId, 'text', phone, r.weighted({ in: 68, out: 6, unknown: 26 }));
			if (r.chance(0.02)) phones.push({ phone, fault: r.chance(0.7) ? 'dead' : 'off' });
		}
	};

	/** Students by school and grade. */
	const studentsAt: StudentsAt = new Map();
	const open = new Map<string, number>(
		schools.flatMap((s) => s.grades.map((g) => [placeKey(s, g), s.perGrade] as const))
	);
	const areas = size.areas.map((area) => ({
		places: area.flatMap((s) => s.grades.map((grade) => ({ school: s, grade, key: placeKey(s, grade) })))
	}));
	let familyNumber = 0;
	for (let left = areas; ; familyNumber += 1) {
		left = left.filter((a) => a.places.some((p) => open.get(p.key)! > 0));
		if (left.length === 0) break;
		addFamily(left.length === 1 ? left[0]! : r.pick(left));
		if (familyNumber % 2000 === 1999) say(`${familyNumber + 1} families`);
	}

	function addFamily({ places: around }: (typeof areas)[number]): void {
		const language = r.weighted(languageWeights);
		const family = name.family(language);
		// Brothers and sisters fall into different grades; the last families fill what is still open.
		const wanted = r.weighted({ '1': 48, '2': 37, '3': 12, '4': 3 });
		const places = r.shuffle(around.filter((p) => open.get(p.key)! > 0)).slice(0, Number(wanted));
		const household = addHousehold(family);
		const students = places.map(({ school, grade, key }) => {
			open.set(key, open.get(key)! - 1);
			const given = name.given(language, r.pick(['female', 'male'] as const));
			const older = school.level !== 'elementary';
			const id = addPerson('student', given, family, language, school.id, grade, older);
			if (older) addAddress(id, 'email', mailFor(given, family, 'students.brackwater.example'), 'unknown');
			const there = studentsAt.get(key);
			if (there) there.push(id);
			else studentsAt.set(key, [id]);
			rows.household_member.push([household, id]);
			return id;
		});
		const tie = (
			personId: number, relation: string, guardian: boolean, custody: boolean,
			correspondence: boolean, emergency: boolean
		) =>
			students.forEach((s) =>
				rows.contact.push([s, personId, relation, yes(guardian), yes(custody), yes(correspondence), yes(emergency)])
			);
		const addAdult = (relation: string, familyName: string, inboxShare: number, sharedMail: string | null = null) => {
			const given = name.given(language, sexOf(relation) ?? r.pick(['female', 'male'] as const));
			const id = addPerson('adult', given, familyName, language, null, null, r.chance(inboxShare));
			reach(id, given, familyName, sharedMail);
			return id;
		};

		const shape = r.weighted({ together: 60, apart: 18, single: 22 });
		if (shape === 'together') {
			const sharedMail = r.chance(0.1)
				? mailFor('family', family, r.pick(mailDomains))
				: null;
			for (const relation of ['mother', 'father']) {
				const id = addAdult(relation, family, 0.78, sharedMail);
				rows.household_member.push([household, id]);
				tie(id, relation, true, true, true, r.chance(0.5));
			}
		} else if (shape === 'single') {
			const relation = r.weighted({ mother: 70, father: 22, aunt: 8 });
			const id = addAdult(relation, family, 0.74);
			rows.household_member.push([household, id]);
			tie(id, relation, true, true, true, true);
		} else {
			const mother = addAdult('mother', r.chance(0.5) ? family : name.family(language), 0.76);
			rows.household_member.push([household, mother]);
			tie(mother, 'mother', true, true, true, true);
			const other = addHousehold(`${family}, second home`);
			students.forEach((s) => rows.household_member.push([other, s]));
			const father = addAdult('father', family, 0.7);
			rows.household_member.push([other, father]);
			const order = r.weighted({ shared: 70, 'no custody': 20, 'no letters': 10 });
			tie(father, 'father', true, order !== 'no custody', order === 'shared', false);
			if (r.chance(0.25)) {
				const stepmother = addAdult('stepmother', name.family(language), 0.6);
				rows.household_member.push([other, stepmother]);
				tie(stepmother, 'stepmother', false, false, false, false);
			}
		}
		if (r.chance(0.92)) {
			const relation = r.weighted({ grandmother: 45, grandfather: 20, neighbour: 25, aunt: 10 });
			const id = addAdult(relation, relation === 'neighbour' ? name.family('en') : family, 0.1);
			tie(id, relation, false, false, false, true);
		}
		// Only where a large district is made, so that the small one stays what it was.
		if (size.name === 'district' && r.chance(0.2)) {
			tie(addAdult('uncle', family, 0.05), 'uncle', false, false, false, true);
		}
	}

	function addHousehold(label: string): number {
		const id = rows.household.length + 1;
		rows.household.push([id, label]);
		return id;
	}

	say('courses and sections');
	addCourses(rows, r, size, studentsAt);
	addGroups(rows, r, size);
	// A few want no announcements by mail, or none in the inbox.
	const guardians = new Set(rows.contact.filter((c) => c[3] === 1).map((c) => c[1]));
	for (const id of guardians) {
		if (r.chance(0.025)) rows.declined.push([id, 'announcement', r.pick(['email', 'inbox'] as const)]);
	}
	return { rows, signIns: sampleSignIns(rows), faults: { mailboxes, phones } };
}

type AddPerson = (
	kind: 'student' | 'adult', given: string, family: string, language: string,
	schoolId: number | null, grade: string | null, inbox: boolean
) => number;

/** The four people who sign in come first, so that they are the same in every size of the district. */
const named = [
	{ given: 'Maren', family: 'Quill', schoolId: null, role: 'communications coordinator' },
	{ given: 'Ines', family: 'Tavares', schoolId: 2, role: 'school office' },
	{ given: 'Chidi', family: 'Okafor', schoolId: 3, role: 'teacher' },
	{ given: 'Ruth', family: 'Lindqvist', schoolId: 3, role: 'principal' }
] as const;

function addStaff(
	rows: DistrictRows, r: Random, size: DistrictSize, name: ReturnType<typeof names>, addPerson: AddPerson,
	addAddress: (id: number, way: WayOut, value: string, consent: 'in' | 'out' | 'unknown') => void,
	mailFor: (given: string, family: string, domain: string) => string
): void {
	const add = (given: string, family: string, schoolId: number | null, role: string) => {
		const id = addPerson('adult', given, family, 'en', schoolId, null, true);
		addAddress(id, 'email', mailFor(given, family, 'brackwater.example'), 'in');
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
