import {
	readTextReceipt,
	textReceiptOutcome,
	type ReceiptParts
} from '../src/lib/core/track/text-receipt';
import { now } from '../src/lib/server/clock';
import type { DeliveryRow } from '../src/lib/server/db/models/delivery';
import type { Db, Query } from '../src/lib/server/db/open';
import { record, type Happening } from '../src/lib/server/desk/track/record';
import {
	addressesFail,
	failAgainAndAgain,
	failInTheEnd,
	recordWithFaults
} from './failing-addresses';
import { failedIn, type Fault, type SaidOfCopies } from './mail-sayings';

/** What some receipts say of copies. */
interface Told extends SaidOfCopies {
	/** For each receipt whether it is settled. */
	readonly settled: readonly boolean[];
}

async function toldBy(q: Query, group: readonly ReceiptParts[], at: number): Promise<Told> {
	const receipts = group.map(readTextReceipt);
	const rows = await q.all<Pick<DeliveryRow, 'id'> & { ref: string }>(
		`SELECT id, provider_ref AS ref FROM delivery
		WHERE provider_ref IN (SELECT value FROM json_each($refs))`,
		{ refs: JSON.stringify([...new Set(receipts.flatMap((r) => r?.messageId ?? []))]) }
	);
	const deliveryOf = new Map(rows.map((r) => [r.ref, r.id]));
	const happenings: Happening[] = [];
	const faults: Fault[] = [];
	for (const receipt of receipts) {
		const deliveryId = receipt ? deliveryOf.get(receipt.messageId) : undefined;
		if (!receipt || deliveryId === undefined) continue;
		const { outcome, text } = textReceiptOutcome[receipt.state];
		const code = receipt.error && !/^0+$/.test(receipt.error) ? ` ${receipt.error}` : '';
		happenings.push({
			deliveryId,
			at,
			source: 'text receipt',
			kind: outcome === 'open' ? 'noted' : outcome,
			detail: text,
			said: `receipt, ${receipt.state}${code}`,
			code: receipt.state
		});
		if (receipt.state === 'UNDELIV') faults.push({ deliveryId, why: text });
	}
	// What is no receipt cannot become one by coming again.
	return { happenings, faults, settled: receipts.map((r) => !r || deliveryOf.has(r.messageId)) };
}

async function keep(tx: Query, { happenings, faults }: SaidOfCopies, at: number): Promise<void> {
	await record(tx, happenings, { once: true });
	await addressesFail(tx, faults, at);
	await failAgainAndAgain(tx, failedIn(happenings), at);
}

/**
 * Takes text receipts in, a group at a time. A receipt may overtake the answer to its own submit;
 * then its id is not known yet, it is not kept, and the exchange is asked to come again. Returns for
 * each whether it is settled.
 */
export async function takeTextReceipts(
	tx: Query,
	group: readonly ReceiptParts[]
): Promise<readonly boolean[]> {
	const at = await now(tx);
	const told = await toldBy(tx, group, at);
	await keep(tx, told, at);
	return told.settled;
}

/** As {@link takeTextReceipts}, and nobody waits while the database is asked for what is known. */
export async function receiptsCome(
	db: Db,
	group: readonly ReceiptParts[]
): Promise<readonly boolean[]> {
	const at = await now(db);
	const told = await toldBy(db, group, at);
	if (await recordWithFaults(db, told, at, { once: true }))
		await failInTheEnd(db, failedIn(told.happenings), at);
	else await db.write((tx) => keep(tx, told, at));
	return told.settled;
}
