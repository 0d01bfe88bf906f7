import { scope } from '../../access/may';
import type { User } from '../../access/user';
import type { Query } from '../../db/open';
import { erasedName } from './erasing';

/** Somebody whom a user may erase, as the page asks about them. */
export interface ToErase {
	readonly id: number;
	readonly name: string;
	/** They are on the roster: they have to be ended first. */
	readonly here: boolean;
	readonly erased: boolean;
	readonly copies: number;
	readonly answers: number;
}

/** Whom a page asks about before they are erased; null where there is nobody. */
export async function whoToErase(db: Query, user: User, id: number): Promise<ToErase | null> {
	const seen = scope(user).people('person.id', 'look-after');
	const row = await db.one<Omit<ToErase, 'here' | 'erased'> & { here: number }>(
		`SELECT id, trim(given_name || ' ' || family_name) AS name, gone_at IS NULL AS here,
			(SELECT count(*) FROM delivery WHERE person_id = person.id) AS copies,
			(SELECT count(*) FROM answer JOIN conversation ON conversation.id = conversation_id WHERE person_id = person.id) AS answers
		FROM person WHERE person.id = $id AND ${seen.sql}`,
		{ id, ...seen.bind }
	);
	return row ? { ...row, here: row.here === 1, erased: row.name === erasedName } : null;
}
