import type { DemoLanguage, Sex } from './names';
import { placeKey, type StudentsAt } from './rows';
import type { SchoolPlan } from './sizes';
import { yes, type Town } from './town';

const languageWeights: Readonly<Record<DemoLanguage, number>> = {
	en: 62,
	es: 16,
	pt: 10,
	vi: 7,
	ar: 5
};

/** What a relation says of a person's first name; a neighbour's says nothing. */
const sexOf = (relation: string): Sex | null =>
	/mother|aunt/.test(relation) ? 'female' : /father|uncle/.test(relation) ? 'male' : null;

/** A grade of a school, where a family's children may go. */
interface Place {
	readonly school: SchoolPlan;
	readonly grade: string;
	readonly key: string;
}

/** What a contact may do for a student; all false for someone who is only known. */
interface Duty {
	readonly guardian?: boolean;
	readonly custody?: boolean;
	readonly correspondence?: boolean;
	readonly emergency?: boolean;
}
const full = { guardian: true, custody: true, correspondence: true } as const;

/** Fills the schools of a district with families; comes to their students. `say` hears how far it is. */
export function addFamilies(town: Town, say: (line: string) => void): StudentsAt {
	const { r, size } = town;
	const studentsAt: StudentsAt = new Map();
	const open = new Map<string, number>(
		size.schools.flatMap((s) => s.grades.map((g) => [placeKey(s, g), s.perGrade] as const))
	);
	let left: Place[][] = size.areas.map((area) =>
		area.flatMap((school) =>
			school.grades.map((grade) => ({ school, grade, key: placeKey(school, grade) }))
		)
	);
	for (let number = 1; ; number += 1) {
		left = left.filter((places) => places.some((p) => open.get(p.key)! > 0));
		if (left.length === 0) return studentsAt;
		addFamily(town, left.length === 1 ? left[0]! : r.pick(left), open, studentsAt);
		if (number % 2000 === 0) say(`${number} families`);
	}
}

function addFamily(
	town: Town,
	around: readonly Place[],
	open: Map<string, number>,
	studentsAt: StudentsAt
): void {
	const { r, name, size } = town;
	const language = r.weighted(languageWeights);
	const family = name.family(language);
	// Brothers and sisters fall into different grades; the last families fill what is still open.
	const wanted = r.weighted({ '1': 48, '2': 37, '3': 12, '4': 3 });
	const places = r.shuffle(around.filter((p) => open.get(p.key)! > 0)).slice(0, Number(wanted));
	const household = town.addHousehold(family);
	const students = places.map((place) => {
		open.set(place.key, open.get(place.key)! - 1);
		const id = addStudent(town, place, family, language);
		const there = studentsAt.get(place.key);
		if (there) there.push(id);
		else studentsAt.set(place.key, [id]);
		return id;
	});
	const home = new Home(town, family, language, students);
	home.move(household, students);
	addParents(home, household);
	if (r.chance(0.92)) {
		const relation = r.weighted({ grandmother: 45, grandfather: 20, neighbour: 25, aunt: 10 });
		const id = home.addAdult(relation, {
			inbox: 0.1,
			family: relation === 'neighbour' ? name.family('en') : family
		});
		home.tie(id, relation, { emergency: true });
	}
	// Only where a large district is made, so that the small one stays what it was.
	if (size.name === 'district' && r.chance(0.2)) {
		home.tie(home.addAdult('uncle', { inbox: 0.05 }), 'uncle', { emergency: true });
	}
}

function addStudent(
	town: Town,
	{ school, grade }: Place,
	family: string,
	language: DemoLanguage
): number {
	const given = town.name.given(language, town.r.pick(['female', 'male'] as const));
	const inbox = school.level !== 'elementary';
	const id = town.addPerson({
		kind: 'student',
		given,
		family,
		language,
		schoolId: school.id,
		grade,
		inbox
	});
	if (inbox)
		town.addAddress(
			id,
			'email',
			town.mailFor(given, family, 'students.brackwater.example'),
			'unknown'
		);
	return id;
}

/** Parents together, apart, or one alone. */
function addParents(home: Home, household: number): void {
	const { town, students, family } = home;
	const { r, name } = town;
	const shape = r.weighted({ together: 60, apart: 18, single: 22 });
	if (shape === 'together') {
		const sharedMail = r.chance(0.1) ? town.mailFor('family', family) : null;
		for (const relation of ['mother', 'father']) {
			const id = home.addAdult(relation, { inbox: 0.78, sharedMail });
			home.move(household, [id]);
			home.tie(id, relation, { ...full, emergency: r.chance(0.5) });
		}
		return;
	}
	if (shape === 'single') {
		const relation = r.weighted({ mother: 70, father: 22, aunt: 8 });
		const id = home.addAdult(relation, { inbox: 0.74 });
		home.move(household, [id]);
		home.tie(id, relation, { ...full, emergency: true });
		return;
	}
	const mother = home.addAdult('mother', {
		inbox: 0.76,
		family: r.chance(0.5) ? family : name.family(home.language)
	});
	home.move(household, [mother]);
	home.tie(mother, 'mother', { ...full, emergency: true });
	const other = town.addHousehold(`${family}, second home`);
	home.move(other, students);
	const father = home.addAdult('father', { inbox: 0.7 });
	home.move(other, [father]);
	const order = r.weighted({ shared: 70, 'no custody': 20, 'no letters': 10 });
	home.tie(father, 'father', {
		...full,
		custody: order !== 'no custody',
		correspondence: order === 'shared'
	});
	if (r.chance(0.25)) {
		const stepmother = home.addAdult('stepmother', {
			inbox: 0.6,
			family: name.family(home.language)
		});
		home.move(other, [stepmother]);
		home.tie(stepmother, 'stepmother', {});
	}
}

/** A family while it is being made. */
class Home {
	constructor(
		readonly town: Town,
		readonly family: string,
		readonly language: DemoLanguage,
		readonly students: readonly number[]
	) {}

	addAdult(
		relation: string,
		{
			inbox,
			family = this.family,
			sharedMail = null
		}: { inbox: number; family?: string; sharedMail?: string | null }
	): number {
		const { r, name } = this.town;
		const given = name.given(this.language, sexOf(relation) ?? r.pick(['female', 'male'] as const));
		const id = this.town.addPerson({
			kind: 'adult',
			given,
			family,
			language: this.language,
			inbox: r.chance(inbox)
		});
		this.town.reach(id, given, family, sharedMail);
		return id;
	}

	/** Makes an adult a contact of every child. */
	tie(
		personId: number,
		relation: string,
		{ guardian, custody, correspondence, emergency }: Duty
	): void {
		for (const student of this.students) {
			this.town.rows.contact.push([
				student,
				personId,
				relation,
				yes(guardian === true),
				yes(custody === true),
				yes(correspondence === true),
				yes(emergency === true)
			]);
		}
	}

	move(household: number, people: readonly number[]): void {
		for (const person of people) this.town.rows.household_member.push([household, person]);
	}
}
