import { DateTime } from 'luxon';
import { dayPartOf, localDays, weekBegins, weekOf, type LocalDay } from '../../../core/time/zone';
import { may } from '../../access/may';
import type { User } from '../../access/user';
import { workClock, workZone } from '../../access/work-clock';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import type { Db } from '../../db/open';
import { feedNotes } from './feed-notes';
import { standingLines } from './standing';
import { dispatchLines, draftLines, waitingLines } from './dispatch-lines';
import type { DispatchLine, WeekView, TagRow, DayNote, MonthView } from './types';
import { waitingFiles } from '../roster/views';
import { mendCounts } from '../people/mend';
import { waitingReplies } from '../replies/shelf-counts';
import { dayLoads, loadWindow } from '../load/load';
import { closureOn, closuresOn } from '../../../core/time/school-days';
import { eventColumns, toEvent, type EventRow, type Times } from '../../db/calendar';
import { suggestedMoves } from '../load/load-moves';
import type { SchoolRow } from '../../db/models/roster';

const momentOf = (line: DispatchLine): number => line.leavesAt ?? line.intendedAt!;

/** By when they leave; of those that leave together the one written first. */
const inTheirOrder = (a: DispatchLine, b: DispatchLine): number =>
	momentOf(a) - momentOf(b) || a.id - b.id;

/** The week that holds `at` (or now), as the user may see it. */
export async function weekView(db: Db, user: User, at?: number): Promise<WeekView> {
	const { weekStart } = await readDistrict(db);
	const { zone, parts } = await workClock(db, user);
	const time = await now(db);
	const days = weekOf(at ?? time, zone, weekStart);
	const lines = await dispatchLines(db, user, { from: days[0]!.from, to: days[6]!.to }, 1000);
	const lastWeek = await dispatchLines(db, user, { from: time - 7 * 86_400_000, to: time }, 50);
	const window = await loadWindow(db, days);
	const loads = dayLoads(window);
	const drafts = await draftLines(db, user);
	const notes = await dayNotes(db, user, days, window.times);
	const shown = [...lines, ...drafts.filter((d) => d.intendedAt !== null)];
	return {
		zone,
		parts,
		now: time,
		limit: window.times.loadLimit,
		moves: loads.some((l) => l.over > 0) ? await suggestedMoves(db, user, window) : [],
		days: days.map((day, i) => {
			const tags: Record<TagRow, DispatchLine[]> = {
				before: [],
				school: [],
				after: [],
				evening: [],
				quiet: []
			};
			for (const line of shown) {
				const at = momentOf(line);
				if (at < day.from || at >= day.to) continue;
				tags[dayPartOf(at, zone, parts)?.key ?? 'quiet'].push(line);
			}
			for (const list of Object.values(tags)) list.sort(inTheirOrder);
			return {
				...day,
				today: time >= day.from && time < day.to,
				tags,
				load: loads[i]!,
				notes: notes(day),
				closed: closureOn(window.times.calendar, day.date)?.name ?? null
			};
		}),
		dispatches: lines.length,
		copies: lines.reduce((sum, l) => sum + l.copies, 0),
		waiting: {
			drafts,
			answers: await waitingLines(db, user),
			replies: await waitingReplies(db, user, time),
			notCovered: lastWeek
				.filter(
					(l) =>
						l.state === 'sent' &&
						l.ways.length > 0 &&
						l.unit === 'students' &&
						l.covered < l.students
				)
				.slice(0, 5),
			mend: await mendCounts(db, user),
			rosters: may(user, 'bring-roster') ? await waitingFiles(db) : [],
			standing: await standingLines(db, user)
		}
	};
}

/** What stands on each of some days beside what leaves: events, schools that are closed by themselves, feeds that are asked. */
async function dayNotes(
	db: Db,
	user: User,
	days: readonly LocalDay[],
	times: Times
): Promise<(day: LocalDay) => DayNote[]> {
	const { calendar } = times;
	const feeds = await feedNotes(db, user, days, times);
	const events = (
		await db.all<EventRow>(
			`SELECT ${eventColumns} FROM school_event WHERE ends_at >= $from AND starts_at < $to ORDER BY starts_at, id`,
			{ from: days[0]!.from, to: days.at(-1)!.to }
		)
	).map(toEvent);
	const schools = new Map(
		(
			await db.all<Pick<SchoolRow, 'id'> & { name: SchoolRow['shortName'] }>(
				'SELECT id, short_name AS name FROM school'
			)
		).map((s) => [s.id, s.name])
	);
	return (day) => [
		...closuresOn(calendar, day.date)
			.filter((c) => c.schoolId !== null)
			.map((c): DayNote => ({
				key: `c${c.schoolId} ${c.name}`,
				kind: 'closure',
				text: `${schools.get(c.schoolId!) ?? ''}: ${c.name}`,
				at: null,
				href: null,
				calledOff: false
			})),
		...events
			// An event that ends as the day begins is not on it.
			.filter((e) => e.startsAt < day.to && (e.endsAt > day.from || e.startsAt >= day.from))
			.map((e): DayNote => ({
				key: `e${e.id}`,
				kind: 'event',
				text: e.title,
				at: e.allDay || e.startsAt < day.from ? null : e.startsAt,
				href: `/week/events/${e.id}`,
				calledOff: e.calledOff
			})),
		...feeds(day)
	];
}

/** The month that holds `at` (or now), in whole weeks. */
export async function monthView(db: Db, user: User, at?: number): Promise<MonthView> {
	const { weekStart } = await readDistrict(db);
	const zone = await workZone(db, user);
	const time = await now(db);
	const month = DateTime.fromMillis(at ?? time, { zone }).startOf('month');
	const first = weekBegins(month, weekStart);
	const weeks = Math.ceil(
		month.endOf('month').diff(DateTime.fromISO(first, { zone }), 'weeks').weeks
	);
	const days = localDays(first, weeks * 7, zone);
	const window = await loadWindow(db, days);
	const loads = dayLoads(window);
	const lines = await dispatchLines(db, user, { from: days[0]!.from, to: days.at(-1)!.to }, 2000);
	const notes = await dayNotes(db, user, days, window.times);
	const drafts = (await draftLines(db, user)).filter((d) => d.intendedAt !== null);
	return {
		zone,
		now: time,
		limit: window.times.loadLimit,
		first: month.toISODate()!,
		days: days.map((day, i) => ({
			...day,
			today: time >= day.from && time < day.to,
			inMonth: day.date.slice(0, 7) === month.toFormat('yyyy-MM'),
			load: loads[i]!,
			notes: notes(day),
			closed: closureOn(window.times.calendar, day.date)?.name ?? null,
			lines: [...lines, ...drafts]
				.filter((l) => momentOf(l) >= day.from && momentOf(l) < day.to)
				.sort(inTheirOrder)
		}))
	};
}
