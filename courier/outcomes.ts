import { retryAt } from '../src/lib/core/time/retry';
import type { Matter } from '../src/lib/core/track/status-code';
import type { Db, Query } from '../src/lib/server/db/open';
import type { Freed } from '../src/lib/server/desk/track/copy-deeds';
import { record, type Happening } from '../src/lib/server/desk/track/record';
import type { Outcome } from '../src/lib/server/gateway/outcome';
import { tellMachine } from '../src/lib/server/machine-log';
import type { Claimed } from './claim';
import {
	addressesFail,
	failAgainAndAgain,
	failInTheEnd,
	recordWithFaults
} from './failing-addresses';
import { failedIn, type Fault, type SaidOfCopies } from './mail-sayings';

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
interface Sayings extends SaidOfCopies {
	readonly freed: ReadonlyMap<number, Freed>;
}

function sayingsOf(settled: readonly Settled[]): Sayings {
	const happenings: Happening[] = [];
	const freed = new Map<number, Freed>();
	const faults: Fault[] = [];
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
	await addressesFail(tx, faults, lastAt(settled));
	await failAgainAndAgain(tx, failedIn(happenings), lastAt(settled));
}

const lastAt = (settled: readonly Settled[]): number => settled.at(-1)?.at ?? 0;

/** As {@link writeOutcomes}: the database is asked for what is known before others wait for it. */
export async function settleOutcomes(db: Db, settled: readonly Settled[]): Promise<void> {
	const said = sayingsOf(settled);
	const at = lastAt(settled);
	if (!(await recordWithFaults(db, said, at, { freed: said.freed })))
		return db.write((tx) => writeOutcomes(tx, settled));
	// Written down is written down: tried again it would be there twice.
	await failInTheEnd(db, failedIn(said.happenings), at).catch((error: unknown) =>
		tellMachine('courier', 'addresses that failed again and again could not be marked', error)
	);
}
