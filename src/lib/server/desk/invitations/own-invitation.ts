import { fitted } from '../../../core/talk/invitation';
import type { Opened } from '../../access/private-link';
import { now } from '../../clock';
import { partyOf, type Party } from '../../db/coming';
import { hasLeft } from '../../db/copy-state';
import type { Db, Query } from '../../db/open';
import type { Visitor } from '../track/types';
import { answer, saidBefore, standingOf } from './answer';
import { askedBy, type Asked } from '../sheet/asked';
import { saidOnCopy } from './evidence';
import { leftOf } from './places';
import type { Answered, OwnInvitation } from './types';

/** An invitation as a party sees it, with what was said in its name. */
export async function invitationFor(
	db: Query,
	asked: Asked,
	party: Party,
	personId: number | null
): Promise<OwnInvitation> {
	const { id, until, open, asking } = asked;
	const row = await saidBefore(db, asked, party);
	return {
		...{ id, until, open, most: asking.most },
		...(await leftOf(db, asked)),
		mine: row
			? {
					...(await standingOf(db, asked, row)),
					at: row.at,
					by: row.byId === null || row.byId === personId ? '' : await givenName(db, row.byId)
				}
			: null
	};
}

const givenName = async (db: Query, id: number): Promise<string> =>
	(await db.one<{ name: string }>('SELECT given_name AS name FROM person WHERE id = $id', { id }))
		?.name ?? '';

/** The copies of a dispatch that have left for a person. */
const copiesFor = (db: Query, personId: number, dispatchId: number): Promise<{ id: number }[]> =>
	db.all(
		`SELECT id FROM delivery WHERE dispatch_id = $dispatch AND ${hasLeft} AND id IN (SELECT id FROM delivery WHERE person_id = $person
			UNION SELECT delivery_id FROM delivery_also WHERE person_id = $person) ORDER BY way = 'inbox' DESC, id`,
		{ person: personId, dispatch: dispatchId }
	);

/** What a letter of somebody’s asks them; null where it asks nothing, or is none of theirs. */
export async function ownInvitation(
	db: Query,
	personId: number,
	dispatchId: number
): Promise<OwnInvitation | null> {
	const asked = await askedBy(db, dispatchId);
	if (!asked || (await copiesFor(db, personId, dispatchId)).length === 0) return null;
	return invitationFor(db, asked, await partyOf(db, asked.id, personId), personId);
}

/** What a form says of who comes, as far as it is one. */
export interface FormSaid {
	readonly comes: boolean;
	readonly adults: number;
	readonly students: number;
	readonly slot: number | null;
}

/** Somebody says on their page whether they come: for their household, and as evidence that the letter was read. */
export async function answerOnOwnPage(
	db: Db,
	opened: Extract<Opened, { ok: true }>,
	dispatchId: number,
	form: FormSaid,
	visitor: Visitor
): Promise<Answered> {
	return db.write(async (tx): Promise<Answered> => {
		const asked = await askedBy(tx, dispatchId);
		const copies = asked ? await copiesFor(tx, opened.personId, dispatchId) : [];
		if (!asked || copies.length === 0) return { ok: false, why: 'gone' };
		const fits = fitted(asked.asking, form);
		if (!fits.ok) return fits;
		const party = await partyOf(tx, asked.id, opened.personId);
		const done = await answer(tx, asked, party, fits.said, {
			personId: opened.personId,
			how: 'page'
		});
		if (!done.ok) return done;
		const copy = copies.find((c) => c.id === opened.deliveryId) ?? copies[0]!;
		await saidOnCopy(tx, copy.id, done.standing, {
			...{ at: Math.round(await now(tx)), source: 'inbox', visitor: visitor.key }
		});
		return done;
	});
}
