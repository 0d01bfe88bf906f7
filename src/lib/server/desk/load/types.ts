/** A family on one day, with what it gets. */
export interface LoadedFamily {
	readonly household: string;
	readonly people: string;
	readonly messages: readonly {
		readonly subject: string;
		readonly sender: string;
		readonly at: number;
		readonly dispatchId: number | null;
		/** Whether it comes in the family's digest of the day, which counts as one. */
		readonly digest: boolean;
	}[];
}

/** A day on which people who get a copy then have had their share already. */
export interface HeavyDay {
	readonly at: number;
	readonly people: number;
}

/** A move that would bring the load down, ready to be made. */
export interface SuggestedMove {
	readonly dispatchId: number;
	readonly subject: string;
	readonly from: number;
	/** Local time it would be moved to, and the instant. */
	readonly toLocal: string;
	readonly to: number;
	/** Messages over the limit that it takes away. */
	readonly relief: number;
	readonly base: number;
}
