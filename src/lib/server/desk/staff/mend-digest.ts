import { DateTime } from 'luxon';
import { usersWho } from '../../access/user';
import { now } from '../../clock';
import { readDistrict, writeSetting } from '../../db/district';
import type { Db } from '../../db/open';
import { failingAddresses, mendCounts } from '../people/mend';
import { putNotices, type Notice } from './notices';
import type { SettingRow } from '../../db/models/running';

/** The local time from which the day's digest goes out: before the office opens (common practice). */
const fromMinute = 7 * 60;
const mostNamed = 40;

/**
 * Tells each school office, and the district's, once on a school morning which addresses have begun
 * to fail since the last time; nothing new, nothing sent. Returns how many letters were written.
 */
export async function mendDigest(db: Db, publicUrl: string): Promise<number> {
	const time = await now(db);
	const { zone, schoolWeekdays } = await readDistrict(db);
	const local = DateTime.fromMillis(time, { zone });
	const date = local.toISODate()!;
	if (local.hour * 60 + local.minute < fromMinute || !schoolWeekdays.includes(local.weekday)) {
		return 0;
	}
	const last = await db.one<Pick<SettingRow, 'value'>>(
		`SELECT value FROM setting WHERE key = 'mend-digest'`
	);
	const before = last ? (JSON.parse(last.value) as { date: string; at: number }) : null;
	if (before?.date === date) return 0;
	const notices: Notice[] = [];
	for (const user of await usersWho(db, 'give-link')) {
		const began = { after: before?.at ?? time - 86_400_000, until: time };
		const counts = await mendCounts(db, user, began);
		const n = counts.email + counts.text;
		if (n === 0) continue;
		// The newest stand first, and a page holds more than a letter names.
		const { found, addresses } = await failingAddresses(db, user);
		const fresh = addresses.filter((a) => a.since > began.after && a.since <= began.until);
		const sum = [
			counts.email > 0 ? `${counts.email} email` : '',
			counts.text > 0 ? `${counts.text} text` : ''
		]
			.filter(Boolean)
			.join(', ');
		notices.push({
			key: `mend ${user.personId} ${date}`,
			personId: user.personId,
			kind: 'mend',
			subject: `${n} ${n === 1 ? 'address' : 'addresses'} to mend (${sum})`,
			text: [
				`These addresses have begun to fail since the last letter of this kind; nothing more is sent to them until they are mended. ${found} wait in all.`,
				fresh
					.slice(0, mostNamed)
					.map(
						(a) => `- ${a.person}${a.students ? `, for ${a.students}` : ''}: ${a.value} (${a.why})`
					)
					.join('\n'),
				n > mostNamed ? `and ${n - mostNamed} more.` : '',
				`Mend them here: ${publicUrl}/people/mend`
			]
				.filter(Boolean)
				.join('\n\n'),
			dispatchId: null,
			byMail: true
		});
	}
	await db.write(async (tx) => {
		await putNotices(tx, notices);
		await writeSetting(tx, 'mend-digest', { date, at: time });
	});
	return notices.length;
}
