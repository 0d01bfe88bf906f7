import { LRUCache } from 'lru-cache';
import type { ReceiptParts } from '../src/lib/core/track/text-receipt';
import { readTextReceipt } from '../src/lib/core/track/text-receipt';

/** Receipts of texts that nobody here knows. */
export interface Strangers {
	/** Whether a receipt has been asked for again long enough to be taken for nobody's. */
	longEnough(receipt: ReceiptParts): boolean;
	/** How many were taken for nobody's since this process began. */
	readonly count: number;
}

/** A receipt overtakes the answer to its submit by seconds at most; ms of the machine's time. */
const patienceMs = 30_000;
const mostKept = 10_000;

/** Remembers unknown receipts: for a while the exchange is asked to come again, then they are let go and counted. */
export function strangers(clock: () => number = Date.now): Strangers {
	// Whoever floods us with made-up ones is not remembered without end.
	const since = new LRUCache<string, number>({ max: mostKept });
	let count = 0;
	return {
		get count() {
			return count;
		},
		longEnough(receipt) {
			const id = readTextReceipt(receipt)?.messageId ?? '';
			const first = since.get(id);
			if (first === undefined) {
				since.set(id, clock());
				return false;
			}
			if (clock() - first < patienceMs) return false;
			since.delete(id);
			count += 1;
			return true;
		}
	};
}
