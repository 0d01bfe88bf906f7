import { sharedZone, type Clocks } from '../../core/time/clocks';
import type { DayMarks } from '../../core/time/zone';
import { marksSchema, quietSchema, readDistrict, type District } from './district';
import { schoolOwn, type SchoolOwnRow } from './models/calendar';
import type { Query } from './open';

/** What a school has of its own, about time and its boards; null where it keeps to the district's. */
export interface SchoolOwn {
	readonly zone: string | null;
	readonly quiet: District['quiet'] | null;
	readonly marks: DayMarks | null;
	/** Whether anybody may open its boards who has their link. */
	readonly openBoards: boolean | null;
}
/** By the school's id. */
export type SchoolsOwn = ReadonlyMap<number, SchoolOwn>;

const jsonOf = (text: string | null): unknown => (text === null ? null : JSON.parse(text));

/** What schools have of their own. */
export async function readSchoolsOwn(db: Query): Promise<SchoolsOwn> {
	const rows = await db.all<SchoolOwnRow>(
		'SELECT school_id AS schoolId, zone, quiet, marks, open_boards AS openBoards FROM school_own ORDER BY school_id'
	);
	return new Map(
		rows.map(({ schoolId, zone, quiet, marks, openBoards }) => [
			schoolId,
			{
				zone,
				quiet: quietSchema.nullable().parse(jsonOf(quiet)),
				marks: marksSchema.nullable().parse(jsonOf(marks)),
				openBoards: openBoards === null ? null : openBoards === 1
			}
		])
	);
}

/** Puts down what a school has of its own; nothing of its own leaves no row. */
export async function writeSchoolOwn(
	tx: Query,
	schoolId: number,
	{ zone, quiet, marks, openBoards }: SchoolOwn
): Promise<void> {
	await tx.run('DELETE FROM school_own WHERE school_id = $schoolId', { schoolId });
	if ([zone, quiet, marks, openBoards].every((own) => own === null)) return;
	await tx.rows(schoolOwn).add({
		...{ schoolId, zone },
		quiet: quiet === null ? null : JSON.stringify(quiet),
		marks: marks === null ? null : JSON.stringify(marks),
		openBoards: openBoards === null ? null : openBoards ? 1 : 0
	});
}

/** The clocks of a district and its schools. */
export const clocksOf = ({ zone }: Pick<District, 'zone'>, schools: SchoolsOwn): Clocks => ({
	zone,
	schools: new Map([...schools].flatMap(([id, own]) => (own.zone === null ? [] : [[id, own.zone]])))
});

export const readClocks = async (db: Query): Promise<Clocks> =>
	clocksOf(await readDistrict(db), await readSchoolsOwn(db));

/** The clock by which somebody lives who has said nothing of their own, and the hours that are quiet for them: their students' schools', where they share one, else the district's. */
export async function usualTimeOf(
	db: Query,
	personId: number
): Promise<Pick<District, 'zone' | 'quiet'>> {
	const district = await readDistrict(db);
	const schools = await readSchoolsOwn(db);
	if (schools.size === 0) return district;
	const rows = await db.all<{ id: number }>(
		`SELECT DISTINCT school_id AS id FROM person WHERE school_id IS NOT NULL
			AND (id = $personId OR id IN (SELECT student_id FROM contact_now WHERE person_id = $personId))`,
		{ personId }
	);
	const ids = rows.map((r) => r.id);
	return {
		zone: sharedZone(clocksOf(district, schools), ids),
		quiet: (ids.length === 1 ? schools.get(ids[0]!)?.quiet : null) ?? district.quiet
	};
}
