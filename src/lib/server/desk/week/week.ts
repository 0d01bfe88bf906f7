import { DateTime } from 'luxon';
import { dayPartOf, localDays, weekOf, type DayPart, type LocalDay } from '../../../core/time/zone';
import type { User } from '../../access/sessions';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import type { Db } from '../../db/open';
import type { DayLoad } from '../../../core/plan/load';
import { dispatchLines, draftLines, waitingLines, type DispatchLine } from './dispatch-lines';
import { mendCounts } from '../people/mend';
import { dayLoads, loadWindow } from '../load/load';
import { suggestedMoves, type SuggestedMove } from '../plan/load-moves';
import { closureOn, closuresOn } from '../../../core/time/school-days';
import { eventColumns, toEvent, type EventRow, type Times } from '../../db/calendar';

/** A row of the week: a part of the day, or what lies outside all of them. */
export type TagRow = DayPart['key'] | 'quiet';

/** Something of the calendar that stands on a day: an event, or a school that is closed. */
export interface DayNote {
	readonly key: string;
	readonly kind: 'event' | 'closure';
	readonly text: string;
	/** When it starts (instant, ms); null for a whole day or one that it only goes on over. */
	readonly at: number | null;
	readonly eventId: number | null;
	readonly calledOff: boolean;
}

export interface WeekDay extends LocalDay {
	readonly today: boolean;
	readonly load: DayLoad;
	/** Why there is no school, or null. */
	readonly closed: string | null;
	/** Closures of single schools, and events. */
	readonly notes: readonly DayNote[];
	/** Tags by part of the day; `quiet` holds what leaves outside all of them. */
	readonly tags: Readonly<Record<TagRow, readonly DispatchLine[]>>;
}

export interface WeekView {
	readonly zone: string;
	readonly now: number;
	readonly days: readonly WeekDay[];
	readonly dispatches: number;
	readonly copies: number;
	/** Messages a family may get in a day before it is pointed out. */
	readonly limit: number;
	readonly moves: readonly SuggestedMove[];
	readonly waiting: {
		readonly drafts: readonly DispatchLine[];
		/** Scheduled, but held up until somebody answers. */
		readonly answers: readonly DispatchLine[];
		/** Of the last week, those with students nobody has read for. */
		readonly notCovered: readonly DispatchLine[];
		readonly mend: { readonly email: number; readonly text: number };
	};
}

/** The week that holds `at` (or now), as the user may see it. */
export async function weekView(db: Db, user: User, at?: number): Promise<WeekView> {
	const { zone } = await readDistrict(db);
	const time = await now(db);
	const days = weekOf(at ?? time, zone);
	const lines = await dispatchLines(db, user, { from: days[0]!.from, to: days[6]!.to }, 1000);
	const lastWeek = await dispatchLines(db, user, { from: time - 7 * 86_400_000, to: time }, 50);
	const window = await loadWindow(db, days);
	const loads = dayLoads(window);
	const drafts = await draftLines(db, user);
	const notes = await dayNotes(db, days, window.times);
	const shown = [...lines, ...drafts.filter((d) => d.intendedAt !== null)];
	const momentOf = (line: DispatchLine) => line.leavesAt ?? line.intendedAt!;
	return {
		zone,
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
				tags[dayPartOf(at, zone)?.key ?? 'quiet'].push(line);
			}
			for (const list of Object.values(tags)) list.sort((a, b) => momentOf(a) - momentOf(b));
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
			notCovered: lastWeek
				.filter((l) => l.state === 'sent' && l.unit === 'students' && l.covered < l.students)
				.slice(0, 5),
			mend: await mendCounts(db, user)
		}
	};
}

/** What the calendar holds on each of some days: events, and schools that are closed by themselves. */
async function dayNotes(
	db: Db,
	days: readonly LocalDay[],
	{ calendar }: Times
): Promise<(day: LocalDay) => DayNote[]> {
	const events = (
		await db.all<EventRow>(
			`SELECT ${eventColumns} FROM school_event WHERE ends_at >= $from AND starts_at < $to ORDER BY starts_at, id`,
			{ from: days[0]!.from, to: days.at(-1)!.to }
		)
	).map(toEvent);
	const schools = new Map(
		(await db.all<{ id: number; name: string }>('SELECT id, short_name AS name FROM school')).map(
			(s) => [s.id, s.name]
		)
	);
	return (day) => [
		...closuresOn(calendar, day.date)
			.filter((c) => c.schoolId !== null)
			.map((c): DayNote => ({
				key: `c${c.schoolId} ${c.name}`,
				kind: 'closure',
				text: `${schools.get(c.schoolId!) ?? ''}: ${c.name}`,
				at: null,
				eventId: null,
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
				eventId: e.id,
				calledOff: e.calledOff
			}))
	];
}

/** One day of the month view. */
export interface MonthDay extends LocalDay {
	readonly today: boolean;
	readonly inMonth: boolean;
	readonly load: DayLoad;
	readonly closed: string | null;
	readonly notes: readonly DayNote[];
	readonly lines: readonly DispatchLine[];
}
export interface MonthView {
	readonly zone: string;
	readonly now: number;
	readonly limit: number;
	/** ISO date of the first of the month. */
	readonly first: string;
	/** Whole weeks, Monday first. */
	readonly days: readonly MonthDay[];
}

/** The month that holds `at` (or now), in whole weeks. */
export async function monthView(db: Db, user: User, at?: number): Promise<MonthView> {
	const { zone } = await readDistrict(db);
	const time = await now(db);
	const month = DateTime.fromMillis(at ?? time, { zone }).startOf('month');
	const first = month.startOf('week');
	const weeks = Math.ceil(month.endOf('month').diff(first, 'weeks').weeks);
	const days = localDays(first.toISODate()!, weeks * 7, zone);
	const window = await loadWindow(db, days);
	const loads = dayLoads(window);
	const lines = await dispatchLines(db, user, { from: days[0]!.from, to: days.at(-1)!.to }, 2000);
	const notes = await dayNotes(db, days, window.times);
	const drafts = (await draftLines(db, user)).filter((d) => d.intendedAt !== null);
	const momentOf = (line: DispatchLine) => line.leavesAt ?? line.intendedAt!;
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
				.sort((a, b) => momentOf(a) - momentOf(b))
		}))
	};
}
