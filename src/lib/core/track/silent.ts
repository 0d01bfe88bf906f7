/** Why nothing has reached a home: no way works; it was left out of everything; nothing that left arrived; what arrived was never read. */
export const silences = ['no-way', 'left-out', 'not-arrived', 'not-read'] as const;
export type Silence = (typeof silences)[number];

/** What became, over a stretch of time, of what was meant for a home. */
export interface HomePast {
	/** Whether some way to some adult of it works today. */
	readonly hasWay: boolean;
	/** Copies that left for its adults, and how many of them did not come back. */
	readonly left: number;
	readonly arrived: number;
	/** Whether anybody of it read, answered or was spoken to. */
	readonly reached: boolean;
}

/** Why nothing has reached a home; null where something did. What is to be done first is said first. */
export function silenceOf({ hasWay, left, arrived, reached }: HomePast): Silence | null {
	if (reached) return null;
	if (!hasWay) return 'no-way';
	if (left === 0) return 'left-out';
	return arrived === 0 ? 'not-arrived' : 'not-read';
}
