import { groupBy } from '../../../core/group-by';
import { coverageSentence, isCovered } from '../../../core/track/coverage';
import { growthOf } from '../../../core/track/growth';
import { shareOf } from '../../../core/track/share';
import type { User } from '../../access/user';
import { now } from '../../clock';
import type { Db, Query } from '../../db/open';
import { remembering } from '../../db/remember';
import { chainOf } from '../track/chase-chain';
import { keptForecast } from '../expect/kept-forecast';
import { coverageBy, type DispatchCoverage } from '../track/coverage';
import { languagesOf } from '../track/family-languages';
import { planKey } from '../track/plan-key';
import { FieldTally } from './field-tally';
import { dispatchHead } from './head';
import type {
	CoverageFigures,
	FieldStudent,
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
	const { bySchool, byLanguage } = tallyOf(await fieldOfDispatch(db, id), coverage);
	const { unit, covered, waiting, unreachable } = coverage;
	return {
		sentence: coverageSentence(coverage, unit),
		...{ students: coverage.students, covered, waiting, unreachable },
		bySchool: sharesOf(bySchool),
		byLanguage: sharesOf(byLanguage),
		growth:
			firstLeft === null
				? null
				: growthOf(coverage.kept.timesInOrder, coverage.students, firstLeft, await now(db))
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
	const figures = await coverageFigures(db, id, counts);
	const field = await fieldOfDispatch(db, id);
	return {
		...figures,
		...{ unit: coverage.unit, rule: coverage.rule },
		together: await together(db, user, id, coverage),
		field: fieldLines(field, coverage, field.bySection.keys()),
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
	const field = await fieldOfDispatch(db, id);
	const sections = new Set([...touched].flatMap((student) => field.sectionOf.get(student) ?? []));
	return fieldLines(field, coverage, sections).map(
		({ sectionId, covered, unreachable, rings }) => ({
			...{ sectionId, covered, unreachable },
			rings: (rings ?? []).flatMap(({ studentId, standing }) =>
				touched.has(studentId) ? [{ studentId, standing }] : []
			)
		})
	);
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

/** Who a dispatch is about, which changes with its plan and the roster only: evidence changes none of it. */
interface Field {
	readonly students: readonly FieldStudent[];
	readonly bySection: ReadonlyMap<number, readonly FieldStudent[]>;
	readonly sectionOf: ReadonlyMap<number, number>;
	/** By student; see {@link languagesOf}. */
	readonly languages: ReadonlyMap<number, string>;
	/** How they stand, as it was last asked for; see {@link tallyOf}. */
	tally: FieldTally | null;
}
/** Of so many dispatches that are looked at again and again while they are read. */
const fields = remembering<Field>(6);

/** The field of a dispatch, as it is kept. */
export const fieldOfDispatch = async (db: Query, id: number): Promise<Field> =>
	fields.get(db, await planKey(db, id), async () => {
		const [students, languages] = await Promise.all([fieldStudents(db, id), languagesOf(db, id)]);
		return {
			...{ students, languages },
			bySection: groupBy(students, (s) => s.sectionId),
			sectionOf: new Map(students.map((s) => [s.studentId, s.sectionId])),
			tally: null
		};
	});

/** How the students of a field stand by a coverage. What is kept of it is the newest: whoever still has an older coverage in hand gets one of their own. */
function tallyOf(field: Field, coverage: DispatchCoverage): FieldTally {
	if (field.tally?.follow(coverage)) return field.tally;
	const made = new FieldTally(field.students, field.languages, coverage);
	if (field.tally === null || !field.tally.isNewer(coverage)) field.tally = made;
	return made;
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

/** Lines of the field for some sections; with their rings where the students of all are few enough. */
function fieldLines(
	field: Field,
	coverage: DispatchCoverage,
	sections: Iterable<number>
): RosterFieldLine[] {
	const { bySection: tallies } = tallyOf(field, coverage);
	const all = field.students.length <= mostRings;
	return [...sections].map((sectionId) => {
		const list = field.bySection.get(sectionId)!;
		const { section, school } = list[0]!;
		return {
			...{ sectionId, section, school: sectionId === 0 ? '' : school },
			...tallies.get(sectionId)!,
			rings: all ? list.map((s) => ringOf(s, coverage)) : null
		};
	});
}

/** Shares of the students by a part of them, the largest part first; none where it would say no more than the whole. */
const sharesOf = (parts: FieldTally['bySchool']): ReachShare[] =>
	parts.size < 2
		? []
		: [...parts]
				.map(([name, { covered, students }]) => ({ name, ...shareOf(covered, students) }))
				.sort((a, b) => b.of - a.of || a.name.localeCompare(b.name));

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
