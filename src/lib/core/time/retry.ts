/**
 * When to try a deferred copy again. RFC 5321 section 4.5.4.1 asks for retries at least 30 minutes
 * apart in general and gives up after 4 to 5 days; a school's message is worth less time than that,
 * so the first tries come sooner and the last after a day (common practice for bulk senders).
 */
const waitsMinutes = [1, 5, 15, 30, 60, 120, 240, 480, 480] as const;

/** Instant (ms) of the next try after `attempts` deferred ones, or null to give up. */
export function retryAt(now: number, attempts: number): number | null {
	const wait = waitsMinutes[attempts - 1];
	return wait === undefined ? null : now + wait * 60_000;
}
