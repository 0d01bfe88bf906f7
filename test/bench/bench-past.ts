import { dispatch } from '../../src/lib/server/db/models/dispatch';
import type { Db } from '../../src/lib/server/db/open';
import type { User } from '../../src/lib/server/access/user';

const day = 86_400_000;

/**
 * Puts dispatches to all guardians by every way of theirs, as the courier would have left them, the last five days before
 * `time` (instant, ms) and one each two days before it; two of three copies are read, at some minute of the next day.
 */
export async function putPast(db: Db, user: User, dispatches: number, time: number): Promise<void> {
	for (let i = 0; i < dispatches; i += 1) {
		const leftAt = time - (dispatches - i) * 2 * day - 3 * day;
		const id = await db.rows(dispatch).add({
			...{ sheetKey: `past ${i}`, subject: 'Past', body: '', audience: '{}', audienceWords: '' },
			...{ ways: '["email","text","inbox"]', holdMinutes: 0, senderId: user.personId },
			...{ state: 'sent' as const, changedAt: leftAt, leavesAt: leftAt, sentAt: leftAt }
		});
		await db.run(
			`WITH copy(person_id, way) AS (
				SELECT DISTINCT person_id, 'inbox' FROM contact JOIN person ON person.id = person_id WHERE guardian AND has_inbox
				UNION SELECT DISTINCT contact.person_id, way FROM contact JOIN address USING (person_id) WHERE guardian)
			INSERT INTO delivery (dispatch_id, person_id, way, state, state_at, due_at, left_at, read_at, strength)
			SELECT $id, person_id, way, iif(seen, 'read', 'delivered'), $at, $at, $at,
				iif(seen, $at + 60000 * (5 + (person_id * 31 + $i * 17) % 1400), NULL), iif(seen, 'fair', 'none')
			FROM (SELECT *, (person_id * 7 + $i * 13 + length(way)) % 3 > 0 AS seen FROM copy)`,
			{ id, at: Math.round(leftAt), i }
		);
		await db.run(
			`INSERT INTO delivery_student (delivery_id, student_id) SELECT delivery.id, student_id FROM delivery
			JOIN contact USING (person_id) WHERE dispatch_id = $id AND guardian`,
			{ id }
		);
		await db.run(
			`INSERT INTO dispatch_student (dispatch_id, student_id) SELECT DISTINCT $id, student_id FROM contact WHERE guardian`,
			{ id }
		);
	}
	await db.run('ANALYZE');
}
