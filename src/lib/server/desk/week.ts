import { dayPartOf, weekOf, type DayPart, type LocalDay } from '../../core/time/zone';
import { addressCondition, rightsBind } from '../access/rights';
import type { User } from '../access/sessions';
import { now } from '../clock';
import { readDistrict } from '../db/district';
import type { Db } from '../db/open';
import { dispatchLines, draftLines, type DispatchLine } from './dispatch-lines';

/** How many households get how many dispatches on one day. */
export interface DayLoad {
	/** Index is the number of dispatches, 0 to 3; the last one is "3 or more". */
	readonly households: readonly [number, number, number, number];
	readonly most: number;
}

/** A row of the week: a part of the day, or what lies outside all of them. */
export type TagRow = DayPart['key'] | 'quiet';

export interface WeekDay extends LocalDay {
	readonly today: boolean;
	readonly load: DayLoad;
	/** Tags by part of the day; `quiet` holds what leaves outside all of them. */
	readonly tags: Readonly<Record<TagRow, readonly DispatchLine[]>>;
}

export interface WeekView {
	readonly zone: string;
	readonly now: number;
	readonly days: readonly WeekDay[];
	readonly dispatches: number;
	readonly copies: number;
	readonly waiting: {
		readonly drafts: readonly DispatchLine[];
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
	const mendable = addressCondition(user);
	const mend = await db.one<{ email: number; text: number }>(
		`SELECT coalesce(sum(way = 'email'), 0) AS email, coalesce(sum(way = 'text'), 0) AS text
		FROM address WHERE failing IS NOT NULL AND ${mendable}`,
		rightsBind(user, mendable)
	);
	const households = (await db.one<{ n: number }>('SELECT count(*) AS n FROM household'))!.n;
	return {
		zone,
		now: time,
		days: await Promise.all(
			days.map(async (day) => {
				const tags: Record<TagRow, DispatchLine[]> = {
					before: [],
					school: [],
					after: [],
					evening: [],
					quiet: []
				};
				for (const line of lines) {
					if (line.leavesAt! < day.from || line.leavesAt! >= day.to) continue;
					tags[dayPartOf(line.leavesAt!, zone)?.key ?? 'quiet'].unshift(line);
				}
				return {
					...day,
					today: time >= day.from && time < day.to,
					tags,
					load: await dayLoad(db, day, households)
				};
			})
		),
		dispatches: lines.length,
		copies: lines.reduce((sum, l) => sum + l.copies, 0),
		waiting: {
			drafts: await draftLines(db, user),
			notCovered: lastWeek
				.filter((l) => l.state === 'sent' && l.unit === 'students' && l.covered < l.students)
				.slice(0, 5),
			mend: mend!
		}
	};
}

/** Counts dispatches, whoever sent them, per household on one day. A dispatch that reaches a household twice counts once. */
async function dayLoad(db: Db, day: LocalDay, households: number): Promise<DayLoad> {
	const rows = await db.all<{ n: number; households: number }>(
		`SELECT n, count(*) AS households FROM (
			SELECT household_id, count(DISTINCT dispatch_id) AS n
			FROM dispatch JOIN delivery ON dispatch_id = dispatch.id
			JOIN household_member ON household_member.person_id = delivery.person_id
			WHERE leaves_at >= $from AND leaves_at < $to AND dispatch.state != 'draft'
			GROUP BY household_id)
		GROUP BY n`,
		{ from: day.from, to: day.to }
	);
	const families = (test: (n: number) => boolean) =>
		rows.filter((r) => test(r.n)).reduce((sum, r) => sum + r.households, 0);
	return {
		households: [
			households - families(() => true),
			families((n) => n === 1),
			families((n) => n === 2),
			families((n) => n >= 3)
		],
		most: rows.reduce((most, r) => Math.max(most, r.n), 0)
	};
}
