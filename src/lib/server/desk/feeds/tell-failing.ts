import { feed, feedLook } from '../../db/models/feed';
import type { Db } from '../../db/open';
import type { FeedDue } from '../send/feed-dates';
import { putNotices } from '../staff/notices';

/** Dates in a row on which a feed could not be read, at which whoever set it up is written to; one may be a bad hour. */
const tellAfter = 3;

/** Writes to whoever takes words from a feed that it has not been readable for some dates: once each time it begins to fail. */
export async function tellFailing(
	db: Db,
	publicUrl: string,
	{ standingId, madeBy }: Pick<FeedDue, 'standingId' | 'madeBy'>,
	why: string
): Promise<void> {
	await db.write(async (tx) => {
		const own = await tx.rows(feed).one({ standingId });
		if (!own || own.failingSince === null) return;
		const { n } = (await tx.one<{ n: number }>(
			`SELECT count(*) AS n FROM ${feedLook.name} WHERE standing_id = $standingId AND outcome = 'failed' AND at >= $since`,
			{ standingId, since: own.failingSince }
		))!;
		if (n < tellAfter) return;
		const name = own.title === '' ? 'The feed' : `“${own.title}”`;
		await putNotices(tx, [
			{
				...{ key: `feed ${standingId} ${own.failingSince}`, personId: madeBy, kind: 'feed' },
				subject: `${name} could not be read on ${n} dates in a row`,
				text: [
					why,
					'Nothing was sent on them. It is asked again on its next date, and goes on by itself when it can be read.',
					`See it, or end it: ${publicUrl}/week/standing/${standingId}`
				].join('\n\n'),
				...{ dispatchId: null, byMail: true }
			}
		]);
	});
}
