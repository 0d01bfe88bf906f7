import type { Db } from '../src/lib/server/db/open';
import { now } from '../src/lib/server/clock';
import type { Outcome } from '../src/lib/server/gateway/outcome';
import { claim, nextDue, type Claimed } from './claim';
import type { Identity } from './identity';
import { inLanes } from './lanes';
import type { Settled } from './outcomes';
import { burstOf, type Pacer } from './pacer';
import type { WayOut } from '../src/lib/core/roster/way';

/**
 * Copies claimed at once, how many are under way at the same time, and how many may have been handed
 * over without being written down yet: what a kill can repeat. Where a pace is set, never more than its
 * burst: then a commit holds one or two of them.
 */
const batch = {
	email: { claim: 400, atOnce: 16, unwritten: 48 },
	text: { claim: 1_000, atOnce: 40, unwritten: 400 }
} as const;
/** After a provider was not there, how long to leave it alone at first and at most, ms; longer each time. */
const away = { firstMs: 2_000, mostMs: 10_000 } as const;
/** After a provider asked for less, how long at first and at most; it doubles each time it asks again. */
const slow = { firstMs: 1_000, mostMs: 60_000, least: 5 } as const;

/** What a way is sent by. */
export interface SenderParts {
	readonly way: WayOut;
	/** Copies a minute that the provider takes; null for as many as there are. */
	perMinute(): Promise<number | null>;
	/** Why the provider cannot be spoken to, or null; undefined where only a try shows it. */
	down(): string | null | undefined;
	/** Makes ready what some copies have in common; what comes back hands one of them over. */
	prepare(copies: readonly Claimed[]): Promise<(copy: Claimed) => Promise<Outcome>>;
	/** The time of the job, ms. */
	clock(): number;
	/** Writes an outcome down; tries until it has succeeded. */
	settle(settled: Settled): Promise<void>;
	/** Says how the way stands: why it is not there, and how long it is slowed down, ms (0 where it is not). */
	says(why: string | null, slowMs: number): Promise<void>;
	/** Whether the courier is to end: nothing new is begun. */
	stopping?(): boolean;
	/** A clock that never goes back, ms: pauses go by it. */
	steady?(): number;
}

/** How a run came out. */
interface Ran {
	/** Copies that were settled. */
	readonly settled: number;
	/** How long to wait before the next run makes sense, ms; null where only a change or the next due moment matters. */
	readonly againMs: number | null;
	/** The next moment at which a copy is due (job's clock, ms); null where there is none. */
	readonly nextAt: number | null;
}

export interface Sender {
	/** Sends what is due, to its end or to where the provider is away or asks for less. */
	run(): Promise<Ran>;
}

interface Ready {
	readonly copy: Claimed;
	readonly send: (copy: Claimed) => Promise<Outcome>;
}

/** Sends one way's copies, several at once, keeping to the pace and standing back when the provider is away or busy. */
export function makeSender(
	db: Db,
	me: Identity,
	pace: Pacer,
	{ stopping = () => false, steady = () => performance.now(), ...parts }: SenderParts
): Sender {
	const { way } = parts;
	let pausedUntil = 0;
	let slowMs = 0;
	let awayMs = 0;

	/** Stands back from a provider that is not there. */
	async function standBack(why: string): Promise<void> {
		awayMs = awayMs === 0 ? away.firstMs : Math.min(away.mostMs, awayMs * 1.5);
		pausedUntil = steady() + awayMs;
		await parts.says(why, 0);
	}

	async function send(perMinute: number | null): Promise<number> {
		let settled = 0;
		let handled = 0;
		let busy = 0;
		let notThere: string | null = null;
		/** More than half of what it was given was put off because it was too much. */
		const tooMuch = () => busy >= slow.least && busy * 2 > handled;
		const burst = perMinute === null ? Infinity : burstOf(perMinute);
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
		const unwritten = Math.max(1, Math.min(batch[way].unwritten, Math.floor(burst / 2)));
		await inLanes<Ready>(
			Math.min(batch[way].atOnce, burst),
			Math.min(batch[way].claim / 2, burst),
			async () => {
				if (notThere !== null || tooMuch() || stopping()) return [];
				const room = pace.room(way, perMinute, await now(db));
				if (room === 0) return [];
				// One that was away is asked with one copy: a connection only to see would be one more than it may allow.
				const most = awayMs > 0 && handled === 0 ? 1 : batch[way].claim;
				const copies = await claim(db, me, way, Math.min(most, room));
				pace.used(way, copies.length);
				const hand = await parts.prepare(copies);
				return copies.map((copy) => ({ copy, send: hand }));
			},
			async ({ copy, send: hand }) => {
				await fewer(unwritten);
				if (unwritable) throw unwritable.error;
				// What is already claimed is given back untried.
				const outcome: Outcome =
					notThere !== null
						? { kind: 'unavailable', why: notThere }
						: tooMuch() || stopping()
							? { kind: 'unavailable', why: '' }
							: await hand(copy);
				if (outcome.kind === 'unavailable') notThere ??= outcome.why === '' ? null : outcome.why;
				else {
					settled += 1;
					handled += 1;
					if (outcome.kind !== 'unanswered') awayMs = 0;
					if (outcome.kind === 'deferred' && outcome.tooMuch) busy += 1;
				}
				write({ copy, outcome, at: parts.clock() });
			}
		);
		await fewer(1);
		if (unwritable) throw (unwritable as { readonly error: unknown }).error;
		if (tooMuch()) slowMs = Math.min(slow.mostMs, Math.max(slow.firstMs, slowMs * 2));
		else if (handled > 0) slowMs = 0;
		if (notThere !== null) await standBack(notThere);
		else {
			pausedUntil = tooMuch() ? steady() + slowMs : 0;
			if (handled > 0) await parts.says(null, slowMs);
		}
		return settled;
	}

	const ran = async (settled: number, againMs: number | null): Promise<Ran> => ({
		settled,
		againMs,
		nextAt: await nextDue(db, way)
	});

	return {
		async run() {
			const rest = pausedUntil - steady();
			if (rest > 0) return ran(0, rest);
			// Asked before copies are claimed: with the provider away, none needs to be taken up and given back.
			const down = parts.down();
			if (down) {
				await standBack(down);
				return ran(0, awayMs);
			}
			// It is back, and that is said also where there is nothing to send.
			if (down === null && awayMs > 0) {
				awayMs = 0;
				await parts.says(null, slowMs);
			}
			const perMinute = await parts.perMinute();
			const settled = await send(perMinute);
			const paused = pausedUntil - steady();
			if (paused > 0) return ran(settled, paused);
			// A due copy may have waited for nothing but its pace: half a burst is worth a look.
			return ran(
				settled,
				perMinute === null ? null : Math.max(50, (30_000 / perMinute) * burstOf(perMinute))
			);
		}
	};
}
