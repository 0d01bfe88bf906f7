import type { Db } from '../../db/open';
import { fileForPerson } from '../sheet/files';
import type { KeptFile } from '../sheet/types';
import { visited } from '../track/visit';
import type { Visitor } from '../track/types';
import type { Opened } from '../../access/private-link';

/**
 * A file opened through a private link. Opening what is no picture is evidence like the link
 * itself: a machine that guards a mailbox may do it. Pictures are loaded with the page and say
 * nothing of their own. Null where no letter of this person holds the file.
 */
export async function openFile(
	db: Db,
	opened: Extract<Opened, { ok: true }>,
	fileId: number,
	visitor: Visitor
): Promise<(KeptFile & { hash: string }) | null> {
	const file = await fileForPerson(db, opened.personId, fileId);
	if (!file) return null;
	if (file.width !== null) return file;
	const through = file.deliveryIds.filter((id) => id === opened.deliveryId);
	const deliveryIds = through.length > 0 ? through : file.deliveryIds.slice(0, 1);
	await visited(db, deliveryIds, {
		kind: 'link-followed',
		detail: `opened the file ${file.name}`,
		visitor,
		about: file.name
	});
	return file;
}
