import type { BoardsOf } from '../../../core/audience/boards';
import type { Moment } from '../../../core/time/timing';
import { may } from '../../access/may';
import type { User } from '../../access/user';
import type { Query } from '../../db/open';
import type { Planned } from '../plan/plan-sheet';
import { filesOfSheet } from '../sheet/files';
import { putDispatch, type DispatchValues } from '../sheet/sheet-row';
import type { Sheet } from '../sheet/sheet';
import { countByWay, planRows, type PlanRows } from './plan-rows';
import { clearPlan, writePlan } from './write-plan';

/** What leaves later than this is worked out again shortly before, so that who has come meanwhile is in. */
export const settleAheadMs = 10 * 60_000;
/** What leaves later than this is not written out copy by copy yet. */
export const horizonMs = 35 * 86_400_000;

/** Who has sent a sheet urgently, and when: a right of its own that is written down whenever it is used. */
export const urgentValues = (
	sheet: Pick<Sheet, 'timing'>,
	user: User,
	time: number
): { urgentBy: number | null; urgentAt: number | null; passesOver: 0 | 1 } =>
	sheet.timing.urgent
		? {
				...{ urgentBy: user.personId, urgentAt: Math.round(time) },
				passesOver: may(user, 'pass-over') ? 1 : 0
			}
		: { urgentBy: null, urgentAt: null, passesOver: 0 };

/** One dispatch ready to be put down: where its copies leave, and their rows; no rows where it is far ahead, or where the courier is to write them. */
export interface Departing {
	readonly moment: Pick<Moment, 'at' | 'endsAt'>;
	readonly byWay: Readonly<Record<string, number>>;
	readonly rows: PlanRows | null;
}

/** Makes a planned sheet ready, before any transaction. `later` leaves the rows to the courier. */
export function departing(
	key: Buffer,
	sheet: Pick<Sheet, 'timing'>,
	{
		manifest,
		moment,
		boards
	}: Pick<Planned, 'manifest'> & {
		readonly moment: Departing['moment'];
		readonly boards: BoardsOf | null;
	},
	{ time, later = false }: { readonly time: number; readonly later?: boolean }
): Departing {
	const held = sheet.timing.when.kind === 'now' && moment.at > time;
	const near = moment.at - time <= horizonMs;
	return {
		moment,
		byWay: countByWay(manifest.copies),
		rows: near && !later ? planRows(key, manifest, { time, held, boards }) : null
	};
}

/** What is put down as one dispatch. */
export interface ToPutDown {
	/** The draft it was, or null. */
	readonly before: number | null;
	readonly values: DispatchValues;
	readonly sheet: Sheet;
	readonly departing: Departing;
	/** Instant, ms. */
	readonly time: number;
}

/** Puts one dispatch down with its copies, or only their number where there are no rows yet. Returns its id. */
export async function putScheduled(
	tx: Query,
	{ before, values, sheet, departing: { moment, byWay, rows }, time }: ToPutDown
): Promise<number> {
	const id = await putDispatch(tx, before, {
		...values,
		state: 'scheduled',
		waits: null,
		changedAt: time,
		leavesAt: moment.at,
		endsAt: moment.endsAt,
		settled: rows !== null && moment.at - time <= settleAheadMs ? 1 : 0,
		expected: JSON.stringify(byWay)
	});
	await tx.run(
		`INSERT OR IGNORE INTO dispatch_file (dispatch_id, file_id)
		SELECT $id, value FROM json_each($files)`,
		{ id, files: JSON.stringify(filesOfSheet(sheet)) }
	);
	if (sheet.invitation?.kind === 'asks' && sheet.invitation.anybody)
		await tx.run('INSERT OR IGNORE INTO invitation_link (dispatch_id) VALUES ($id)', { id });
	await clearPlan(tx, id);
	if (rows) await writePlan(tx, id, rows, time);
	return id;
}
