import { knownAddress, type KnownAddress } from '../../../core/roster/roster';
import type { Way } from '../../../core/roster/way';
import { groupBy } from '../../../core/group-by';
import type { Address } from '../../../core/roster/types';
import type { Query } from '../../db/open';
import { textAddressesOf } from '../../db/text-addresses';

/** A way by which one conversation can be answered, and where it then goes (null for the inbox). */
export interface WayBack {
	readonly way: Way;
	readonly address: string | null;
	/** The family wrote by it so lately that answering wakes nobody. */
	readonly awake: boolean;
}

/** How a conversation can be answered. */
export interface WaysBack {
	readonly conversationId: number;
	/** Who it is answered to; nobody where it is from a number that nobody has. */
	readonly personId: number | null;
	/** The usual one first: that by which the family wrote last, where it works. */
	readonly ways: readonly WayBack[];
}

/** Whoever wrote within so long is up and expects an answer, ms: quiet hours hold nothing back then. */
const awakeMs = 30 * 60_000;

interface Row {
	readonly id: number;
	personId: number | null;
	readonly number: string | null;
	readonly way: Way;
	/** The newest answer by each way: JSON object of way to [instant, address]. */
	readonly wrote: string;
	/** Where the copy that it answers went by mail. */
	readonly mailed: string | null;
}

/** Whose a number is that nobody had when it wrote, where it has been put on file since and is one person's alone. */
async function ownerOf(db: Query, number: string): Promise<number | null> {
	const owners = new Set((await textAddressesOf(db, number)).map((a) => a.personId));
	return owners.size === 1 ? [...owners][0]! : null;
}

/** How some conversations can be answered: only at addresses that are on file for their person, never at one that merely wrote. */
export async function waysBack(
	db: Query,
	conversationIds: readonly number[],
	at: number
): Promise<ReadonlyMap<number, WaysBack>> {
	const rows = await db.all<Row>(
		`SELECT conversation.id, coalesce(same_as, person_id) AS personId, number, way,
			(SELECT json_group_object(way, json_array(at, from_address)) FROM (SELECT way, max(at) AS at, from_address
				FROM answer WHERE conversation_id = conversation.id AND known AND doubt IS NULL GROUP BY way)) AS wrote,
			(SELECT address FROM delivery WHERE delivery.dispatch_id = conversation.dispatch_id
				AND delivery.person_id = conversation.person_id AND delivery.way = 'email' LIMIT 1) AS mailed
		FROM conversation LEFT JOIN person ON person.id = person_id
		WHERE conversation.id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(conversationIds) }
	);
	for (const row of rows)
		row.personId ??= row.number === null ? null : await ownerOf(db, row.number);
	const people = JSON.stringify(rows.flatMap((r) => r.personId ?? []));
	const found = await db.all<Address>(
		`SELECT id, person_id AS personId, way, value, consent, failing FROM address
			WHERE person_id IN (SELECT value FROM json_each($people)) ORDER BY id`,
		{ people }
	);
	const addresses = groupBy(found.map(knownAddress), (a) => a.personId);
	const inboxes = new Set(
		(
			await db.all<{ id: number }>(
				'SELECT id FROM person WHERE has_inbox AND id IN (SELECT value FROM json_each($people))',
				{ people }
			)
		).map((p) => p.id)
	);
	return new Map(
		rows.map((row) => {
			const { personId } = row;
			if (personId === null) return [row.id, { conversationId: row.id, personId, ways: [] }];
			const on = { addresses: addresses.get(personId) ?? [], inbox: inboxes.has(personId) };
			return [row.id, waysOf({ ...row, personId }, on, at)];
		})
	);
}

/** What is on file for whom it is answered to. */
interface OnFile {
	readonly addresses: readonly KnownAddress[];
	readonly inbox: boolean;
}

function waysOf(
	{ id, personId, number, way: last, wrote, mailed }: Row & { readonly personId: number },
	{ addresses, inbox }: OnFile,
	at: number
): WaysBack {
	const newest = JSON.parse(wrote) as Partial<Record<Way, [at: number, from: string]>>;
	const awake = (way: Way) => newest[way] !== undefined && newest[way][0] > at - awakeMs;
	const ways: WayBack[] = [];
	const working = (way: Way) => addresses.filter((a) => a.way === way && a.failing === null);
	const mails = working('email').filter((a) => a.consent !== 'out');
	const mail = mails.find((a) => a.value.toLowerCase() === mailed?.toLowerCase()) ?? mails[0];
	if (mail) ways.push({ way: 'email', address: mail.usable, awake: awake('email') });
	// A phone that has written may be answered, whether or not it opted in to what is sent to many; one that said STOP may not.
	const from = newest.text?.[1] ?? number;
	const phones = working('text').filter(
		(a) => a.consent === 'in' || (a.consent === 'unknown' && a.usable === from)
	);
	const phone = phones.find((a) => a.usable === from) ?? phones[0];
	if (phone) ways.push({ way: 'text', address: phone.usable, awake: awake('text') });
	if (inbox || newest.inbox) ways.push({ way: 'inbox', address: null, awake: true });
	return {
		conversationId: id,
		personId,
		ways: ways.sort((a, b) => Number(b.way === last) - Number(a.way === last))
	};
}
