import { may } from '../../access/may';
import type { User } from '../../access/user';
import type { Query } from '../../db/open';
import type { BoardPlace } from '../../../core/audience/board-place';
import { lineOfPlace, named, placesSeen } from './places';
import { boardFrom, boardUntil } from './posts';
import type { OnBoards } from './types';

/** A board that a dispatch is planned for: a course’s are its sections’. */
const placesOf = (db: Query, id: number): Promise<BoardPlace[]> =>
	db.all<BoardPlace>(
		`SELECT board_place.kind, place_id AS id FROM board_place WHERE dispatch_id = $id AND board_place.kind != 'course'
		UNION SELECT 'section', section.id FROM board_place JOIN section_now AS section
			ON section.course_id = place_id AND section.term_id = board_place.term_id
			WHERE dispatch_id = $id AND board_place.kind = 'course'`,
		{ id }
	);

/** What Reach says of the boards of a dispatch that its viewer may see; null of one that stands on none. */
export async function onBoards(db: Query, user: User, id: number): Promise<OnBoards | null> {
	const places = await named(db, await placesOf(db, id));
	if (places.length === 0) return null;
	const row = (await db.one<{
		from: number;
		until: number | null;
		pinned: 0 | 1 | null;
		senderId: number;
		changedAt: number | null;
		readers: number;
		without: number;
		students: number;
	}>(
		`SELECT ${boardFrom} AS "from", ${boardUntil} AS until, board ->> '$.pinned' AS pinned, sender_id AS senderId,
			(SELECT max(at) FROM board_wording WHERE dispatch_id = $id) AS changedAt,
			(SELECT count(*) FROM board_read WHERE dispatch_id = $id) AS readers,
			(SELECT count(*) FROM board_read WHERE dispatch_id = $id AND person_id NOT IN
				(SELECT person_id FROM delivery WHERE dispatch_id = $id
				UNION SELECT delivery_also.person_id FROM delivery_also JOIN delivery ON delivery.id = delivery_id
					WHERE dispatch_id = $id)) AS without,
			(SELECT count(*) FROM dispatch_student WHERE dispatch_id = $id AND student_id IN
				(SELECT person_id FROM board_read WHERE dispatch_id = $id
				UNION SELECT student_id FROM contact_now JOIN board_read USING (person_id)
					WHERE dispatch_id = $id AND custody AND correspondence)) AS students
		FROM dispatch WHERE id = $id`,
		{ id }
	))!;
	const { senderId, pinned, ...rest } = row;
	const seen = await placesSeen(db, user, places);
	const boards = places.map((place) => {
		const line = lineOfPlace(place);
		return seen.has(line.key) ? line : { ...line, key: '' };
	});
	return { ...rest, boards, pinned: pinned === 1, mine: may(user, 'handle', senderId) };
}
