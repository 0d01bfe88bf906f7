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

/** Courses and sections over three terms, each student in one or two sections a term, each section with a teacher. */
export function addCourses(rows: DistrictRows, r: Random, size: DistrictSize, studentsAt: StudentsAt): void {
	const [elementary, middleSchool, highSchool] = size.schools as [SchoolPlan, SchoolPlan, SchoolPlan];
	const teachersOf = (schoolId: number) =>
		rows.staff.filter(([, s, role]) => s === schoolId && role === 'teacher').map(([id]) => id);
	const turn = new Map<number, number>();
	const course = (schoolId: number, title: string, code: string) => {
		rows.course.push([rows.course.length + 1, schoolId, code, title]);
		return rows.course.length;
	};
	const section = (
		courseId: number, termId: number, schoolId: number, sectionName: string, period: string,
		students: readonly number[], teacher?: number
	) => {
		const id = rows.section.length + 1;
		rows.section.push([id, courseId, termId, sectionName, period]);
		students.forEach((s) => rows.enrolment.push([id, s]));
		const list = teachersOf(schoolId);
		const next = turn.get(schoolId) ?? 0;
		turn.set(schoolId, next + 1);
		rows.section_staff.push([id, teacher ?? list[next % list.length]!]);
	};
	const terms = [1, 2, 3];
	// Elementary: three homerooms a grade, the same children all year.
	for (const grade of elementary.grades) {
		const courseId = course(1, `Homeroom ${grade}`, `HR-${grade}`);
		const students = r.shuffle(studentsAt.get(placeKey(elementary, grade))!);
		for (const termId of terms) {
			['A', 'B', 'C'].forEach((letter, i) =>
				section(courseId, termId, 1, `Homeroom ${grade}-${letter}`, 'all day', students.filter((_, n) => n % 3 === i))
			);
		}
	}
	// Middle: three sections a grade and term; English, mathematics and science come back each term.
	const middle = [...middleCourses].map((title) => ({ title, id: course(2, title, `M-${rows.course.length}`) }));
	for (const termId of terms) {
		for (const grade of middleSchool.grades) {
			const students = r.shuffle(studentsAt.get(placeKey(middleSchool, grade))!);
			const ofGrade = middle.filter((c) => c.title.endsWith(` ${grade}`));
			const offered = [ofGrade[(termId - 1) % ofGrade.length]!, ofGrade[(termId + 1) % ofGrade.length]!, middle[(termId * 5 + Number(grade)) % middle.length]!];
			offered.forEach((c, i) =>
				section(c.id, termId, 2, `${c.title}-A`, `period ${i + 1}`, students.filter((_, n) => n % 3 === i || (i === 0 && n % 5 === 1)))
			);
		}
	}
	// High: ten sections a term. Boatbuilding is Mr. Okafor's.
	const okafor = rows.person.find((p) => p[3] === 'Okafor')![0];
	const high = highCourses.map((title) => ({ title, id: course(3, title, `H-${rows.course.length}`) }));
	const pool = highSchool.grades.flatMap((g) => studentsAt.get(placeKey(highSchool, g))!);
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
		offered.forEach((c, i) =>
			section(c.id, termId, 3, c.name, `period ${(i % 6) + 1}`, mix.filter((_, n) => n % offered.length === i || (i < 2 && n % 17 === i)), c.teacher)
		);
	}

	// Every further school of the large district: each student in two sections a term.
	for (const school of size.schools.slice(3)) {
		const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ'.split('');
		/** Spreads students over so many sections of a course, by turns. */
		const spread = (title: string, code: string, n: number, students: readonly number[], step: number) => {
			const courseId = course(school.id, title, code);
			for (const termId of terms) {
				for (let i = 0; i < n; i += 1) {
					section(
						courseId, termId, school.id, `${title}-${letters[i % 26]}`,
						school.level === 'elementary' ? 'all day' : `period ${((i + step) % 6) + 1}`,
						students.filter((_, k) => (k + step * termId) % n === i)
					);
				}
			}
		};
		for (const grade of school.grades) {
			const students = r.shuffle(studentsAt.get(placeKey(school, grade)) ?? []);
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
}

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
