import { retryAt } from '../src/lib/core/time/retry';
import { now } from '../src/lib/server/clock';
import type { Query } from '../src/lib/server/db/open';
import { knownAddress } from '../src/lib/core/roster/roster';
import type { Address } from '../src/lib/core/roster/types';
import { addressesChanged } from '../src/lib/server/db/roster';
import { closeDispatches } from '../src/lib/server/desk/close';
import { record, type Happening } from '../src/lib/server/desk/record';
import type { Outcome } from '../src/lib/server/gateway/outcome';
import type { Claimed } from './claim';

/** A copy, and what its provider said to it. */
export interface Settled {
	readonly copy: Claimed;
	readonly outcome: Outcome;
}

/** One transaction's worth of outcomes: evidence, next try, freed claims, dispatches that are complete. */
export async function writeOutcomes(tx: Query, settled: readonly Settled[]): Promise<void> {
	const at = await now(tx);
	const happenings: Happening[] = [];
	const rows: [id: number, providerRef: string | null, dueAt: number | null, attempts: number][] =
		[];
	const faults: { deliveryId: number; why: string }[] = [];
	for (const { copy, outcome } of settled) {
		const deliveryId = copy.id;
		let dueAt: number | null = null;
		let { attempts } = copy;
		switch (outcome.kind) {
			case 'accepted':
				happenings.push({ deliveryId, at, kind: 'accepted', detail: outcome.detail });
				break;
			case 'deferred':
				dueAt = retryAt(at, attempts);
				happenings.push(
					dueAt === null
						? {
								deliveryId,
								at,
								kind: 'failed',
								detail: `given up after ${attempts} tries: ${outcome.detail}`
							}
						: { deliveryId, at, kind: 'deferred', detail: outcome.detail }
				);
				break;
			case 'refused':
				happenings.push({ deliveryId, at, kind: 'failed', detail: outcome.detail });
				if (outcome.addressFault) faults.push({ deliveryId, why: outcome.addressFault });
				break;
			case 'unavailable':
				// The provider was not there: this was no try of the copy.
				attempts -= 1;
		}
		rows.push([
			deliveryId,
			outcome.kind === 'accepted' ? (outcome.providerRef ?? null) : null,
			dueAt,
			attempts
		]);
	}
	await tx.run(
		`UPDATE delivery SET claimed_by = NULL, attempts = new.attempts,
			provider_ref = coalesce(new.ref, provider_ref), due_at = coalesce(new.due, due_at)
		FROM (SELECT value ->> 0 AS id, value ->> 1 AS ref, value ->> 2 AS due, value ->> 3 AS attempts
			FROM json_each($rows)) AS new
		WHERE delivery.id = new.id`,
		{ rows: JSON.stringify(rows) }
	);
	await record(tx, happenings);
	await addressesFail(tx, faults, at);
	await closeDispatches(
		tx,
		settled.map((s) => s.copy.dispatchId),
		at
	);
}

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
			SELECT delivery.id, delivery.person_id, delivery.way, delivery.address AS sentTo, value ->> 1 AS why
			FROM json_each($faults) JOIN delivery ON delivery.id = value ->> 0),
		found AS (
			SELECT address.id, sentTo, why, fault.way FROM fault JOIN address ON value = sentTo COLLATE NOCASE
			UNION SELECT address.id, sentTo, why, fault.way FROM fault JOIN address USING (person_id)
			UNION SELECT address.id, sentTo, why, fault.way FROM fault JOIN delivery_also ON delivery_id = fault.id
				JOIN address ON address.person_id = delivery_also.person_id)
		SELECT address.id, person_id AS personId, address.way, value, consent, failing, sentTo, why
		FROM found JOIN address USING (id) WHERE address.way = found.way AND failing IS NULL`,
		{ faults: JSON.stringify(faults.map((f) => [f.deliveryId, f.why])) }
	);
	const failing = found.filter(
		(a) => knownAddress(a).key === knownAddress({ ...a, value: a.sentTo }).key
	);
	if (failing.length === 0) return;
	await tx.run(
		`UPDATE address SET failing = fault.why, failing_since = $at
		FROM (SELECT value ->> 0 AS id, value ->> 1 AS why FROM json_each($rows)) AS fault
		WHERE address.id = fault.id`,
		{ rows: JSON.stringify(failing.map((a) => [a.id, a.why])), at }
	);
	await addressesChanged(
		tx,
		failing.map((a) => a.personId)
	);
}
