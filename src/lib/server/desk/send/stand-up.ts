import { now } from '../../clock';
import { onlyStands } from '../../db/copy-state';
import type { Db } from '../../db/open';

/** Says of what stands on boards alone that it has been sent, once its time has come: no copy says so. */
export async function standUp(db: Db): Promise<void> {
	const due = `state = 'scheduled' AND settled = 1 AND waits IS NULL AND ${onlyStands} AND leaves_at <= $time`;
	const time = await now(db);
	if (!(await db.one(`SELECT 1 FROM dispatch WHERE ${due}`, { time }))) return;
	await db.write((tx) =>
		tx.run(`UPDATE dispatch SET state = 'sent', sent_at = leaves_at WHERE ${due}`, { time })
	);
}
