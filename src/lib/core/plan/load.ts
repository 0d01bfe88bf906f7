/**
 * Family load: how many messages each household gets on each day, whoever sends them. Households
 * and days are numbered from 0 by the caller, so that the counts are plain arrays of bytes.
 */

/** One dispatch as far as it reaches households on one day. */
export interface LoadEntry {
	readonly dispatchId: number;
	/** Index of the day. */
	readonly day: number;
	/** Indices of the households it reaches that day, each once. */
	readonly households: Uint32Array;
	/** Indices of those it reaches that day in a daily digest and not otherwise: a household's digest is one message, whatever it holds. */
	readonly digest: Uint32Array;
	/** Texts among its copies of that day. */
	readonly texts: number;
}

export interface DayLoad {
	/** How many households get 0, 1, 2, 3 or more messages; the last one is "3 or more". */
	readonly households: readonly [number, number, number, number];
	/** The most that one household gets. */
	readonly most: number;
	/** Households that get more than the limit. */
	readonly over: number;
	/** Text copies of that day. */
	readonly texts: number;
}

export interface Load {
	readonly days: number;
	readonly households: number;
	/** Messages by day and household: `messages[day][household]`. */
	readonly messages: readonly Uint8Array[];
	/** Text copies of each day. */
	readonly texts: readonly number[];
}

const most = 255;

/** Counts messages by day and household, and the texts of each day; a household's digest of a day is one. Counts over 255 stay 255. */
export function loadOf(entries: Iterable<LoadEntry>, days: number, households: number): Load {
	const messages = Array.from({ length: days }, () => new Uint8Array(households));
	const digested = Array.from({ length: days }, () => new Uint8Array(households));
	const texts = Array.from({ length: days }, () => 0);
	for (const entry of entries) {
		const m = messages[entry.day]!;
		texts[entry.day]! += entry.texts;
		const { households: list } = entry;
		for (let i = 0; i < list.length; i += 1) {
			const h = list[i]!;
			if (m[h]! < most) m[h]! += 1;
		}
		const had = digested[entry.day]!;
		for (const h of entry.digest) {
			if (had[h] === 1) continue;
			had[h] = 1;
			if (m[h]! < most) m[h]! += 1;
		}
	}
	return { days, households, messages, texts };
}

/** One day in sums. */
export function dayLoad({ messages, texts }: Load, day: number, limit: number): DayLoad {
	const households: [number, number, number, number] = [0, 0, 0, 0];
	let top = 0;
	let over = 0;
	const m = messages[day]!;
	for (let h = 0; h < m.length; h += 1) {
		const n = m[h]!;
		households[Math.min(n, 3) as 0 | 1 | 2 | 3] += 1;
		if (n > top) top = n;
		if (n > limit) over += 1;
	}
	return { households, most: top, over, texts: texts[day]! };
}

/** The households with most messages on a day, the most loaded first. */
export function mostLoaded(
	{ messages }: Load,
	day: number,
	atLeast: number,
	count: number
): number[] {
	const m = messages[day]!;
	const found: number[] = [];
	for (let h = 0; h < m.length; h += 1) if (m[h]! >= Math.max(1, atLeast)) found.push(h);
	return found.sort((a, b) => m[b]! - m[a]! || a - b).slice(0, count);
}

/** A dispatch that may be moved, and where to. */
export interface Movable {
	readonly dispatchId: number;
	/** Its entries, most often one; they move together, each by as many days. */
	readonly entries: readonly LoadEntry[];
	/** Days it may be moved to, as days from where it stands: never 0. */
	readonly byDays: readonly number[];
}

/** A move and what it does over the whole window. */
export interface Move {
	readonly dispatchId: number;
	readonly byDays: number;
	/** Messages over the limit, over all days and households: before less after. */
	readonly relief: number;
	/** The same with every message weighed by how many others come that day; decides between moves of equal relief. */
	readonly evenness: number;
}

/**
 * What moving one dispatch by some days does. Only the days it leaves and comes to are looked at:
 * its own households there, once each.
 */
export function effectOf(load: Load, movable: Movable, byDays: number, limit: number): Move {
	let relief = 0;
	let evenness = 0;
	// Leaving and arriving may touch the same day where a dispatch has entries on several days.
	const change = new Map<number, Int16Array>();
	const changeOn = (day: number) => {
		let own = change.get(day);
		if (!own) change.set(day, (own = new Int16Array(load.households)));
		return own;
	};
	const single = movable.entries.length === 1;
	for (const entry of movable.entries) {
		const to = entry.day + byDays;
		const from = load.messages[entry.day]!;
		// What leaves the window is gone from it all the same.
		const there = load.messages[to];
		if (!single) {
			const leave = changeOn(entry.day);
			const come = there ? changeOn(to) : null;
			for (const h of entry.households) {
				leave[h]! -= 1;
				if (come) come[h]! += 1;
			}
			continue;
		}
		const { households } = entry;
		for (let i = 0; i < households.length; i += 1) {
			const h = households[i]!;
			const a = from[h]!;
			if (a > limit) relief += 1;
			if (!there) {
				evenness += 2 * a - 1;
				continue;
			}
			const b = there[h]!;
			if (b >= limit) relief -= 1;
			// (a² + b²) - ((a-1)² + (b+1)²)
			evenness += 2 * (a - b - 1);
		}
	}
	for (const [day, own] of change) {
		const m = load.messages[day]!;
		for (let h = 0; h < own.length; h += 1) {
			if (own[h] === 0) continue;
			const before = m[h]!;
			const after = before + own[h]!;
			relief += Math.max(0, before - limit) - Math.max(0, after - limit);
			evenness += before * before - after * after;
		}
	}
	return { dispatchId: movable.dispatchId, byDays, relief, evenness };
}

/**
 * The moves that bring the load down most, best first, at most one for each dispatch: every allowed
 * day of every movable dispatch is tried. Only moves that take messages over the limit away count.
 */
export function bestMoves(
	load: Load,
	movables: readonly Movable[],
	limit: number,
	count = 3
): Move[] {
	const best: Move[] = [];
	for (const movable of movables) {
		// Where it stands on no day over the limit there is nothing to take away.
		const loaded = movable.entries.some((e) => {
			const m = load.messages[e.day]!;
			return e.households.some((h) => m[h]! > limit);
		});
		if (!loaded) continue;
		let own: Move | null = null;
		for (const byDays of movable.byDays) {
			const move = effectOf(load, movable, byDays, limit);
			if (!own || better(move, own) < 0) own = move;
		}
		if (own && own.relief > 0) best.push(own);
	}
	return best.sort(better).slice(0, count);
}

/** The better move first: more relief, then a more even load, then the shorter way, then the earlier. */
const better = (a: Move, b: Move): number =>
	b.relief - a.relief ||
	b.evenness - a.evenness ||
	Math.abs(a.byDays) - Math.abs(b.byDays) ||
	a.byDays - b.byDays;
