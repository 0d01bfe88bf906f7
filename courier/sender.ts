import type { Db } from '../src/lib/server/db/open';
import { now } from '../src/lib/server/clock';
import type { Outcome } from '../src/lib/server/gateway/outcome';
import { claim, giveBack, nextDue, type Claimed } from './claim';
import { handovers, type Handover } from './digests';
import type { Identity } from './identity';
import { inLanes } from './lanes';
import { outcomeBook } from './outcome-book';
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
	/** Makes ready what some copies have in common; what comes back hands one of them over, or those that go in one letter. */
	prepare(copies: readonly Claimed[]): Promise<(handover: Handover) => Promise<Outcome>>;
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
	readonly handover: Handover;
	readonly send: (handover: Handover) => Promise<Outcome>;
}

/** How a run goes: what its provider has said so far. */
interface Course {
	saw(outcome: Outcome): void;
	/** Copies that were handed over, whatever came of them; several in one letter are one. */
	handled(): number;
	/** Whether more than half of what the provider was given was put off because it was too much. */
	tooMuch(): boolean;
	/** Why the provider is away; null where it is there. */
	away(): string | null;
	/** Null while copies may be handed over; else why not, empty where nothing is wrong with the provider. */
	over(): string | null;
}

function runCourse(stopping: () => boolean): Course {
	let handled = 0;
	let busy = 0;
	let notThere: string | null = null;
	const tooMuch = () => busy >= slow.least && busy * 2 > handled;
	return {
		saw(outcome) {
			if (outcome.kind === 'unavailable') {
				if (outcome.why !== '') notThere ??= outcome.why;
				return;
			}
			handled += 1;
			if (outcome.kind === 'deferred' && outcome.tooMuch) busy += 1;
		},
		handled: () => handled,
		tooMuch,
		away: () => notThere,
		over: () => notThere ?? (tooMuch() || stopping() ? '' : null)
	};
}

/** How a way rests: while its provider is away, or when it asked for less. */
interface Rest {
	/** How long it rests still, ms; 0 or less where it does not. */
	leftMs(): number;
	/** How long it is left alone, since its provider was not there at the last try; 0 where it was. */
	awayMs(): number;
	/** Stands back from a provider that is not there. */
	standBack(why: string): Promise<void>;
	/** It has answered. */
	isBack(): void;
	/** It is there, and that is said also where there is nothing to send. */
	saysBack(): Promise<void>;
	/** A run has ended: how it went decides how long the next one waits. */
	after(course: Course): Promise<void>;
}

function restOf(steady: () => number, says: SenderParts['says']): Rest {
	let until = 0;
	let slowMs = 0;
	let awayMs = 0;
	const standBack = async (why: string) => {
		awayMs = awayMs === 0 ? away.firstMs : Math.min(away.mostMs, awayMs * 1.5);
		until = steady() + awayMs;
		await says(why, 0);
	};
	return {
		leftMs: () => until - steady(),
		awayMs: () => awayMs,
		standBack,
		isBack() {
			awayMs = 0;
		},
		async saysBack() {
			awayMs = 0;
			await says(null, slowMs);
		},
		async after(course) {
			if (course.tooMuch()) slowMs = Math.min(slow.mostMs, Math.max(slow.firstMs, slowMs * 2));
			else if (course.handled() > 0) slowMs = 0;
			const why = course.away();
			if (why !== null) return standBack(why);
			until = course.tooMuch() ? steady() + slowMs : 0;
			if (course.handled() > 0) await says(null, slowMs);
		}
	};
}

/** Sends one way's copies, several at once, keeping to the pace and standing back when the provider is away or busy. */
export function makeSender(
	db: Db,
	me: Identity,
	pace: Pacer,
	{ stopping = () => false, steady = () => performance.now(), ...parts }: SenderParts
): Sender {
	const { way } = parts;
	const rest = restOf(steady, parts.says);

	/** Claims and hands over until nothing is left, the provider is away, or it asks for less; how many copies were settled. */
	async function send(perMinute: number | null): Promise<number> {
		const burst = perMinute === null ? Infinity : burstOf(perMinute);
		const unwritten = Math.max(1, Math.min(batch[way].unwritten, Math.floor(burst / 2)));
		const book = outcomeBook(unwritten, parts.settle);
		const course = runCourse(stopping);
		/** Claimed, and not yet with an outcome. */
		const inHand = new Set<number>();
		await inLanes<Ready>(
			Math.min(batch[way].atOnce, burst),
			Math.min(batch[way].claim / 2, burst),
			async () => {
				if (course.over() !== null) return [];
				const room = pace.room(way, perMinute, await now(db));
				if (room === 0) return [];
				// One that was away is asked with one copy: a connection only to see would be one more than it may allow.
				const most = rest.awayMs() > 0 && course.handled() === 0 ? 1 : batch[way].claim;
				const copies = await claim(db, me, way, Math.min(most, room));
				for (const copy of copies) inHand.add(copy.id);
				const letters = handovers(copies);
				pace.used(way, letters.length);
				const send = await parts.prepare(copies);
				return letters.map((handover) => ({ handover, send }));
			},
			async ({ handover, send: hand }) => {
				await book.room();
				// What is already claimed is given back untried.
				const why = course.over();
				const outcome: Outcome = why === null ? await hand(handover) : { kind: 'unavailable', why };
				course.saw(outcome);
				if (outcome.kind !== 'unavailable' && outcome.kind !== 'unanswered') rest.isBack();
				const at = parts.clock();
				for (const copy of handover) {
					inHand.delete(copy.id);
					book.write({ copy, outcome, at });
				}
			}
		).catch(async (error: unknown) => {
			await giveBack(db, me, [...inHand]);
			await book.empty();
			throw error;
		});
		await book.empty();
		await rest.after(course);
		return course.handled();
	}

	const ran = async (settled: number, againMs: number | null): Promise<Ran> => ({
		settled,
		againMs,
		nextAt: await nextDue(db, way)
	});

	return {
		async run() {
			const resting = rest.leftMs();
			if (resting > 0) return ran(0, resting);
			// Asked before copies are claimed: with the provider away, none needs to be taken up and given back.
			const down = parts.down();
			if (down) {
				await rest.standBack(down);
				return ran(0, rest.awayMs());
			}
			if (down === null && rest.awayMs() > 0) await rest.saysBack();
			const perMinute = await parts.perMinute();
			const settled = await send(perMinute);
			const paused = rest.leftMs();
			if (paused > 0) return ran(settled, paused);
			// A due copy may have waited for nothing but its pace: half a burst is worth a look.
			return ran(
				settled,
				perMinute === null ? null : Math.max(50, (30_000 / perMinute) * burstOf(perMinute))
			);
		}
	};
}
