import { retryAt } from '../src/lib/core/time/retry';
import type { Matter } from '../src/lib/core/track/status-code';
import type { Db, Query } from '../src/lib/server/db/open';
import { knownAddress } from '../src/lib/core/roster/roster';
import type { Address } from '../src/lib/core/roster/types';
import { rowSet } from '../src/lib/server/db/many';
import { ownChanged } from '../src/lib/server/db/roster';
import type { Freed } from '../src/lib/server/desk/track/copy-deeds';
import { record, recordAtOnce, type Happening } from '../src/lib/server/desk/track/record';
import type { Outcome } from '../src/lib/server/gateway/outcome';
import type { Claimed } from './claim';
import { hasLeftOf } from '../src/lib/server/db/copy-state';
import type { DeliveryRow } from '../src/lib/server/db/models/delivery';

/** A copy, and what its provider said to it. */
export interface Settled {
	readonly copy: Claimed;
	readonly outcome: Outcome;
	/** When it was said (instant, ms). */
	readonly at: number;
}

/** So often a copy is handed over without an answer; a family that gets a letter again and again is worse off than one that is asked by phone. */
const mostUnanswered = 2;

/** What of an outcome is kept beside its words. */
const saidOf = ({ said, code }: { readonly said?: string; readonly code?: Matter }) => ({
	...(said ? { said } : {}),
	...(code ? { code } : {})
});

/** What outcomes say of their copies. */
interface Sayings {
	readonly happenings: readonly Happening[];
	readonly freed: ReadonlyMap<number, Freed>;
	/** Where the address itself is at fault. */
	readonly faults: readonly { readonly deliveryId: number; readonly why: string }[];
}

function sayingsOf(settled: readonly Settled[]): Sayings {
	const happenings: Happening[] = [];
	const freed = new Map<number, Freed>();
	const faults: { deliveryId: number; why: string }[] = [];
	for (const { copy, outcome, at } of settled) {
		const deliveryId = copy.id;
		const source = copy.way === 'email' ? 'mail server' : 'text exchange';
		const says = (
			kind: Happening['kind'],
			detail: string,
			more: Pick<Partial<Happening>, 'said' | 'code' | 'tries' | 'source'> = {}
		) => happenings.push({ deliveryId, at, kind, source, detail, ...more });
		let dueAt: number | null = null;
		let { attempts, unanswered } = copy;
		switch (outcome.kind) {
			case 'accepted':
				says(
					'accepted',
					copy.digest ? `${outcome.detail}, in its reader’s daily digest` : outcome.detail,
					saidOf(outcome)
				);
				break;
			case 'deferred':
				dueAt = retryAt(at, attempts);
				if (dueAt !== null) says('deferred', outcome.detail, saidOf(outcome));
				else {
					says('failed', outcome.detail, {
						...saidOf(outcome),
						tries: attempts,
						source: 'courier'
					});
				}
				break;
			case 'refused':
				says('failed', outcome.detail, saidOf(outcome));
				if (outcome.addressFault) faults.push({ deliveryId, why: outcome.addressFault });
				break;
			case 'unanswered':
				unanswered = copy.unanswered + 1;
				if (unanswered < mostUnanswered) {
					dueAt = retryAt(at, attempts);
					says('unanswered', `handed over, and then ${outcome.why}: it may have arrived`);
				} else {
					says(
						'unsure',
						`handed over ${unanswered} times, and then ${outcome.why}: it may have arrived, and is not tried again by itself`
					);
				}
				break;
			case 'unavailable':
				// The provider was not there: this was no try of the copy.
				attempts -= 1;
		}
		const providerRef = outcome.kind === 'accepted' ? (outcome.providerRef ?? null) : null;
		const parts = outcome.kind === 'accepted' ? (outcome.parts ?? null) : null;
		freed.set(deliveryId, { fence: copy.fence, attempts, unanswered, providerRef, dueAt, parts });
	}
	return { happenings, freed, faults };
}

