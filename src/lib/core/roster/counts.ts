/** What of a roster is looked at together. */
export const tabs = ['people', 'contacts', 'enrolments', 'sections', 'staff'] as const;
export type Tab = (typeof tabs)[number];
export const whats = ['new', 'changed', 'gone'] as const;
/** What becomes of a thing; somebody who comes back is new. */
export type What = (typeof whats)[number];

/** How many things of each tab are new, change or go. */
export type Counts = Readonly<Record<What, Readonly<Record<Tab, number>>>>;

export const noCounts = (): Record<What, Record<Tab, number>> => {
	const none = () => Object.fromEntries(tabs.map((tab) => [tab, 0])) as Record<Tab, number>;
	return { new: none(), changed: none(), gone: none() };
};

/** How many things of one sort there are, over all tabs. */
export const countOf = (counts: Counts, what: What): number =>
	tabs.reduce((n, tab) => n + counts[what][tab], 0);

/** How many things change: what has to be typed where it is too much at once. */
export const allCounted = (counts: Counts): number =>
	whats.reduce((n, what) => n + countOf(counts, what), 0);

/** How much of what is known would go or change. */
export interface Share {
	readonly of: 'students' | 'sections' | 'enrolments' | 'contacts';
	readonly touched: number;
	readonly known: number;
}

/** Of fewer than these a tenth is one or two, which is every day's change. */
const fewest = 20;

/** The parts of which so much goes or changes at once that the number has to be typed. `most` is a share, 0 to 1. */
export const tooMuch = (shares: readonly Share[], most: number): Share[] =>
	shares.filter(({ touched, known }) => known >= fewest && touched > most * known);
