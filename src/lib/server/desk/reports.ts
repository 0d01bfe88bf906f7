import { accountText } from '../../core/track/account';
import { tellDays } from '../../core/track/habit';
import { now } from '../clock';
import type { Db } from '../db/open';
import { readAccount } from './account';
import { copiesSchema } from './sheet';
import { coverageBy } from './coverage';
import { putNotices } from './notices';
import { userOf } from './replan';

/** So long after the last copy has left, reading is taken to be over where no end time says so, ms. */
const overMs = tellDays * 86_400_000;
/** Looked at in one go, so that what waits behind is not held up. */
const atOnce = 20;

/**
 * Writes the account of each dispatch that has ended: its end time has come, everybody is covered, or
 * three days have passed since the last copy left. It stands in the sender's inbox, and goes by mail
 * where the dispatch says so. Returns how many were written.
 */
export async function reportEnded(db: Db, publicUrl: string): Promise<number> {
	const time = await now(db);
	const rows = await db.all<{
		id: number;
		senderId: number;
		subject: string;
		copies: string;
		over: number;
	}>(
		`SELECT dispatch.id, sender_id AS senderId, subject, handling AS copies,
			(coalesce(ends_at, (SELECT max(left_at) FROM delivery WHERE dispatch_id = dispatch.id) + $overMs,
				sent_at) <= $time) AS over
		FROM dispatch WHERE state = 'sent' AND reported_at IS NULL ORDER BY over DESC, dispatch.id LIMIT ${atOnce}`,
		{ time, overMs }
	);
	const open = rows.filter((r) => r.over === 0).map((r) => r.id);
	const coverages = await coverageBy(db, open);
	let written = 0;
	for (const { id, senderId, subject, copies, over } of rows) {
		const coverage = coverages.get(id);
		const all = coverage !== undefined && coverage.covered === coverage.students;
		if (over === 0 && !(all && coverage.students > 0)) continue;
		const user = await userOf(db, senderId);
		const account = user && (await readAccount(db, user, id));
		await db.write(async (tx) => {
			if (account) {
				await putNotices(tx, [
					{
						key: `account ${id}`,
						personId: senderId,
						kind: 'account',
						subject: `Account: ${subject}`,
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
