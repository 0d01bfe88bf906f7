import type { JoiningRow } from '../../db/models/joining';
import type { Bind, Query } from '../../db/open';

/** Who was asked into groups, by a condition on `joining`. */
export const joiningsWhere = (db: Query, where: string, bind: Bind): Promise<JoiningRow[]> =>
	db.all<JoiningRow>(
		`SELECT id, group_id AS groupId, way, address, address_key AS addressKey, how, state, name,
			student_said AS studentSaid, claim_refused AS claimRefused, student_id AS studentId, language,
			asked_at AS askedAt, joined_at AS joinedAt, ended_at AS endedAt, by_id AS byId,
			person_id AS personId, made_person AS madePerson, nonce
		FROM joining WHERE ${where}`,
		bind
	);
