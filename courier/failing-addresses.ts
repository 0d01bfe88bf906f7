import { knownAddress } from '../src/lib/core/roster/roster';
import type { Address } from '../src/lib/core/roster/types';
import type { Matter } from '../src/lib/core/track/status-code';
import { always, inSteps, type Deed } from '../src/lib/server/db/at-once';
import { hasLeftOf } from '../src/lib/server/db/copy-state';
import { rowSet } from '../src/lib/server/db/many';
import type { DeliveryRow } from '../src/lib/server/db/models/delivery';
import type { Db, Query } from '../src/lib/server/db/open';
import { ownChange } from '../src/lib/server/db/roster';
import { recordAtOnce, type AtOnceOptions } from '../src/lib/server/desk/track/record';
import type { Fault, SaidOfCopies } from './mail-sayings';

const faultSet = rowSet('$faults', ['deliveryId', 'why']);
const failingSet = rowSet('$rows', ['id', 'why']);
const markedSet = rowSet('$marked', ['id', 'value']);

/** How addresses are marked as not working: what must still hold of them, and what is written. */
interface Marking {
	readonly stands: Deed;
	readonly deeds: readonly Deed[];
}
const nothingToMark: Marking = { stands: always, deeds: [] };

/** How the addresses of some deliveries are marked, from now on and for everyone who has them. */
async function markingOf(q: Query, faults: readonly Fault[], at: number): Promise<Marking> {
	if (faults.length === 0) return nothingToMark;
	// As it is spelled in the copy, or as one of its readers has it on file. What is said late, or again, of a copy that
	// left before somebody put the address right is about how it was then.
	const found = await q.all<Address & { sentTo: string; why: string }>(
		`WITH fault AS (
			SELECT delivery.id, delivery.person_id, delivery.way, delivery.address AS sentTo, left_at, why
			FROM ${faultSet.table} JOIN delivery ON delivery.id = deliveryId),
		found AS (
			SELECT address.id, sentTo, left_at, why, fault.way FROM fault JOIN address ON value = sentTo COLLATE NOCASE
			UNION SELECT address.id, sentTo, left_at, why, fault.way FROM fault JOIN address USING (person_id)
			UNION SELECT address.id, sentTo, left_at, why, fault.way FROM fault JOIN delivery_also ON delivery_id = fault.id
				JOIN address ON address.person_id = delivery_also.person_id)
		SELECT address.id, person_id AS personId, address.way, value, consent, failing, sentTo, why
		FROM found JOIN address USING (id) WHERE address.way = found.way AND failing IS NULL
			AND NOT EXISTS (SELECT 1 FROM mended WHERE address_id = address.id AND mended.at >= left_at)`,
		{ faults: faultSet.json(faults) }
	);
	const failing = found.filter(
		(a) => knownAddress(a).key === knownAddress({ ...a, value: a.sentTo }).key
	);
	if (failing.length === 0) return nothingToMark;
	return {
		stands: {
			sql: `NOT EXISTS (SELECT 1 FROM ${markedSet.table} AS marked LEFT JOIN address USING (id)
				WHERE address.value IS NOT marked.value OR address.failing IS NOT NULL)`,
			bind: { marked: markedSet.json(failing) }
		},
		deeds: [
			{
				sql: `UPDATE address SET failing = fault.why, failing_since = $at
				FROM ${failingSet.table} AS fault WHERE address.id = fault.id`,
				bind: { rows: failingSet.json(failing), at }
			},
			ownChange(failing.map((a) => a.personId))
		]
	};
}

/** Marks the addresses of some deliveries as not working. */
export const addressesFail = async (
	tx: Query,
	faults: readonly Fault[],
	at: number
): Promise<void> => inSteps(tx, (await markingOf(tx, faults, at)).deeds);

/**
 * Writes evidence down with the addresses that are at fault, in a transaction that waits for nothing while others wait for
 * it; see {@link recordAtOnce}. What fails by it is to be given to {@link failInTheEnd}.
 */
export async function recordWithFaults(
	db: Db,
	{ happenings, faults }: SaidOfCopies,
	at: number,
	{ beside = [], ...options }: Pick<AtOnceOptions, 'once' | 'freed' | 'beside'>
): Promise<boolean> {
	const { stands, deeds } = await markingOf(db, faults, at);
	return recordAtOnce(db, happenings, { ...options, stands, beside: [...deeds, ...beside] });
}

/** So many copies in a row that an address did not take, each given up or returned, make it one to mend (common practice: three). */
const inARow = 3;

/** The code of a failure that was the sender's own matter: it says nothing about the address. */
const sendersMatter: Matter = 'sender';

/** Addresses that have failed time after time without a reason that names them: a mailbox that stays full, a phone that stays off. What the other side has against us is no fault of theirs. */
async function againAndAgain(q: Query, deliveryIds: readonly number[]): Promise<Fault[]> {
	if (deliveryIds.length === 0) return [];
	const rows = await q.all<
		Pick<DeliveryRow, 'id'> & { address: string; last: string; why: string | null }
	>(
		`SELECT delivery.id, delivery.address,
			(SELECT json_group_array(state) FROM (SELECT iif(min(state = 'failed'), 'failed', '') AS state FROM delivery AS other
				WHERE other.address = delivery.address COLLATE NOCASE AND other.way = delivery.way
					AND ${hasLeftOf('other')}
					AND (other.state != 'failed' OR EXISTS (SELECT 1 FROM event
						WHERE delivery_id = other.id AND kind = 'failed' AND code IS NOT '${sendersMatter}'))
				-- Several in one letter are one that did not arrive.
				GROUP BY coalesce(digest_id, -id) ORDER BY max(id) DESC LIMIT ${inARow})) AS last,
			(SELECT detail FROM event WHERE delivery_id = delivery.id AND kind = 'failed'
				ORDER BY event.id DESC LIMIT 1) AS why
		FROM delivery WHERE id IN (SELECT value FROM json_each($ids)) AND state = 'failed' AND address IS NOT NULL
			AND EXISTS (SELECT 1 FROM event WHERE delivery_id = delivery.id AND kind = 'failed' AND code IS NOT '${sendersMatter}')`,
		{ ids: JSON.stringify(deliveryIds) }
	);
	return rows.flatMap(({ id, last, why }) => {
		const states = JSON.parse(last) as string[];
		if (states.length < inARow || states.some((s) => s !== 'failed')) return [];
		return [{ deliveryId: id, why: `${inARow} in a row did not arrive, the last: ${why ?? ''}` }];
	});
}

/** Marks the addresses of copies that failed, where they have failed time after time. */
export const failAgainAndAgain = async (
	tx: Query,
	deliveryIds: readonly number[],
	at: number
): Promise<void> => addressesFail(tx, await againAndAgain(tx, deliveryIds), at);

/**
 * As {@link failAgainAndAgain}, in a transaction of its own that waits for nothing. It comes after what failed is written
 * down: where it is not come to, the next copy that fails does it.
 */
export async function failInTheEnd(
	db: Db,
	deliveryIds: readonly number[],
	at: number
): Promise<void> {
	const { stands, deeds } = await markingOf(db, await againAndAgain(db, deliveryIds), at);
	if (deeds.length > 0 && !(await db.writeAtOnce(stands, deeds)))
		await db.write((tx) => failAgainAndAgain(tx, deliveryIds, at));
}
