import { writeDown } from '../../access/log';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { schoolEvent } from '../../db/models/calendar';
import type { Query } from '../../db/open';
import type { EventOfSheet } from '../plan/event-of-sheet';

/** Puts the event of a sheet into the calendar, in the transaction that sends it. Sent again after it was called back, it is the same event. */
export async function putEvent(
	tx: Query,
	user: User,
	sheetKey: string,
	dispatchId: number,
	event: EventOfSheet
): Promise<void> {
	const { title, startsLocal, endsLocal, startsAt, endsAt, place } = event;
	const values = {
		...{ title, startsLocal, endsLocal, startsAt, endsAt, place, dispatchId },
		allDay: event.allDay ? (1 as const) : (0 as const),
		schoolIds: JSON.stringify(event.schoolIds),
		sectionIds: JSON.stringify(event.sectionIds),
		state: 'on' as const,
		...{ madeBy: user.personId, changedAt: Math.round(await now(tx)) }
	};
	const before = await tx.rows(schoolEvent).one({ uid: sheetKey }, ['id']);
	if (before) await tx.rows(schoolEvent).change({ id: before.id }, values);
	const id = before?.id ?? (await tx.rows(schoolEvent).add({ ...values, uid: sheetKey }));
	await writeDown(tx, { act: 'event-made', by: user, to: ['event', id], after: { startsAt } });
}
