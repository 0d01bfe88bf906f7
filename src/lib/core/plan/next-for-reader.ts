import type { Way } from '../roster/way';
import { nextAllowed } from '../time/quiet';
import type { QuietBook } from './reader-moments';

/** Whom something is for, as far as quiet hours ask: by which way, of which schools, and the reader's own zone and hours. */
export interface QuietReader {
	readonly way: Way;
	readonly schoolIds: readonly number[];
	readonly zone: string | null;
	/** Minutes after local midnight; null where they have no hours of their own. */
	readonly quietFrom: number | null;
	readonly quietTo: number | null;
}

/**
 * The first moment at or after `at` (instants, ms) that is not quiet for one reader. What is for them alone
 * waits for no day without school.
 */
export function nextForReader(
	book: QuietBook,
	at: number,
	{ way, schoolIds, zone, quietFrom, quietTo }: QuietReader
): number {
	const own =
		quietFrom === null || quietTo === null ? [] : [{ fromMinute: quietFrom, toMinute: quietTo }];
	const rules = {
		zone: zone ?? book.zone,
		hours: [...book.hours(way, schoolIds), ...own],
		closed: () => false
	};
	return nextAllowed(at, rules) ?? at;
}
