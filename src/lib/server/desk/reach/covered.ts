import { groupBy } from '../../../core/group-by';
import { coverageSentence, isCovered } from '../../../core/track/coverage';
import { growthOf } from '../../../core/track/growth';
import { shareOf } from '../../../core/track/share';
import type { User } from '../../access/user';
import { now } from '../../clock';
import type { DispatchRow } from '../../db/models/dispatch';
import type { Db, Query } from '../../db/open';
import { remembering } from '../../db/remember';
import { peopleVersion } from '../../db/roster';
import { chainOf } from '../track/chase-chain';
import { keptForecast } from '../expect/kept-forecast';
import { coverageBy, type DispatchCoverage } from '../track/coverage';
import { languagesOf } from '../track/family-languages';
import { dispatchHead } from './head';
import type {
	CoverageFigures,
	ReachChange,
	ReachCoverage,
	ReachShare,
	RingStudent,
	RosterFieldLine
} from './types';

/** More rings than this are too many to draw at once. */
const mostRings = 800;

/** What a coverage is counted with: where it stands, and when the first copy left (instant, ms; null where none has). */
interface Counts {
	readonly coverage: DispatchCoverage;
	readonly firstLeft: number | null;
}

/** The figures of how far a dispatch's students are covered. */
export async function coverageFigures(
	db: Query,
	id: number,
	{ coverage, firstLeft }: Counts
): Promise<CoverageFigures> {
	const { students, languages } = await fieldOfDispatch(db, id);
	const { unit, covered, waiting, unreachable } = coverage;
	return {
		sentence: coverageSentence(coverage, unit),
		...{ students: coverage.students, covered, waiting, unreachable },
		bySchool: sharesBy(students, coverage, (s) => s.school),
		byLanguage: sharesBy(students, coverage, (s) => languages.get(s.studentId) ?? s.language),
		growth:
			firstLeft === null
				? null
				: growthOf(coverage.times().values(), coverage.students, firstLeft, await now(db))
	};
}

/** How far the students of a dispatch are covered: the figures, the roster field, what follows it up, and what was to be expected. */
export async function reachCoverage(
	db: Query,
	user: User,
	id: number,
	counts: Counts
): Promise<ReachCoverage> {
	const { coverage } = counts;
	const { bySection, students } = await fieldOfDispatch(db, id);
	const all = students.length <= mostRings;
	return {
		...(await coverageFigures(db, id, counts)),
		...{ unit: coverage.unit, rule: coverage.rule },
		together: await together(db, user, id, coverage),
		field: [...bySection.values()].map((list) => fieldLine(list, coverage, all)),
		forecast: await keptForecast(db, id)
	};
}

/** The sections of some students, as they stand now. */
export async function sectionsChanged(
	db: Query,
	id: number,
	coverage: DispatchCoverage,
	touched: ReadonlySet<number>
): Promise<ReachChange['sections']> {
	const { bySection, students, sectionOf } = await fieldOfDispatch(db, id);
	const all = students.length <= mostRings;
	const sections = new Set([...touched].flatMap((student) => sectionOf.get(student) ?? []));
	return [...sections].map((section) => {
		const line = fieldLine(bySection.get(section)!, coverage, all);
		const { sectionId, covered, unreachable, rings } = line;
		return {
			...{ sectionId, covered, unreachable },
			rings: (rings ?? []).flatMap(({ studentId, standing }) =>
				touched.has(studentId) ? [{ studentId, standing }] : []
			)
		};
	});
}

/** The rings of one section of a dispatch, for a line that is opened; null where the user may not see the dispatch. */
export async function sectionRings(
	db: Db,
	user: User,
	id: number,
	sectionId: number
): Promise<RingStudent[] | null> {
	if (!(await dispatchHead(db, user, id))) return null;
	const coverage = (await coverageBy(db, [id])).get(id)!;
	return (await fieldStudents(db, id, sectionId)).map((s) => ringOf(s, coverage));
}

interface FieldStudent {
	readonly studentId: number;
	readonly name: string;
	readonly sectionId: number;
	readonly section: string;
	readonly school: string;
	/** BCP 47 tag of the student's own language. */
	readonly language: string;
}

