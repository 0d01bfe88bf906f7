import type { TermRow } from './models/roster';
import type { Query } from './open';

/**
 * The terms that run on a day, in the order in which they began: a semester and the year around it are
 * two. Between terms the one that comes next; after all of them the last.
 */
export async function runningTerms(db: Query, day: string): Promise<number[]> {
	const terms = await db.all<Pick<TermRow, 'id' | 'startsOn' | 'endsOn'>>(
		'SELECT id, starts_on AS startsOn, ends_on AS endsOn FROM term ORDER BY starts_on, ends_on, id'
	);
	const running = terms.filter((t) => t.startsOn <= day && t.endsOn > day);
	const next = running.length > 0 ? running : [terms.find((t) => t.startsOn > day) ?? terms.at(-1)];
	return next.flatMap((t) => (t ? [t.id] : []));
}