/** One transaction's worth of outcomes: evidence, next try, freed claims, dispatches that are complete. */
export async function writeOutcomes(tx: Query, settled: readonly Settled[]): Promise<void> {
	const { happenings, freed, faults } = sayingsOf(settled);
	await record(tx, happenings, { freed });
	const failed = happenings.filter((h) => h.kind === 'failed');
	if (failed.length === 0) return;
	const at = failed.at(-1)!.at;
	await addressesFail(tx, faults, at);
	await failAgainAndAgain(
		tx,
		failed.map((h) => h.deliveryId),
		at
	);
}

/** Whether something fails by an outcome: that is held against what else went to its address. */
export const failsBy = (settled: Settled): boolean =>
	sayingsOf([settled]).happenings.some((h) => h.kind === 'failed');

/** As {@link writeOutcomes}, of outcomes by which nothing fails, nearly all: the database is asked for what is known before others wait for it. */
export async function settleOutcomes(db: Db, settled: readonly Settled[]): Promise<void> {
	const { happenings, freed } = sayingsOf(settled);
	if (!(await recordAtOnce(db, happenings, { freed })))
		await db.write((tx) => writeOutcomes(tx, settled));
}

const faultSet = rowSet('$faults', ['deliveryId', 'why']);
const failingSet = rowSet('$rows', ['id', 'why']);

/** Marks the addresses of some deliveries as not working, from now on and for everyone who has them. */
export async function addressesFail(
	tx: Query,
	faults: readonly { deliveryId: number; why: string }[],
	at: number
): Promise<void> {
	if (faults.length === 0) return;
	// As it is spelled in the copy, or as one of its readers has it on file.
	const found = await tx.all<Address & { sentTo: string; why: string }>(
		`WITH fault AS (
			SELECT delivery.id, delivery.person_id, delivery.way, delivery.address AS sentTo, why
			FROM ${faultSet.table} JOIN delivery ON delivery.id = deliveryId),
		found AS (
			SELECT address.id, sentTo, why, fault.way FROM fault JOIN address ON value = sentTo COLLATE NOCASE
			UNION SELECT address.id, sentTo, why, fault.way FROM fault JOIN address USING (person_id)
			UNION SELECT address.id, sentTo, why, fault.way FROM fault JOIN delivery_also ON delivery_id = fault.id
				JOIN address ON address.person_id = delivery_also.person_id)
		SELECT address.id, person_id AS personId, address.way, value, consent, failing, sentTo, why
		FROM found JOIN address USING (id) WHERE address.way = found.way AND failing IS NULL`,
		{ faults: faultSet.json(faults) }
	);
	const failing = found.filter(
		(a) => knownAddress(a).key === knownAddress({ ...a, value: a.sentTo }).key
	);
	if (failing.length === 0) return;
	await tx.run(
		`UPDATE address SET failing = fault.why, failing_since = $at
		FROM ${failingSet.table} AS fault
		WHERE address.id = fault.id`,
		{ rows: failingSet.json(failing), at }
	);
	await ownChanged(
		tx,
		failing.map((a) => a.personId)
	);
}

/** So many copies in a row that an address did not take, each given up or returned, make it one to mend (common practice: three). */
const inARow = 3;

/** The code of a failure that was the sender's own matter: it says nothing about the address. */
const sendersMatter: Matter = 'sender';

/** Marks addresses that have failed time after time without a reason that names them: a mailbox that stays full, a phone that stays off. What the other side has against us is no fault of theirs. */
export async function failAgainAndAgain(
	tx: Query,
	deliveryIds: readonly number[],
	at: number
): Promise<void> {
	if (deliveryIds.length === 0) return;
	const rows = await tx.all<
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
	await addressesFail(
		tx,
		rows.flatMap(({ id, last, why }) => {
			const states = JSON.parse(last) as string[];
			if (states.length < inARow || states.some((s) => s !== 'failed')) return [];
			return [{ deliveryId: id, why: `${inARow} in a row did not arrive, the last: ${why ?? ''}` }];
		}),
		at
	);
}
