import { ways, type Way } from '../roster/way';

/** How many of some students came to be covered in time, each once for each dispatch that was meant for them. */
export interface Covered {
	readonly of: number;
	readonly covered: number;
}

/** Copies by one way that left: how many did not come back, and how many were read. */
export interface WaySum {
	readonly copies: number;
	readonly arrived: number;
	readonly read: number;
}

/** One week of a term. */
export interface ReportWeek extends Covered {
	/** Its Monday, ISO date. */
	readonly from: string;
	readonly dispatches: number;
	/** Of them, those that may yet be read in time. */
	readonly running: number;
	/** Dispatches that came to a home, over all homes; how many homes got one; the most that one got. */
	readonly messages: number;
	readonly homes: number;
	readonly most: number;
	readonly ways: Readonly<Record<Way, WaySum>>;
	/** Parts of its texts, and of how many texts nobody knows them any more. */
	readonly parts: number;
	readonly partsUnknown: number;
	/** Addresses that began to fail in it and still do; addresses that were put right in it. */
	readonly failing: number;
	readonly mended: number;
}

/** A term's weeks added up. */
export interface ReportSums extends Covered {
	readonly dispatches: number;
	readonly running: number;
	readonly ways: Readonly<Record<Way, WaySum>>;
	readonly parts: number;
	readonly partsUnknown: number;
	readonly failing: number;
	readonly mended: number;
}

/** Adds the weeks of a report up. */
export function sumsOf(weeks: readonly ReportWeek[]): ReportSums {
	const sum = (of: (week: ReportWeek) => number) => weeks.reduce((n, week) => n + of(week), 0);
	const way = (name: Way): WaySum => ({
		copies: sum((w) => w.ways[name].copies),
		arrived: sum((w) => w.ways[name].arrived),
		read: sum((w) => w.ways[name].read)
	});
	return {
		...{ of: sum((w) => w.of), covered: sum((w) => w.covered) },
		...{ dispatches: sum((w) => w.dispatches), running: sum((w) => w.running) },
		ways: Object.fromEntries(ways.map((name) => [name, way(name)])) as Record<Way, WaySum>,
		...{ parts: sum((w) => w.parts), partsUnknown: sum((w) => w.partsUnknown) },
		...{ failing: sum((w) => w.failing), mended: sum((w) => w.mended) }
	};
}
