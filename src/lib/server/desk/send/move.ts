import { writeDown } from '../../access/log';
import { endOf, localTimeSchema } from '../../../core/time/timing';
import { localOf, placeLocal, type LocalTime } from '../../../core/time/local';
import { dayTime, nearTime } from '../../../core/time/zone';
import { isAllowed } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { zoneOf } from '../../../core/time/clocks';
import { workZone } from '../../access/work-clock';
import { readClocks } from '../../db/school-own';
import { readDistrict } from '../../db/district';
import type { Db } from '../../db/open';
import { replan } from './replan';
import { sheetColumns, sheetOfRow, type SheetRow } from '../sheet/sheet-row';
import type { DispatchMoved } from './types';
import { isTouched } from '../../db/copy-state';

interface Row extends SheetRow {
	readonly state: 'draft' | 'scheduled' | 'sent';
	readonly senderId: number;
	readonly leavesAt: number | null;
	readonly changedAt: number;
	readonly changedBy: string | null;
	readonly roundId: number | null;
	readonly gone: number;
	readonly schoolId: number | null;
}

/**
 * Moves a scheduled dispatch, or the intended time of a draft, to another local time. `base` is the
 * version it was looked at in: where another has changed it since, nothing is moved and it is said
 * who did. Its copies are worked out again for the new time.
 */
export async function moveDispatch(
	db: Db,
	key: Buffer,
	user: User,
	dispatchId: number,
	to: LocalTime,
	base: number
): Promise<DispatchMoved> {
	// Whoever moves it says when by their own clock.
	const zone = await workZone(db, user);
	const { clock: style } = await readDistrict(db);
	const refuse = (why: string, changed = false): DispatchMoved => ({ ok: false, why, changed });
	const parsed = localTimeSchema.safeParse(to);
	if (!parsed.success) return refuse(parsed.error.issues[0]!.message);
	const { at } = placeLocal(to, zone);
	const result = await db.write(async (tx): Promise<DispatchMoved> => {
		const row = await tx.one<Row>(
			`SELECT ${sheetColumns}, state, sender_id AS senderId, leaves_at AS leavesAt, changed_at AS changedAt,
				round_id AS roundId, school_id AS schoolId, (SELECT given_name || ' ' || family_name FROM person WHERE id = changed_by) AS changedBy,
				${isTouched} AS gone
			FROM dispatch WHERE id = $id AND kind != 'answer'`,
			{ id: dispatchId }
		);
		if (!row || !isAllowed(user, 'handle', row.senderId)) {
			return refuse('There is no such dispatch of yours.');
		}
		const time = await now(tx);
		if (row.changedAt !== base) {
			const where =
				row.state === 'draft'
					? 'called it back or changed it'
					: `changed it; it leaves ${dayTime(row.leavesAt!, zone, undefined, style)}`;
			return refuse(
				`${row.changedBy ?? 'Somebody else'} has ${where} (${nearTime(row.changedAt, time, zone, style)}). Look again, then move it.`,
				true
			);
		}
		if (row.state === 'sent' || row.gone > 0) {
			return refuse('Copies of it have left already; it can no longer be moved.');
		}
		if (at < time) {
			return refuse(`${dayTime(at, zone, undefined, style)} is past. Choose a later time.`);
		}
		const sheet = sheetOfRow(row);
		const { ends } = sheet.timing;
		const own = zoneOf(await readClocks(tx), sheet.timing.clock);
		const endsAt = endOf(ends, at, own);
		if (endsAt !== null && endsAt <= at) {
			return refuse(
				`It is not sent any more after ${dayTime(endsAt, own, undefined, style)}. Change its end in Write first.`
			);
		}
		const timing = JSON.stringify({
			...sheet.timing,
			when: { kind: 'at', at: own === zone ? to : localOf(at, own) }
		});
		await writeDown(tx, {
			...{ act: 'sheet-moved', by: user, to: ['dispatch', dispatchId], schoolId: row.schoolId },
			...{ before: { leavesAt: row.leavesAt }, after: { leavesAt: at } }
		});
		if (row.state === 'draft') {
			await tx.run(
				'UPDATE dispatch SET timing = $timing, changed_at = $time, changed_by = $user WHERE id = $id',
				{ id: dispatchId, timing, time: Math.max(time, base + 1), user: user.personId }
			);
			return { ok: true, at };
		}
		await tx.run(
			`UPDATE dispatch SET timing = $timing, leaves_at = $at, ends_at = $ends, settled = 0, waits = NULL, waits_code = NULL,
				own_time = $own, changed_at = $time, changed_by = $user WHERE id = $id`,
			{
				id: dispatchId,
				timing,
				at,
				ends: endsAt,
				own: row.roundId === null ? 0 : 1,
				time: Math.max(time, base + 1),
				user: user.personId
			}
		);
		return { ok: true, at };
	});
	if (result.ok) await replan(db, key, dispatchId);
	return result;
}