/** Who a dispatch is about, which changes with its plan and the roster only: evidence changes none of it. */
interface Field {
	readonly students: readonly FieldStudent[];
	readonly bySection: ReadonlyMap<number, readonly FieldStudent[]>;
	readonly sectionOf: ReadonlyMap<number, number>;
	/** By student; see {@link languagesOf}. */
	readonly languages: ReadonlyMap<number, string>;
}
/** Of so many dispatches that are looked at again and again while they are read. */
const fields = remembering<Field>(6);

async function fieldOfDispatch(db: Query, id: number): Promise<Field> {
	const { plan } = (await db.one<Pick<DispatchRow, 'plan'>>(
		'SELECT plan FROM dispatch WHERE id = $id',
		{ id }
	))!;
	return fields.get(db, `${id} ${plan} ${await peopleVersion(db)}`, async () => {
		const students = await fieldStudents(db, id);
		return {
			students,
			bySection: groupBy(students, (s) => s.sectionId),
			sectionOf: new Map(students.map((s) => [s.studentId, s.sectionId])),
			languages: await languagesOf(db, id)
		};
	});
}

/** The students of a dispatch in the order of the field; `sectionId` keeps those of one section. */
const fieldStudents = (db: Query, id: number, sectionId?: number): Promise<FieldStudent[]> =>
	db.all<FieldStudent>(
		`SELECT student_id AS studentId, student.given_name || ' ' || student.family_name AS name,
			coalesce(section_id, 0) AS sectionId, coalesce(section.name, 'In no section') AS section,
			coalesce(school.name, '') AS school,
			student.language AS language
		FROM dispatch_student JOIN person AS student ON student.id = student_id
		LEFT JOIN section ON section.id = section_id LEFT JOIN school ON school.id = student.school_id
		WHERE dispatch_id = $id ${sectionId === undefined ? '' : 'AND coalesce(section_id, 0) = $sectionId'}
		ORDER BY school.name, section.name, section_id, student.family_name, student.given_name`,
		{ id, ...(sectionId === undefined ? {} : { sectionId }) }
	);

const ringOf = (s: FieldStudent, coverage: DispatchCoverage): RingStudent => ({
	studentId: s.studentId,
	name: s.name,
	standing: coverage.standing.get(s.studentId) ?? 'nobody'
});

/** A section's line of the field; with its rings where `all` are few enough. */
function fieldLine(
	list: readonly FieldStudent[],
	coverage: DispatchCoverage,
	all: boolean
): RosterFieldLine {
	const { sectionId, section, school } = list[0]!;
	const rings = list.map((s) => ringOf(s, coverage));
	return {
		...{ sectionId, section, school: sectionId === 0 ? '' : school },
		students: rings.length,
		covered: rings.filter((r) => isCovered(r.standing)).length,
		unreachable: rings.filter((r) => r.standing === 'failed' || r.standing === 'nobody').length,
		rings: all ? rings : null
	};
}

/** Shares of the students by something about them, the largest part first; none where it would say no more than the whole. */
function sharesBy(
	students: readonly FieldStudent[],
	coverage: DispatchCoverage,
	nameOf: (student: FieldStudent) => string
): ReachShare[] {
	const groups = groupBy(students, nameOf);
	if (groups.size < 2) return [];
	return [...groups]
		.map(([name, list]) => ({
			name,
			...shareOf(
				list.filter((s) => isCovered(coverage.standing.get(s.studentId) ?? 'nobody')).length,
				list.length
			)
		}))
		.sort((a, b) => b.of - a.of || a.name.localeCompare(b.name));
}

/** How many of a dispatch's students are covered by it or by what follows it up. */
async function together(
	db: Query,
	user: User,
	id: number,
	coverage: DispatchCoverage
): Promise<ReachCoverage['together']> {
	const later = (await chainOf(db, user, id)).filter((other) => other > id);
	if (later.length === 0) return null;
	const others = [...(await coverageBy(db, later)).values()];
	const covered = [...coverage.standing].filter(
		([student, standing]) =>
			isCovered(standing) ||
			others.some((o) => o.unit === coverage.unit && isCovered(o.standing.get(student) ?? 'nobody'))
	).length;
	return { covered, dispatches: later.length };
}
