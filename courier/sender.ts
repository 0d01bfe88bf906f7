import type { Db } from '../src/lib/server/db/open';
import { now } from '../src/lib/server/clock';
import type { Outcome } from '../src/lib/server/gateway/outcome';
import { claim, type Claimed } from './claim';
import type { Identity } from './identity';
import { inLanes } from './lanes';
import type { Settled } from './outcomes';
import type { Pacer } from './pacer';

/**
 * Copies claimed at once, how many are under way at the same time, and how many may have been handed
 * over without being written down yet: what a kill can repeat. At a provider's usual pace a commit
 * holds one or two of them.
 */
const batch = {
	email: { claim: 400, atOnce: 16, unwritten: 48 },
	text: { claim: 1_000, atOnce: 40, unwritten: 400 }
} as const;
/** After a provider was not there, how long to leave it alone, ms of the machine's time. */
const awayMs = 2_000;
/** After a provider asked for less, how long at first and at most; it doubles each time it asks again. */
const slow = { firstMs: 1_000, mostMs: 60_000, least: 5 } as const;

/** What a way is sent by. */
export interface SenderParts {
	readonly way: 'email' | 'text';
	/** Copies a minute that the provider takes; null for as many as there are. */
	perMinute(): Promise<number | null>;
	/** Why the provider cannot be spoken to, or null. `again` where it was away at the last try, so that asking it is worth a connection. */
	down(again: boolean): Promise<string | null>;
	/** Makes ready what some copies have in common; what comes back hands one of them over. */
	prepare(copies: readonly Claimed[]): Promise<(copy: Claimed) => Promise<Outcome>>;
	/** The time of the job, ms. */
	clock(): number;
	/** Writes an outcome down; tries until it has succeeded. */
	settle(settled: Settled): Promise<void>;
	/** Says how the way stands: why it is not there, and how long it is slowed down, ms (0 where it is not). */
	says(why: string | null, slowMs: number): Promise<void>;
}

export interface Sender {
	/** Sends what is due, to its end or to where the provider is away or asks for less. Resolves to the copies that were settled. */
	run(): Promise<number>;
}

interface Ready {
	readonly copy: Claimed;
	readonly send: (copy: Claimed) => Promise<Outcome>;
}

/** Sends one way's copies, several at once, keeping to the pace and standing back when the provider is away or busy. */
export function makeSender(db: Db, me: Identity, pace: Pacer, parts: SenderParts): Sender {
	const { way } = parts;
	let pausedUntil = 0;
	let slowMs = 0;
	let wasAway = false;
	return {
		async run() {
			if (Date.now() < pausedUntil) return 0;
			// Asked before copies are claimed: with the provider away, none needs to be taken up and given back.
			const notThere = await parts.down(wasAway);
			wasAway = notThere !== null;
			if (notThere !== null) {
				pausedUntil = Date.now() + awayMs;
				await parts.says(notThere, 0);
				return 0;
			}
			let settled = 0;
			let handled = 0;
			let busy = 0;
			let away: string | null = null;
			/** More than half of what it was given was put off because it was too much. */
			const tooMuch = () => busy >= slow.least && busy * 2 > handled;
			const perMinute = await parts.perMinute();
			/** Outcomes on their way into the database, and who waits until there are fewer. */
			let writing = 0;
			const waiting: (() => void)[] = [];
			let unwritable: { readonly error: unknown } | null = null;
			const written = () => {
				writing -= 1;
				waiting.splice(0).forEach((go) => go());
			};
			const write = (outcome: Settled): void => {
				writing += 1;
				parts.settle(outcome).then(written, (error: unknown) => {
					unwritable ??= { error };
					written();
				});
			};
			const fewer = async (than: number) => {
				while (writing >= than) await new Promise<void>((go) => waiting.push(go));
			};
			await inLanes<Ready>(
				batch[way].atOnce,
				batch[way].claim / 2,
				async () => {
					if (away !== null || tooMuch()) return [];
					const room = pace.room(way, perMinute, await now(db));
					if (room === 0) return [];
					const copies = await claim(db, me, way, Math.min(batch[way].claim, room));
					pace.used(way, copies.length);
					const send = await parts.prepare(copies);
					return copies.map((copy) => ({ copy, send }));
				},
				async ({ copy, send }) => {
					await fewer(batch[way].unwritten);
					if (unwritable) throw unwritable.error;
					// What is already claimed is given back untried.
					const outcome: Outcome =
						away !== null
							? { kind: 'unavailable', why: away }
							: tooMuch()
								? { kind: 'unavailable', why: '' }
								: await send(copy);
					if (outcome.kind === 'unavailable') away ??= outcome.why === '' ? null : outcome.why;
					else {
						settled += 1;
						handled += 1;
						if (outcome.kind === 'deferred' && outcome.tooMuch) busy += 1;
					}
					write({ copy, outcome, at: parts.clock() });
				}
			);
			await fewer(1);
			if (unwritable) throw (unwritable as { readonly error: unknown }).error;
			if (tooMuch()) slowMs = Math.min(slow.mostMs, Math.max(slow.firstMs, slowMs * 2));
			else if (handled > 0) slowMs = 0;
			wasAway = away !== null;
			pausedUntil = Date.now() + (away === null ? (tooMuch() ? slowMs : 0) : awayMs);
			if (handled > 0 || away !== null) await parts.says(away, slowMs);
			return settled;
		}
	};
}
