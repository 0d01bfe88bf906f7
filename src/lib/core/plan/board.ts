/** An announcement as a board has it. Instants, ms. */
export interface Posted {
	readonly id: number;
	/** From when it stands. */
	readonly from: number;
	/** Until when, and no longer; null for as long as the board is there. */
	readonly until: number | null;
	readonly pinned: boolean;
}

/** What of a board is in front, and what lies behind it; each the newest first. */
export interface BoardNow<T> {
	readonly pinned: readonly T[];
	readonly front: readonly T[];
	readonly earlier: readonly T[];
}

/** How many stand in front beside those that are pinned; two or three is common practice. */
export const usualFront = 3;

const newestFirst = (a: Posted, b: Posted): number => b.from - a.from || b.id - a.id;

/**
 * A board at a moment: what stands on it then, from its start (in it) to its end (not in it). Those that are
 * pinned come first, then the newest few; everything else that still stands lies behind them. What has ended
 * has left the board.
 */
export function boardAt<T extends Posted>(
	posts: readonly T[],
	now: number,
	front: number = usualFront
): BoardNow<T> {
	const standing = posts
		.filter((p) => p.from <= now && (p.until === null || now < p.until))
		.sort(newestFirst);
	const others = standing.filter((p) => !p.pinned);
	return {
		pinned: standing.filter((p) => p.pinned),
		front: others.slice(0, front),
		earlier: others.slice(front)
	};
}

/** When a board shows something else than at `now`, by itself: the next start or end; null where nothing is to come. */
export function nextChange(posts: readonly Posted[], now: number): number | null {
	const moments = posts.flatMap((p) => [p.from, ...(p.until === null ? [] : [p.until])]);
	const ahead = moments.filter((at) => at > now);
	return ahead.length === 0 ? null : Math.min(...ahead);
}
