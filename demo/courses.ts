import type { Random } from './random';
import type { DistrictSize, SchoolPlan } from './sizes';
import { placeKey, type DistrictRows, type StudentsAt } from "./rows";

const middleCourses: readonly string[] = [
	'English 6', 'English 7', 'English 8', 'Mathematics 6', 'Mathematics 7', 'Mathematics 8',
	'Tide Science 6', 'Tide Science 7', 'Tide Science 8', 'Island History 6', 'Island History 7',
	'Island History 8', 'Art 6', 'Art 7', 'Art 8', 'Knots and Canvas', 'Weather Watch', 'Drama 7',
	'Robotics 8', 'Choir 6', 'Band 7', 'Cooking 8', 'Maps and Charts', 'Garden Lab'
];
const highCourses: readonly string[] = [
	'Boatbuilding 1', 'Boatbuilding 2', 'English 9', 'English 10', 'English 11', 'English 12',
	'Algebra 1', 'Geometry', 'Algebra 2', 'Calculus', 'Biology', 'Chemistry', 'Physics',
	'Marine Ecology', 'World History', 'Civics', 'Economics', 'Spanish 1', 'Spanish 2', 'Portuguese 1',
	'Navigation', 'Ceramics', 'Photography', 'Music Theory', 'Health', 'Diesel and Electrics',
	'Creative Writing', 'Statistics', 'Film Studies', 'Lighthouse Journal'
];

const terms = [1, 2, 3] as const;

/** A section to be made; without a teacher the next one of its school has it. */
interface NewSection {
	readonly courseId: number;
	readonly termId: number;
	readonly schoolId: number;
	readonly name: string;
	readonly period: string;
	readonly students: readonly number[];
	readonly teacher?: number | undefined;
}

/** Courses and sections while they are being made; teachers take turns. */
class Timetable {
	readonly #turn = new Map<number, number>();
	constructor(
		readonly rows: DistrictRows,
		readonly r: Random,
		readonly studentsAt: StudentsAt
	) {}

	course(schoolId: number, title: string, code: string): number {
		this.rows.course.push([this.rows.course.length + 1, schoolId, code, title]);
		return this.rows.course.length;
	}

	section({ courseId, termId, schoolId, name, period, students, teacher }: NewSection): void {
		const { rows } = this;
		const id = rows.section.length + 1;
		rows.section.push([id, courseId, termId, name, period]);
		students.forEach((s) => rows.enrolment.push([id, s]));
		const list = rows.staff.filter(([, s, role]) => s === schoolId && role === 'teacher').map(([person]) => person);
		const next = this.#turn.get(schoolId) ?? 0;
		this.#turn.set(schoolId, next + 1);
		rows.section_staff.push([id, teacher ?? list[next % list.length]!]);
	}

	/** The students of a grade in an order of their own. */
	shuffled(school: SchoolPlan, grade: string): number[] {
		return this.r.shuffle(this.studentsAt.get(placeKey(school, grade)) ?? []);
	}
}

/** Courses and sections over three terms, each student in one or two sections a term, each section with a teacher. */
export function addCourses(rows: DistrictRows, r: Random, size: DistrictSize, studentsAt: StudentsAt): void {
	const [elementary, middle, high, ...further] = size.schools as [SchoolPlan, SchoolPlan, SchoolPlan, ...SchoolPlan[]];
	const table = new Timetable(rows, r, studentsAt);
	addHomerooms(table, elementary);
	addMiddle(table, middle);
	addHigh(table, high);
	for (const school of further) addFurther(table, school);
}

/** Elementary: three homerooms a grade, the same children all year. */
function addHomerooms(table: Timetable, school: SchoolPlan): void {
	for (const grade of school.grades) {
		const courseId = table.course(1, `Homeroom ${grade}`, `HR-${grade}`);
		const students = table.shuffled(school, grade);
		for (const termId of terms) {
			['A', 'B', 'C'].forEach((letter, i) =>
				table.section({
					courseId, termId, schoolId: 1, name: `Homeroom ${grade}-${letter}`, period: 'all day',
					students: students.filter((_, n) => n % 3 === i)
				})
			);
		}
	}
}

/** Middle: three sections a grade and term; English, mathematics and science come back each term. */
function addMiddle(table: Timetable, school: SchoolPlan): void {
	const courses = middleCourses.map((title) => ({ title, id: table.course(2, title, `M-${table.rows.course.length}`) }));
	for (const termId of terms) {
		for (const grade of school.grades) {
			const students = table.shuffled(school, grade);
			const ofGrade = courses.filter((c) => c.title.endsWith(` ${grade}`));
			const offered = [
				ofGrade[(termId - 1) % ofGrade.length]!,
				ofGrade[(termId + 1) % ofGrade.length]!,
				courses[(termId * 5 + Number(grade)) % courses.length]!
			];
			offered.forEach((c, i) =>
				table.section({
					courseId: c.id, termId, schoolId: 2, name: `${c.title}-A`, period: `period ${i + 1}`,
					students: students.filter((_, n) => n % 3 === i || (i === 0 && n % 5 === 1))
				})
			);
		}
	}
}

