import { accountText } from '../../../core/track/account';
import { isOver } from '../../../core/track/over';
import { userById } from '../../access/user';
import { now } from '../../clock';
import { onlyStands } from '../../db/copy-state';
import type { Db } from '../../db/open';
import { readAccount } from '../reach/account';
import { copiesSchema } from '../sheet/sheet';
import { coverageBy } from '../track/coverage';
import { putNotices } from './notices';
import type { DispatchRow } from '../../db/models/dispatch';

/** Looked at in one go, so that what waits behind is not held up. */
const atOnce = 20;

/**
 * Writes the account of each dispatch that went to somebody and has ended: its end time has come, everybody is covered, or
 * three days have passed since the last copy left. It stands in the sender's inbox, and goes by mail
 * where the dispatch says so. Returns how many were written.
 */
export async function reportEnded(db: Db, publicUrl: string): Promise<number> {
	const time = await now(db);
	const rows = await db.all<
		Pick<DispatchRow, 'id' | 'senderId' | 'subject' | 'endsAt' | 'sentAt'> & {
			copies: DispatchRow['handling'];
			state: 'sent';
			left: number;
		}
	>(
		`SELECT dispatch.id, sender_id AS senderId, subject, handling AS copies,
			state, ends_at AS endsAt, sent_at AS sentAt,
			EXISTS (SELECT 1 FROM delivery WHERE dispatch_id = dispatch.id AND left_at IS NOT NULL) AS left
		FROM dispatch WHERE state = 'sent' AND reported_at IS NULL AND NOT ${onlyStands} ORDER BY dispatch.id`
	);
	const over = new Set(rows.filter((r) => r.left === 0 || isOver(r, time)).map((r) => r.id));
	const first = [...rows].sort((a, b) => +over.has(b.id) - +over.has(a.id)).slice(0, atOnce);
	const open = first.flatMap((r) => (over.has(r.id) ? [] : [r.id]));
	const coverages = await coverageBy(db, open);
	let written = 0;
	for (const { id, senderId, subject, copies } of first) {
		const coverage = coverages.get(id);
		const all = coverage !== undefined && coverage.covered === coverage.students;
		if (!over.has(id) && !(all && coverage.students > 0)) continue;
		const user = await userById(db, senderId);
		const account = user && (await readAccount(db, user, id));
		await db.write(async (tx) => {
			if (account) {
				await putNotices(tx, [
					{
						key: `account ${id}`,
						personId: senderId,
						kind: 'account',
						subject: `Report: ${subject}`,
						text: `${accountText(account)}\n\nAll of it, with every copy: ${publicUrl}/reach/${id}`,
						dispatchId: id,
						byMail: copiesSchema.parse(JSON.parse(copies)).accountByMail
					}
				]);
			}
			await tx.run('UPDATE dispatch SET reported_at = $time WHERE id = $id', { id, time });
		});
		written += 1;
	}
	return written;
}
