import { districtDay } from '../../db/district';
import { now } from '../../clock';
import type { Db } from '../../db/open';
import { putActs } from './act';

/** So many at once: a term that ends has thousands. */
const atOnce = 500;

/**
 * Settles conversations whose term has ended: of a section its own, of others the last that ran when they were
 * begun. Nothing of them is lost; each can be let wait again. How many.
 */
export async function settleEnded(db: Db): Promise<number> {
	const today = await districtDay(db);
	return db.write(async (tx) => {
		const at = Math.round(await now(tx));
		const rows = await tx.all<{ id: number }>(
			`SELECT conversation.id FROM conversation LEFT JOIN section ON section.id = section_id
			LEFT JOIN dispatch ON dispatch.id = dispatch_id
			WHERE conversation.state IN ('waiting', 'aside') AND coalesce(
				(SELECT ends_on FROM term WHERE term.id = section.term_id),
				(SELECT max(ends_on) FROM term WHERE starts_on <= date(coalesce(leaves_at, last_at) / 1000, 'unixepoch')
					AND ends_on >= date(coalesce(leaves_at, last_at) / 1000, 'unixepoch'))) < $today
				-- What came after the end is answered by somebody.
				AND last_at < $day ORDER BY conversation.id LIMIT ${atOnce}`,
			{ today, day: at - 86_400_000 }
		);
		const ids = rows.map((r) => r.id);
		if (ids.length === 0) return 0;
		await tx.run(
			`UPDATE conversation SET state = 'settled', state_at = $at, aside_until = NULL, since = NULL, alike = NULL
			WHERE id IN (SELECT value FROM json_each($ids))`,
			{ at, ids: JSON.stringify(ids) }
		);
		await putActs(tx, ids, 'term-ended', null, at);
		return ids.length;
	});
}