/** High: ten sections a term. Boatbuilding is Mr. Okafor's. */
function addHigh(table: Timetable, school: SchoolPlan): void {
	const { rows, r, studentsAt } = table;
	const okafor = rows.person.find((p) => p[3] === 'Okafor')![0];
	const high = highCourses.map((title) => ({ title, id: table.course(3, title, `H-${rows.course.length}`) }));
	const pool = school.grades.flatMap((g) => studentsAt.get(placeKey(school, g))!);
	for (const termId of terms) {
		const mix = r.shuffle(pool);
		const boat = high[0]!;
		const second = high[1]!;
		const others = high.slice(2).filter((_, i) => i % 3 === termId % 3).slice(0, 8);
		const offered = [
			{ ...boat, name: 'Boatbuilding 1-A', teacher: okafor },
			{ ...boat, name: 'Boatbuilding 1-B', teacher: okafor },
			{ ...second, name: 'Boatbuilding 2-A', teacher: okafor },
			...others.map((c) => ({ ...c, name: `${c.title}-A`, teacher: undefined }))
		];
		offered.forEach(({ id: courseId, name, teacher }, i) =>
			table.section({
				courseId, termId, schoolId: 3, name, period: `period ${(i % 6) + 1}`, teacher,
				students: mix.filter((_, n) => n % offered.length === i || (i < 2 && n % 17 === i))
			})
		);
	}
}

/** Every further school of the large district: each student in two sections a term. */
function addFurther(table: Timetable, school: SchoolPlan): void {
	const { r } = table;
	const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ'.split('');
	/** Spreads students over so many sections of a course, by turns. */
	const spread = (title: string, code: string, n: number, students: readonly number[], step: number) => {
		const courseId = table.course(school.id, title, code);
		for (const termId of terms) {
			for (let i = 0; i < n; i += 1) {
				table.section({
					courseId, termId, schoolId: school.id, name: `${title}-${letters[i % 26]}`,
					period: school.level === 'elementary' ? 'all day' : `period ${((i + step) % 6) + 1}`,
					students: students.filter((_, k) => (k + step * termId) % n === i)
				});
			}
		}
	};
	for (const grade of school.grades) {
		const students = table.shuffled(school, grade);
		if (school.level === 'elementary') {
			spread(`Homeroom ${grade}`, `HR-${grade}`, 3, students, 0);
			spread(`Music and Art ${grade}`, `MA-${grade}`, 1, students, 0);
		} else {
			const list = school.level === 'middle' ? middleCourses.filter((c) => c.endsWith(` ${grade}`)) : r.shuffle(highCourses);
			spread(list[0]!, `${school.id}-${grade}-1`, 5, students, 1);
			spread(list[1]!, `${school.id}-${grade}-2`, 4, r.shuffle(students), 2);
		}
	}
}

/** Ferry runs, and a choir, a team and clubs. */
export function addGroups(rows: DistrictRows, r: Random, size: DistrictSize): void {
	const students = rows.person.filter((p) => p[1] === 'student');
	const group = (groupName: string, kind: string, schoolId: number | null, members: readonly number[]) => {
		const id = rows.school_group.length + 1;
		rows.school_group.push([id, groupName, kind, schoolId]);
		members.forEach((m) => rows.group_member.push([id, m]));
	};
	const runs = ['North Run', 'South Shore', 'Pier 2 Early Boat'];
	const riders = new Map<string, number[]>(runs.map((run) => [run, []]));
	for (const [id] of students) if (r.chance(0.62)) riders.get(r.pick(runs))!.push(id);
	riders.forEach((members, run) => group(run, 'ferry run', null, members));
	const some = (share: number, test: (grade: string) => boolean) =>
		students.filter((s) => test(s[6]!) && r.chance(share)).map((s) => s[0]);
	group('Tide Singers', 'choir', 2, some(0.25, (g) => ['6', '7', '8'].includes(g)));
	group('Regatta Crew', 'team', 3, some(0.16, (g) => ['9', '10', '11', '12'].includes(g)));
	group('Kelp Garden', 'club', 1, some(0.12, (g) => ['3', '4', '5'].includes(g)));
	for (const school of size.schools.slice(3)) {
		const own = students.filter((s) => s[5] === school.id);
		const kind = school.level === 'elementary' ? 'club' : school.level === 'middle' ? 'choir' : 'team';
		group(`${school.short} ${kind}`, kind, school.id, own.filter(() => r.chance(0.15)).map((s) => s[0]));
	}
}
