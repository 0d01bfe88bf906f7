import type { BoardPlace } from '../../../core/audience/board-place';
import type { Posted } from '../../../core/plan/board';
import type { Query } from '../../db/open';

/** An announcement as boards have it, with the places of those asked for that it stands on. */
export interface PostRow extends Posted {
	readonly subject: string;
	/** When its words were last changed there (instant, ms). */
	readonly changedAt: number | null;
	/** Keys of {@link placesJson}, as JSON. */
	readonly places: string;
}

/** When an announcement begins to stand, in SQL: at its own time or when it leaves, and never before its hold is over. */
export const boardFrom = `max(coalesce(board ->> '$.from', leaves_at), min(leaves_at, scheduled_at + hold_minutes * 60000))`;
/** When it leaves the boards. */
export const boardUntil = `coalesce(board ->> '$.until', ends_at)`;

/** Places as a question takes them. */
const placesJson = (places: readonly BoardPlace[]): string =>
	JSON.stringify(places.map(({ kind, id }) => ({ kind, id })));

/** Which dispatches stand on which of `$places`, as `stands`: a section's board has also what stands for its course. */
const standsOn = `asked AS (SELECT value ->> '$.kind' AS kind, value ->> '$.id' AS id FROM json_each($places)),
	stands AS (
		SELECT board_place.dispatch_id, asked.kind, asked.id FROM asked
			JOIN board_place ON board_place.kind = asked.kind AND place_id = asked.id
		UNION SELECT board_place.dispatch_id, asked.kind, asked.id FROM asked
			JOIN section ON asked.kind = 'section' AND section.id = asked.id
			JOIN board_place ON board_place.kind = 'course' AND place_id = section.course_id
				AND board_place.term_id = section.term_id)`;

/** Keys of the places asked for that an announcement stands on, as `boardKey` writes them. */
export const placesOfRow = ({ places }: Pick<PostRow, 'places'>): string[] =>
	(JSON.parse(places) as string[]).map((key) => (key === 'district-0' ? 'district' : key));

/** Everything that stands or will stand on some boards at an instant (ms), the newest first; what has left them is not among it. */
export async function postsOn(
	db: Query,
	places: readonly BoardPlace[],
	time: number
): Promise<PostRow[]> {
	const rows = await db.all<Omit<PostRow, 'pinned'> & { pinned: 0 | 1 | null }>(
		`WITH ${standsOn}
		SELECT dispatch.id, subject, ${boardFrom} AS "from", ${boardUntil} AS until, board ->> '$.pinned' AS pinned,
			(SELECT max(at) FROM board_wording WHERE dispatch_id = dispatch.id) AS changedAt,
			json_group_array(stands.kind || '-' || stands.id) AS places
		FROM stands JOIN dispatch ON dispatch.id = stands.dispatch_id
		WHERE dispatch.state != 'draft' AND coalesce(${boardUntil}, $time + 1) > $time
		GROUP BY dispatch.id ORDER BY 3 DESC, dispatch.id DESC`,
		{ places: placesJson(places), time }
	);
	return rows.map((row) => ({ ...row, pinned: row.pinned === 1 }));
}

/** When something last left some boards, or was to (instant, ms); null where nothing has. */
export const lastLeft = async (
	db: Query,
	places: readonly BoardPlace[],
	time: number
): Promise<number | null> =>
	(await db.one<{ at: number | null }>(
		`WITH ${standsOn} SELECT max(${boardUntil}) AS at FROM stands JOIN dispatch ON dispatch.id = stands.dispatch_id
		WHERE dispatch.state != 'draft' AND ${boardUntil} <= $time`,
		{ places: placesJson(places), time }
	))!.at;
