import type { User } from '../../access/sessions';
import type { Query } from '../../db/open';
import { filesOfSheet } from '../sheet/files';
import type { Planned } from '../plan/plan-sheet';
import { putDispatch } from '../sheet/sheet-row';
import type { Sheet } from '../sheet/sheet';
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
): { urgent_by: number | null; urgent_at: number | null } =>
	sheet.timing.urgent
		? { urgent_by: user.personId, urgent_at: Math.round(time) }
		: { urgent_by: null, urgent_at: null };

/** Puts one dispatch down with its copies, or only their number where it is far ahead. Returns its id. */
export async function putScheduled(
	tx: Query,
	key: Buffer,
	before: number | null,
	values: Readonly<Record<string, string | number | null>>,
	sheet: Sheet,
	planned: Pick<Planned, 'manifest' | 'moment'>,
	time: number
): Promise<number> {
	const { manifest, moment } = planned;
	const byWay: Record<string, number> = {};
	for (const { way } of manifest.copies) byWay[way] = (byWay[way] ?? 0) + 1;
	const id = await putDispatch(tx, before, {
		...values,
		state: 'scheduled',
		waits: null,
		changed_at: time,
		settled: moment.at - time <= settleAheadMs ? 1 : 0,
		expected: JSON.stringify(byWay)
	});
	await tx.run(
		`INSERT OR IGNORE INTO dispatch_file (dispatch_id, file_id)
		SELECT $id, value FROM json_each($files)`,
		{ id, files: JSON.stringify(filesOfSheet(sheet)) }
	);
	await clearPlan(tx, id);
	if (moment.at - time <= horizonMs) {
		const held = sheet.timing.when.kind === 'now' && moment.at > time;
		await writePlan(tx, key, id, manifest, time, held);
	}
	return id;
}
