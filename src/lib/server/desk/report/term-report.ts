import { z } from 'zod';
import { ways, type Way } from '../../../core/roster/way';
import { dayAfter, localOf, startOfDay } from '../../../core/time/local';
import { mondayOf, weeksBetween } from '../../../core/time/weeks';
import { studentsAllowed } from '../../access/allowed';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { onlyStands } from '../../db/copy-state';
import { readDistrict } from '../../db/district';
import type { Db, Query } from '../../db/open';
import { silentIn } from '../silent/silent-families';
import {
	addressTimes,
	copiesByWeek,
	coveredBy,
	homesByWeek,
	type ReportDispatch
} from './term-rows';
import type { ReportWeek, WaySum } from '../../../core/track/report-sums';
import type { TermReport } from './types';

/** Within so many days of leaving a dispatch has to have been read: what is read later is hardly known in time. */
const withinDays = 3;
const dayMs = 86_400_000;
const silentDays = 30;

/** Which report is asked for. */
export const reportAskedSchema = z.object({
	/** Id of a term; 0 is the one that runs, else the last. */
	term: z.coerce.number().int().min(0).max(Number.MAX_SAFE_INTEGER).catch(0),
	/** Id of a school; 0 is all that one sees. */
	school: z.coerce.number().int().min(0).max(Number.MAX_SAFE_INTEGER).catch(0)
});
export type ReportAsked = z.infer<typeof reportAskedSchema>;

type Term = TermReport['term'];

/** Terms that have begun, the newest first; the one that runs stands first where one does. */
async function begunTerms(db: Query, today: string): Promise<Term[]> {
	return db.all<Term>(
		`SELECT id, name, starts_on AS startsOn, ends_on AS endsOn FROM term WHERE starts_on <= $today
		ORDER BY ends_on > $today AND starts_on <= $today DESC, starts_on DESC, id`,
		{ today }
	);
}

/** The students whom a user sees, with their schools. */
async function studentsSeen(
	db: Query,
	user: User
): Promise<{ id: number; schoolId: number | null }[]> {
	const allowed = await studentsAllowed(db, user, 'see');
	return db.all(
		`SELECT id, school_id AS schoolId FROM person_now WHERE kind = 'student'
			${allowed === null ? '' : 'AND id IN (SELECT value FROM json_each($allowed))'}`,
		allowed === null ? {} : { allowed: JSON.stringify(allowed) }
	);
}

const noWay: WaySum = { copies: 0, arrived: 0, read: 0 };

/** The report of a term until now, of the students a user sees; null where no term has begun, or it is not theirs to see. */
export async function termReport(
	db: Db,
	user: User,
	asked: ReportAsked
): Promise<TermReport | null> {
	const { zone, name: district, textPartCents } = await readDistrict(db);
	const at = await now(db);
	const today = localOf(at, zone).slice(0, 10);
	const terms = await begunTerms(db, today);
	const term = asked.term === 0 ? terms[0] : terms.find((t) => t.id === asked.term);
	if (!term) return null;
	const seen = await studentsSeen(db, user);
	const own = new Set(seen.map((s) => s.schoolId));
	const schools = (
		await db.all<{ id: number; name: string }>('SELECT id, name FROM school ORDER BY name')
	).filter((s) => own.has(s.id));
	const school =
		asked.school === 0 && schools.length === 1
			? schools[0]
			: schools.find((s) => s.id === asked.school);
	if (asked.school !== 0 && !school) return null;
	const students = seen.filter((s) => !school || s.schoolId === school.id).map((s) => s.id);

	const begins = startOfDay(term.startsOn, zone);
	const ends = Math.min(at, startOfDay(term.endsOn, zone));
	const dispatches = (
		await db.all<{ id: number; leavesAt: number }>(
			`SELECT id, leaves_at AS leavesAt FROM dispatch WHERE kind != 'answer' AND state IN ('scheduled', 'sent') AND NOT ${onlyStands}
				AND leaves_at >= $begins AND leaves_at <= $ends
				AND EXISTS (SELECT 1 FROM dispatch_student WHERE dispatch_id = dispatch.id AND student_id IN (SELECT value FROM json_each($students)))
			ORDER BY leaves_at, id`,
			{ begins, ends, students: JSON.stringify(students) }
		)
	).map((d): ReportDispatch => ({ ...d, week: mondayOf(localOf(d.leavesAt, zone).slice(0, 10)) }));
	const ever = await db.one<{ n: number }>(
		`SELECT count(*) AS n FROM person WHERE kind = 'student'`
	);
	const rows = { dispatches, students, everybody: ever!.n === students.length };
	const copies = await copiesByWeek(db, rows);
	const homes = new Map((await homesByWeek(db, rows)).map((h) => [h.week, h]));
	const covered = await coveredBy(db, rows, withinDays * dayMs);
	const addresses = await addressTimes(db, students);
	const weekOf = (instant: number) => mondayOf(localOf(instant, zone).slice(0, 10));
	const until = localOf(ends, zone).slice(0, 10);
	const inWeek = (times: readonly number[], week: string) =>
		times.filter((t) => t >= begins && t <= ends && weekOf(t) === week).length;
	const weeks = weeksBetween(term.startsOn, until < term.endsOn ? dayAfter(until) : term.endsOn);
	return {
		...{ term, terms: terms.map(({ id, name }) => ({ id, name })), zone, at },
		school: school?.name ?? (schools.length > 1 ? district : 'My students'),
		schools: schools.length > 1 ? [{ id: 0, name: 'all schools' }, ...schools] : [],
		...{ schoolId: school?.id ?? 0, students: students.length, days: withinDays },
		weeks: weeks.map((week): ReportWeek => {
			const left = dispatches.filter((d) => d.week === week);
			const own = copies.filter((c) => c.week === week);
			const sum = (key: 'parts' | 'partsUnknown') => own.reduce((n, c) => n + c[key], 0);
			const of = (way: Way): WaySum => {
				const found = own.find((c) => c.way === way);
				return found ? { copies: found.copies, arrived: found.arrived, read: found.read } : noWay;
			};
			return {
				from: week,
				dispatches: left.length,
				running: left.filter((d) => d.leavesAt + withinDays * dayMs > at).length,
				...(covered.weeks.get(week) ?? { of: 0, covered: 0 }),
				messages: homes.get(week)?.messages ?? 0,
				homes: homes.get(week)?.homes ?? 0,
				most: homes.get(week)?.most ?? 0,
				ways: Object.fromEntries(ways.map((way) => [way, of(way)])) as Record<Way, WaySum>,
				...{ parts: sum('parts'), partsUnknown: sum('partsUnknown') },
				failing: inWeek(addresses.failing, week),
				mended: inWeek(addresses.mended, week)
			};
		}),
		languages: [...covered.languages]
			.map(([tags, sums]) => ({ tags, ...sums }))
			.sort((a, b) => b.of - a.of || (a.tags < b.tags ? -1 : 1)),
		partCents: textPartCents,
		silent:
			ends - begins < silentDays * dayMs
				? null
				: {
						then: await silentIn(
							db,
							user,
							{ since: begins, until: begins + silentDays * dayMs },
							school?.id ?? null
						),
						now: await silentIn(
							db,
							user,
							{ since: ends - silentDays * dayMs, until: ends },
							school?.id ?? null
						)
					}
	};
}
