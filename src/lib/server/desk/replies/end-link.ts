import { writeDown } from '../../access/log';
import { isAllowed, scope } from '../../access/may';
import { hashToken } from '../../access/tokens';
import { usersWho, type User } from '../../access/user';
import { now } from '../../clock';
import { linkEnd } from '../../db/models/access';
import type { Db } from '../../db/open';
import type { Opened } from '../../access/private-link';
import { putNotices } from '../staff/notices';

/** Ends the link that somebody followed, since what it opens is not for them: it opens nothing any more, and the office is told. */
export async function endThisLink(
	db: Db,
	token: string,
	opened: Extract<Opened, { ok: true }>
): Promise<void> {
	await db.write(async (tx) => {
		const at = Math.round(await now(tx));
		const { personId, deliveryId } = opened;
		await tx
			.rows(linkEnd)
			.addMany([{ personId, tokenHash: hashToken(token), beforeAt: null, at, byId: null }], 'keep');
		const who = await tx.one<{ name: string; address: string | null; way: string | null }>(
			`SELECT given_name || ' ' || family_name AS name,
				(SELECT address FROM delivery WHERE id = $deliveryId) AS address, (SELECT way FROM delivery WHERE id = $deliveryId) AS way
			FROM person WHERE id = $personId`,
			{ personId, deliveryId }
		);
		const told = await usersWho(tx, 'look-after', { whole: true });
		await putNotices(
			tx,
			told.slice(0, 3).map((user) => ({
				key: `not for me ${hashToken(token)} ${user.personId}`,
				personId: user.personId,
				kind: 'mend' as const,
				subject: `“This is not for me”: ${who?.name ?? ''}`,
				text: [
					`Whoever opened a link that was made for ${who?.name ?? 'somebody'} says that it is not for them. That link opens nothing any more; other links of theirs do.`,
					who?.address
						? `It had gone to ${who.address} by ${who.way}. Ask the family whether that address is still theirs.`
						: 'It was a link of their own, on paper or asked for.'
				].join('\n\n'),
				dispatchId: null,
				byMail: true
			}))
		);
	});
}

/** Ends every link of a person that is out in the world; those of letters that leave later open again. False where the office may not. */
export async function endLinksOf(db: Db, user: User, personId: number): Promise<boolean> {
	if (!isAllowed(user, 'give-link')) return false;
	const seen = scope(user).people('person.id', 'give-link');
	return db.write(async (tx) => {
		const theirs = await tx.one(`SELECT 1 FROM person WHERE id = $personId AND ${seen.sql}`, {
			personId,
			...seen.bind
		});
		if (!theirs) return false;
		const at = Math.round(await now(tx));
		await tx
			.rows(linkEnd)
			.add({ personId, tokenHash: null, beforeAt: at, at, byId: user.personId });
		await tx.run(
			'UPDATE family_link SET ends_at = $at WHERE person_id = $personId AND ends_at > $at',
			{
				at,
				personId
			}
		);
		await writeDown(tx, { act: 'links-ended', by: user, to: ['person', personId] });
		return true;
	});
}
