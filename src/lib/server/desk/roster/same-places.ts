import type { Change } from '../../../core/roster/difference';
import type { Query } from '../../db/open';
import type { Known } from './known';

/** Schools and terms that a file names and that are here already under the same name, from another source or by hand: they are the same. */
export async function findSamePlaces(
	db: Query,
	changes: readonly Change[],
	known: Known
): Promise<void> {
	for (const kind of ['school', 'term'] as const) {
		const fresh = changes.filter(
			(c) => c.kind === kind && c.before === null && known.idOf(kind, c.key) === undefined
		);
		if (fresh.length === 0) continue;
		const rows = await db.all<{ id: number; name: string }>(
			`SELECT id, lower(${kind === 'term' ? `name || ' ' || starts_on` : 'name'}) AS name FROM ${kind}`
		);
		for (const { key, after } of fresh) {
			const name = kind === 'term' ? `${after!.name} ${after!.startsOn}` : String(after!.name);
			const same = rows.filter((r) => r.name === name.toLowerCase());
			if (same.length === 1 && !known.has(kind, same[0]!.id)) known.bind(kind, key, same[0]!.id);
		}
	}
}
