import type { Way } from '../../../core/roster/way';
import type { DispatchRow } from '../../db/models/dispatch';
import { newestEvent } from '../../db/newest-event';
import type { Db, Query } from '../../db/open';
import { countedBy, spokenOf } from '../track/coverage';
import { deliveryLines } from '../track/delivery-lines';
import { copyFigures } from './copies';
import { coverageFigures, sectionsChanged } from './covered';
import type { ReachChange, ReachedDispatch, ReachNews } from './types';

/** Of more events than this nobody is told one by one: the page is asked for again. */
const mostEvents = 20_000;
/** Copies whose lines are said. */
const mostLines = 20;

/** The copies that events were about between two of their numbers, and whether one of them was an answer. */
const touchedBetween = (
	db: Query,
	bind: { readonly id: number; readonly since: number; readonly event: number }
): Promise<{ id: number; answered: 0 | 1 }[]> =>
	db.all(
		`SELECT delivery.id, max(event.kind = 'answered') AS answered FROM event CROSS JOIN delivery ON delivery.id = delivery_id
		WHERE event.id > $since AND event.id <= $event AND dispatch_id = $id GROUP BY delivery.id`,
		bind
	);

/** What has changed of a dispatch since an event, once for all who look at it. Who may see it is for whoever asks. */
export async function reachNews(db: Db, id: number, since: number): Promise<ReachNews> {
	const row = await db.one<Pick<DispatchRow, 'ways'> & Pick<ReachedDispatch, 'state'>>(
		`SELECT state, ways FROM dispatch WHERE id = $id AND state != 'draft'`,
		{ id }
	);
	// Asked first: all that has come to this dispatch up to there is counted below.
	const event = await newestEvent(db);
	// Fewer than before: the database was put back.
	if (!row || event - since > mostEvents || event < since) return { is: 'anew', event };
	const news = await touchedBetween(db, { id, since, event });
	if (news.length === 0) return { is: 'nothing' };
	const touched = news.map((n) => n.id);
	const counted = (await countedBy(db, [id])).get(id)!;
	const { plan, coverage } = counted;
	// At once, while they are of the same moment as the coverage.
	const copies = await copyFigures(db, id, counted, JSON.parse(row.ways) as Way[]);
	const students = await spokenOf(db, counted, touched);
	const change: ReachChange = {
		...{ asOf: { plan, event }, since, state: row.state },
		answered: news.some((n) => n.answered === 1),
		coverage: await coverageFigures(db, id, { coverage, firstLeft: copies.firstLeft }),
		sections: await sectionsChanged(db, id, coverage, students),
		...{ copies, touched },
		lines: touched.length > mostLines ? [] : await deliveryLines(db, touched)
	};
	return { is: 'change', event, change };
}
