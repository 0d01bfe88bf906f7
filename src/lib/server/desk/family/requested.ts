import { hasLeft } from '../../db/copy-state';
import type { Db, Query } from '../../db/open';
import type { Opened } from '../../access/private-link';
import { dispatchLetters } from '../sheet/letters';
import type { Visitor } from '../track/types';
import { visited } from '../track/visit';
import { copiesOfPerson } from './copies-of';

/** What a request for something of a copy is, as evidence says it. */
export const requests = {
	/** Fair evidence and no more, since it may have been a machine that guards a mailbox. */
	link: { kind: 'link-followed', detail: 'followed the link in this copy' },
	/** The picture of one dot in an email: weak evidence, since mail systems load pictures by themselves. */
	picture: { kind: 'picture-loaded', detail: 'a picture in the letter was loaded' }
} as const;

/** The link of a copy was requested. */
export const linkFollowed = (db: Db, deliveryId: number, visitor: Visitor): Promise<void> =>
	visited(db, [deliveryId], { ...requests.link, visitor });

/** The picture of one dot in an email was loaded. */
export const pictureLoaded = (db: Db, deliveryId: number, visitor: Visitor): Promise<void> =>
	visited(db, [deliveryId], { ...requests.picture, visitor });

/** A link in the words of a letter was requested. Returns the address behind it, or null where this person's letter has no such link. */
export async function followWordLink(
	db: Db,
	opened: Extract<Opened, { ok: true }>,
	dispatchId: number,
	place: number,
	visitor: Visitor
): Promise<string | null> {
	const copies = await copiesLeft(db, opened, dispatchId);
	if (copies.length === 0) return null;
	const href = (await dispatchLetters(db, dispatchId)).links[place];
	if (href === undefined) return null;
	const mine = copies.find((c) => c.id === opened.deliveryId) ?? copies[0]!;
	await visited(db, [mine.id], {
		kind: 'words-link-followed',
		detail: `followed the link to ${href}`,
		visitor,
		about: href
	});
	return href;
}

/** The copies of a dispatch that have left for whoever opened a private link, those through which it is read first. */
const copiesLeft = (
	db: Query,
	opened: Extract<Opened, { ok: true }>,
	dispatchId: number
): Promise<{ id: number; way: string }[]> =>
	db.all(
		`SELECT id, way FROM delivery WHERE dispatch_id = $dispatch AND ${hasLeft}
			AND id IN (${copiesOfPerson}) ORDER BY way = 'inbox' DESC, id`,
		{ person: opened.personId, dispatch: dispatchId }
	);
