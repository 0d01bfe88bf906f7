import { writeDown } from '../../access/log';
import { isAllowed, scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import type { Db, Query } from '../../db/open';
import { ownInboxLink } from '../../access/own-link';
import type { LinkFor } from './types';

/** How long a link on paper opens the inbox, ms: long enough for the post, and a family that puts it on the fridge. */
export const paperMs = 60 * 86_400_000;

/** The person, where they have an inbox and the user may give them a link; null else. */
export async function whoGetsLink(
	db: Query,
	user: User,
	personId: number
): Promise<LinkFor | null> {
	if (!isAllowed(user, 'give-link')) return null;
	const condition = scope(user).people('person.id', 'give-link');
	const row = await db.one<{ name: string; hasAddress: number }>(
		`SELECT given_name || ' ' || family_name AS name, EXISTS (SELECT 1 FROM address
			WHERE person_id = person.id AND failing IS NULL AND (way = 'email' AND consent != 'out' OR consent = 'in')) AS hasAddress
		FROM person WHERE id = $personId AND has_inbox AND ${condition.sql}`,
		{ personId, ...condition.bind }
	);
	if (!row) return null;
	const { name: district, zone } = await readDistrict(db);
	return {
		personId,
		name: row.name,
		district,
		zone,
		now: await now(db),
		hasAddress: row.hasAddress === 1
	};
}

/** Makes a link to somebody's inbox for the office to print; who made it is kept with it. Null where they may not. */
export async function officeLink(
	db: Db,
	key: Buffer,
	publicUrl: string,
	user: User,
	personId: number
): Promise<{ link: string; endsAt: number } | null> {
	if (!(await whoGetsLink(db, user, personId))) return null;
	const { path, endsAt } = await ownInboxLink(db, key, personId, {
		lastsMs: paperMs,
		madeBy: user.personId
	});
	await db.write((tx) =>
		writeDown(tx, { act: 'link-given', by: user, to: ['person', personId], after: { endsAt } })
	);
	return { link: `${publicUrl}${path}`, endsAt };
}
