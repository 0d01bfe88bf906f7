import type { Db, Query } from '../../db/open';
import { putNotices } from '../staff/notices';

/** Tells somebody by mail what was done to their account. */
export async function tellOwner(
	tx: Query,
	personId: number,
	{ subject, text }: { readonly subject: string; readonly text: string }
): Promise<void> {
	await putNotices(tx, [
		{
			key: `own account ${personId} ${Date.now()} ${subject}`,
			...{ personId, kind: 'sign-in', subject, text, dispatchId: null, byMail: true }
		}
	]);
}

/** Tells somebody that they have come in from a place they never came from before. */
export const tellElsewhere = (db: Db, personId: number, browser: string): Promise<void> =>
	db.write((tx) =>
		tellOwner(tx, personId, {
			subject: 'A new sign-in to your account',
			text: `Your account was signed in to with ${browser}, from where you had not come in before. If it was you, nothing is to be done. If not, change your password and end the other sessions under “Your sign-in”.`
		})
	);

/** Told once in a while to whoever's account is being guessed at, however long it goes on. */
const guessedEveryMs = 3_600_000;
const told = new Map<number, number>();
/** Tells somebody that there were too many tries at their account, at most once an hour. */
export async function tellGuessed(db: Db, personId: number): Promise<void> {
	if (Date.now() - (told.get(personId) ?? 0) < guessedEveryMs) return;
	told.set(personId, Date.now());
	await db.write((tx) =>
		tellOwner(tx, personId, {
			subject: 'Somebody is trying passwords for your account',
			text: 'There were many tries to sign in to your account in a short time, so it is slowed down for a few minutes. If it was not you, nothing was lost: nobody has come in. A second factor, under “Your sign-in”, makes guessing useless.'
		})
	);
}
