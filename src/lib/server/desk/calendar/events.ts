import { writeDown } from '../../access/log';
import { schoolEvent } from '../../db/models/calendar';
import { randomUUID } from 'node:crypto';
import { z } from 'zod';
import { writeCalendarFile } from '../../../core/format/write-calendar';
import { placeLocal } from '../../../core/time/local';
import { localTimeSchema } from '../../../core/time/timing';
import { isAllowed, may } from '../../access/may';
import { sectionsRefused } from '../../access/allowed';
import { whereOf } from '../../access/rights';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import type { Db, Query } from '../../db/open';
import { replan } from '../send/replan';
import { moveReminders } from '../send/rounds';
import {
	eventColumns,
	eventOf,
	eventZones,
	readTimes,
	toEvent,
	waitsForSheet,
	type EventRow
} from '../../db/calendar';
import { readClocks } from '../../db/school-own';
import type { EventLine, EventChoice, EventSaved } from './types';
import { isTouched } from '../../db/copy-state';
import type { DispatchRow } from '../../db/models/dispatch';

const idsSchema = z.array(z.number().int().positive()).max(500);
/** An event as its form sends it. */
export const eventInputSchema = z.object({
	id: z.number().int().positive().nullable(),
	/** The version it was made from. */
	base: z.number().nullable(),
	title: z
		.string()
		.trim()
		.min(1, 'Give the event a title.')
		.max(200, 'A title has 200 characters at most.'),
	startsLocal: localTimeSchema,
	endsLocal: localTimeSchema,
	allDay: z.boolean(),
	place: z.string().trim().max(200),
	schoolIds: idsSchema,
	sectionIds: idsSchema
});
export type EventInput = z.infer<typeof eventInputSchema>;

/** Whether a user may make an event for these schools and sections, or why not. */
async function mayConcern(db: Query, user: User, input: EventInput): Promise<string | null> {
	if (may(user, 'speak-for-district')) return null;
	const { schools } = whereOf(user, 'write');
	const { forbidden, missing } = await sectionsRefused(db, user, input.sectionIds);
	const some = input.schoolIds.length + input.sectionIds.length > 0;
	if (
		some &&
		input.schoolIds.every((id) => schools.includes(id)) &&
		forbidden.length + missing.length === 0
	)
		return null;
	return schools.length > 0
		? 'You may make events for your own school. Choose it alone.'
		: 'You may make events for your own sections. Choose one of them.';
}

/** The events ahead (or of a stretch) with their reminders. */
export async function eventLines(
	db: Db,
	user: User,
	span: { from: number; to: number }
): Promise<EventLine[]> {
	const rows = await db.all<EventRow & { reminders: number }>(
		`SELECT ${eventColumns}, (SELECT count(*) FROM dispatch JOIN round ON round.id = round_id
			WHERE round.event_id = school_event.id AND dispatch.state = 'scheduled') AS reminders
		FROM school_event WHERE ends_at >= $from AND starts_at < $to ORDER BY starts_at, id LIMIT 1000`,
		span
	);
	const names = async (sql: string) =>
		new Map((await db.all<{ id: number; name: string }>(sql)).map((r) => [r.id, r.name]));
	const schools = await names('SELECT id, name FROM school');
	const sections = await names('SELECT id, name FROM section');
	return rows.map(({ reminders, ...row }) => {
		const event = toEvent(row);
		const named = [
			...event.schoolIds.map((id) => schools.get(id)),
			...event.sectionIds.map((id) => sections.get(id))
		].filter((n) => n !== undefined);
		return {
			...event,
			concerns: named.length > 0 ? named.join(', ') : 'whole district',
			reminders,
			mine: may(user, 'handle', event.madeBy)
		};
	});
}

/** Events that something can still be set by. */
export const eventChoices = async (db: Db): Promise<EventChoice[]> => {
	const time = await now(db);
	return db.all<EventChoice>(
		`SELECT id, title, starts_at AS startsAt, ends_at AS endsAt FROM school_event
		WHERE state = 'on' AND ends_at > $from AND starts_at < $to AND NOT ${waitsForSheet} ORDER BY starts_at LIMIT 200`,
		{ from: time - 14 * 86_400_000, to: time + 365 * 86_400_000, time }
	);
};

