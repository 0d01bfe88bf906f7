import { writeDown } from '../access/log';
import type { User } from '../access/user';
import type { LogThing } from '../db/models/log';
import { services } from '../services';

/** What can be taken out as a file, by its code in the log. */
type Out =
	| ('roster' | 'contacts' | 'members' | 'joined' | 'marks' | 'cards')
	| ('deliveries' | 'account' | 'manifest' | 'sheets' | 'letter')
	| ('door-list' | 'silent' | 'report');

/** Writes down that somebody took names and addresses out as a file. */
export async function wentOut(
	user: User,
	what: Out,
	to?: readonly [LogThing, number]
): Promise<void> {
	const { db } = await services();
	await db.write((tx) =>
		writeDown(tx, { act: 'went-out', by: user, ...(to ? { to } : {}), after: { what } })
	);
}
