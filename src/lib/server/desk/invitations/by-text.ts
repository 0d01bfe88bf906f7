import { fitted } from '../../../core/talk/invitation';
import { readComing } from '../../../core/talk/coming';
import { partyOf, type Party } from '../../db/coming';
import type { ComingNoteKind } from '../../db/models/coming';
import type { DeliveryRow } from '../../db/models/delivery';
import { person } from '../../db/models/roster';
import { autoNote } from '../../db/models/talk';
import type { Query } from '../../db/open';
import { askedBy } from '../sheet/asked';
import { answer, saidBefore } from './answer';
import { saidOnCopy } from './evidence';

/** A text from a phone, and the copy that was texted to it last. */
interface FromPhone {
	/** E.164. */
	readonly from: string;
	readonly words: string;
	readonly delivery: Pick<DeliveryRow, 'id' | 'personId'>;
}

/** Whoever reads a copy, each in whose name they answer; one where all of them answer for one household. */
async function partyOfCopy(
	tx: Query,
	dispatchId: number,
	{ id, personId }: FromPhone['delivery']
): Promise<Party | null> {
	const also = await tx.all<{ personId: number }>(
		'SELECT person_id AS personId FROM delivery_also WHERE delivery_id = $id',
		{ id }
	);
	const parties = new Map<string, Party>();
	for (const reader of [personId, ...also.map((a) => a.personId)]) {
		const party = await partyOf(tx, dispatchId, reader);
		parties.set(`${party.kind} ${party.id}`, party);
	}
	return parties.size === 1 ? [...parties.values()][0]! : null;
}

/** What one phone is told by itself in a day of what it said: two machines that answer each other soon fall silent (RFC 3834 section 2). */
const mostInADay = 8;

const toldEnough = async (tx: Query, from: string, at: number): Promise<boolean> =>
	(await tx.one<{ n: number }>(
		`SELECT count(*) AS n FROM auto_note WHERE address = $from AND way = 'text' AND kind IN ('coming-taken', 'coming-choose')
			AND made_at > $since`,
		{ from, since: at - 86_400_000 }
	))!.n >= mostInADay;

/** Whether this phone was asked something else by itself since the copy left: then “yes” may answer that. */
const askedSince = async (tx: Query, { from, delivery }: FromPhone): Promise<boolean> =>
	(await tx.one(
		`SELECT 1 FROM auto_note WHERE address = $from AND way = 'text' AND kind IN ('ask', 'ask-name', 'ask-texts')
			AND made_at >= (SELECT left_at FROM delivery WHERE id = $id)`,
		{ from, id: delivery.id }
	)) !== undefined;

/**
 * Takes a text as the answer to the invitation that its phone was texted last: “yes 2”, “no”. What says anything
 * beside it, comes too late, asks for more than fits, or could be of two households is left to a person: then false. Where
 * a time is to be chosen, the phone is told the page on which that is done. In the caller's transaction.
 */
export async function comingByText(tx: Query, text: FromPhone, at: number): Promise<boolean> {
	const { from, words, delivery } = text;
	const row = await tx.one<Pick<DeliveryRow, 'dispatchId'>>(
		'SELECT dispatch_id AS dispatchId FROM delivery WHERE id = $id',
		{ id: delivery.id }
	);
	const said = readComing(words);
	const asked = row && said ? await askedBy(tx, row.dispatchId) : null;
	if (!asked?.open || said === null || (await askedSince(tx, text))) return false;
	const party = await partyOfCopy(tx, asked.id, delivery);
	if (!party) return false;
	const before = await saidBefore(tx, asked, party);
	const chosen = before?.comes === 1 ? before.slot : null;
	const note = async (kind: ComingNoteKind, comingId: number | null) => {
		if (await toldEnough(tx, from, at)) return;
		await tx.rows(autoNote).add({
			...{ kind, way: 'text', address: from, comingId, deliveryId: delivery.id },
			language:
				(await tx.rows(person).one({ id: delivery.personId }, ['language']))?.language ?? 'en',
			...{ madeAt: at, dueAt: at, state: 'waiting' }
		});
	};
	if (said.comes && asked.asking.slots.length > 0 && chosen === null) {
		await note('coming-choose', null);
		return true;
	}
	const fits = fitted(asked.asking, {
		comes: said.comes,
		// Who says no number means those they said before, or themselves.
		adults: said.people ?? (before?.comes === 1 ? before.people : 1),
		students: null,
		slot: chosen
	});
	if (!fits.ok) return false;
	const done = await answer(tx, asked, party, fits.said, {
		personId: delivery.personId,
		how: 'text'
	});
	if (!done.ok) return false;
	await saidOnCopy(tx, delivery.id, done.standing, { at, source: 'answer by text' });
	await note('coming-taken', (await saidBefore(tx, asked, party))!.id);
	return true;
}
