import { writeDown } from '../../access/log';
import type { CalendarFile, FileEvent, FileProblem } from '../../../core/format/icalendar';
import { placeLocal } from '../../../core/time/local';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import { rowSet } from '../../db/many';
import { schoolEvent } from '../../db/models/calendar';
import type { Db } from '../../db/open';
import { read, TooLong } from '../../reading/reading';
import { callOffEvent, saveEvent } from './events';
import { eventColumns, toEvent, type EventRow } from '../../db/calendar';
import type { SchoolEvent } from '../../../core/time/school-event';
import type { CalendarPreview } from './types';
import type { ClosureRow } from '../../db/models/calendar';

/** Reads a calendar file against what is there; with `take`, puts it in. A file with nothing usable changes nothing. */
export async function importCalendar(
	db: Db,
	key: Buffer,
	user: User,
	text: string,
	as: 'events' | 'closures',
	take: boolean
): Promise<CalendarPreview & { readonly moved: number }> {
	const { zone } = await readDistrict(db);
	const time = await now(db);
	const nothing = (said: string) => ({
		fresh: [],
		changed: [],
		same: 0,
		moved: 0,
		problems: [{ where: 'the file', text: said }]
	});
	// Asked before anything of it is read.
	if (!isAllowed(user, 'import-calendar'))
		return nothing('is not yours: only the district office brings calendars in.');
	let file: CalendarFile;
	try {
		file = await read('calendar', [
			text,
			zone,
			{ from: time - 30 * 86_400_000, to: time + 400 * 86_400_000 }
		]);
	} catch (error) {
		if (!(error instanceof TooLong)) throw error;
		return nothing('cannot be read in the time there is for it. Export a shorter stretch of time.');
	}
	const { events, problems } = file;
	const done = await (as === 'events'
		? importEvents(db, key, user, events, problems, take)
		: importClosures(db, events, problems, take));
	if (take)
		await db.write((tx) =>
			writeDown(tx, {
				...{ act: 'calendar-brought', by: user },
				after: { as, fresh: done.fresh.length, changed: done.changed.length }
			})
		);
	return done;
}

async function importEvents(
	db: Db,
	key: Buffer,
	user: User,
	events: readonly FileEvent[],
	problems: readonly FileProblem[],
	take: boolean
): Promise<CalendarPreview & { readonly moved: number }> {
	const known = new Map(
		(await db.all<EventRow>(`SELECT ${eventColumns} FROM school_event`)).map((r) => [
			r.uid,
			toEvent(r)
		])
	);
	const differs = (a: FileEvent, b: SchoolEvent) =>
		a.title !== b.title ||
		a.place !== b.place ||
		a.startsLocal !== b.startsLocal ||
		a.endsLocal !== b.endsLocal ||
		a.calledOff !== b.calledOff;
	const fresh = events.filter((e) => !known.has(e.uid) && !e.calledOff);
	const changed = events.filter((e) => known.has(e.uid) && differs(e, known.get(e.uid)!));
	let moved = 0;
	if (take) {
		const { zone } = await readDistrict(db);
		const time = Math.round(await now(db));
		await db.rows(schoolEvent).addMany(
			fresh.map(({ uid, title, startsLocal, endsLocal, allDay, place }) => ({
				uid,
				title,
				startsLocal,
				endsLocal,
				allDay: allDay ? 1 : 0,
				startsAt: placeLocal(startsLocal, zone).at,
				endsAt: placeLocal(endsLocal, zone).at,
				place,
				schoolIds: '[]',
				sectionIds: '[]',
				state: 'on',
				madeBy: user.personId,
				changedAt: time
			})),
			'keep'
		);
		for (const e of changed) {
			const before = known.get(e.uid)!;
			const saved = e.calledOff
				? await callOffEvent(db, user, before.id)
				: await saveEvent(db, key, user, {
						...before,
						base: before.changedAt,
						title: e.title,
						place: e.place,
						allDay: e.allDay,
						startsLocal: e.startsLocal,
						endsLocal: e.endsLocal,
						schoolIds: [...before.schoolIds],
						sectionIds: [...before.sectionIds]
					});
			if (saved.ok) moved += saved.moved;
		}
	}
	return { fresh, changed, same: events.length - fresh.length - changed.length, problems, moved };
}

const closureSet = rowSet('$rows', ['uid', 'name', 'startsOn', 'endsOn']);

async function importClosures(
	db: Db,
	events: readonly FileEvent[],
	problems: readonly FileProblem[],
	take: boolean
): Promise<CalendarPreview & { readonly moved: number }> {
	const partial = events.filter((e) => !e.allDay);
	const whole = events.filter((e) => e.allDay && !e.calledOff);
	const known = new Map(
		(
			await db.all<Pick<ClosureRow, 'uid' | 'name' | 'startsOn' | 'endsOn'>>(
				'SELECT uid, name, starts_on AS startsOn, ends_on AS endsOn FROM closure'
			)
		).map((c) => [c.uid, c])
	);
	const fresh = whole.filter((e) => !known.has(e.uid));
	const changed = whole.filter((e) => {
		const c = known.get(e.uid);
		return (
			c &&
			(c.name !== e.title ||
				c.startsOn !== e.startsLocal.slice(0, 10) ||
				c.endsOn !== e.endsLocal.slice(0, 10))
		);
	});
	if (take) {
		await db.write((tx) =>
			tx.run(
				`INSERT INTO closure (uid, name, starts_on, ends_on)
				SELECT * FROM ${closureSet.table} WHERE true
				ON CONFLICT (uid) DO UPDATE SET name = excluded.name, starts_on = excluded.starts_on, ends_on = excluded.ends_on`,
				{
					rows: closureSet.json(
						[...fresh, ...changed].map((e) => ({
							uid: e.uid,
							name: e.title,
							startsOn: e.startsLocal.slice(0, 10),
							endsOn: e.endsLocal.slice(0, 10)
						}))
					)
				}
			)
		);
	}
	return {
		fresh,
		changed,
		same: whole.length - fresh.length - changed.length,
		moved: 0,
		problems: [
			...problems,
			...partial.map((e) => ({
				where: e.title,
				text: 'is no whole day, so it is no day without school.'
			}))
		]
	};
}