/** Makes an event or changes one; its reminders move with it. */
export async function saveEvent(
	db: Db,
	key: Buffer,
	user: User,
	input: EventInput
): Promise<EventSaved> {
	const zone = (await eventZones(db, await readClocks(db)))(input);
	const startsAt = placeLocal(input.startsLocal, zone).at;
	const endsAt = placeLocal(input.endsLocal, zone).at;
	if (endsAt < startsAt)
		return { ok: false, why: 'The end comes before the start. Choose a later end.' };
	const forbidden = await mayConcern(db, user, input);
	if (forbidden) return { ok: false, why: forbidden };
	const times = await readTimes(db);
	let again: number[] = [];
	const saved = await db.write(async (tx): Promise<EventSaved> => {
		const before = await eventOf(tx, input.id);
		const time = await now(tx);
		if (input.id !== null && (!before || !isAllowed(user, 'handle', before.madeBy))) {
			return { ok: false, why: 'There is no such event of yours.' };
		}
		if (before && before.changedAt !== input.base) {
			return {
				ok: false,
				why: `${before.title} was changed meanwhile. Look at it again, then change it.`
			};
		}
		const changedAt = Math.max(Math.round(time), (before?.changedAt ?? 0) + 1);
		const values = {
			title: input.title,
			startsLocal: input.startsLocal,
			endsLocal: input.endsLocal,
			allDay: input.allDay ? (1 as const) : (0 as const),
			startsAt,
			endsAt,
			place: input.place,
			schoolIds: JSON.stringify(input.schoolIds),
			sectionIds: JSON.stringify(input.sectionIds),
			changedAt
		};
		if (!before) {
			const uid = randomUUID();
			const id = await tx
				.rows(schoolEvent)
				.add({ ...values, uid, state: 'on', madeBy: user.personId });
			await writeDown(tx, { act: 'event-made', by: user, to: ['event', id], after: { startsAt } });
			return { ok: true, id, moved: 0 };
		}
		await tx.rows(schoolEvent).change({ id: before.id }, values);
		const moved = await moveReminders(
			tx,
			{ ...before, ...input, id: before.id, startsAt, endsAt },
			times,
			time
		);
		again = moved.map((m) => m.dispatchId);
		await writeDown(tx, {
			...{ act: 'event-changed', by: user, to: ['event', before.id] },
			before: { startsAt: before.startsAt, endsAt: before.endsAt },
			after: { startsAt, endsAt, reminders: moved.length }
		});
		return { ok: true, id: before.id, moved: moved.length };
	});
	for (const id of again) await replan(db, key, id);
	return saved;
}

/** Calls an event off. Its reminders do not leave: each waits for an answer. */
export async function callOffEvent(db: Db, user: User, id: number): Promise<EventSaved> {
	return db.write(async (tx): Promise<EventSaved> => {
		const event = await eventOf(tx, id);
		if (!event || !isAllowed(user, 'handle', event.madeBy)) {
			return { ok: false, why: 'There is no such event of yours.' };
		}
		const time = await now(tx);
		await tx
			.rows(schoolEvent)
			.change(
				{ id },
				{ state: 'called-off', changedAt: Math.max(Math.round(time), event.changedAt + 1) }
			);
		const waiting = await tx.all<Pick<DispatchRow, 'id'>>(
			`SELECT dispatch.id FROM dispatch JOIN round ON round.id = round_id
			WHERE round.event_id = $id AND dispatch.state = 'scheduled' AND NOT ${isTouched}`,
			{ id }
		);
		await tx.run(
			`UPDATE dispatch SET settled = 0, changed_at = $time, waits = $why
			WHERE id IN (SELECT value FROM json_each($ids))`,
			{
				ids: JSON.stringify(waiting.map((w) => w.id)),
				time,
				why: `${event.title} is called off. Send this reminder all the same, write something else in its place, or let it go.`
			}
		);
		await writeDown(tx, {
			...{ act: 'event-called-off', by: user, to: ['event', id] },
			after: { reminders: waiting.length }
		});
		return { ok: true, id, moved: waiting.length };
	});
}

/** The calendar as an iCalendar file. */
export async function calendarFile(db: Db): Promise<string> {
	const { name } = await readDistrict(db);
	const rows = await db.all<EventRow>(
		`SELECT ${eventColumns} FROM school_event ORDER BY starts_at`
	);
	return writeCalendarFile({ name }, rows.map(toEvent));
}
