import { now } from '../clock';
import type { Db } from '../db/open';
import type { Opened } from './family';
import { fileForPerson, type KeptFile } from './files';
import { record } from './record';

/**
 * A file opened through a private link. Opening what is no picture is evidence like the link
 * itself: a machine that guards a mailbox may do it. Pictures are loaded with the page and say
 * nothing of their own. Null where no letter of this person holds the file.
 */
export async function openFile(
	db: Db,
	opened: Extract<Opened, { ok: true }>,
	fileId: number
): Promise<(KeptFile & { hash: string }) | null> {
	const file = await fileForPerson(db, opened.personId, fileId);
	if (!file) return null;
	if (file.width !== null) return file;
	const through = file.deliveryIds.filter((id) => id === opened.deliveryId);
	const deliveryIds = through.length > 0 ? through : file.deliveryIds.slice(0, 1);
	await db.write(async (tx) => {
		const at = await now(tx);
		const detail = `opened the file ${file.name}`;
		const before = await tx.all<{ id: number }>(
			`SELECT delivery_id AS id FROM event WHERE kind = 'link-followed' AND detail = $detail
			AND delivery_id IN (SELECT value FROM json_each($ids))`,
			{ detail, ids: JSON.stringify(deliveryIds) }
		);
		const known = new Set(before.map((b) => b.id));
		await record(
			tx,
			deliveryIds
				.filter((id) => !known.has(id))
				.map((deliveryId) => ({ deliveryId, at, kind: 'link-followed', detail }))
		);
	});
	return file;
}
