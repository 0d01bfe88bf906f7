import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import { studentsCsv } from '../roster/students-out';
import { couldHave, markerOf } from './marking';

/** Whoever of a user's students has a marker, and what it says, as CSV in pieces; null where there is no such marker. */
export async function marksCsv(
	{ db, key }: { readonly db: Db; readonly key: Buffer },
	user: User,
	id: number
): Promise<{ readonly name: string; readonly csv: AsyncGenerator<string> } | null> {
	const marker = await markerOf(db, user, id);
	if (!marker) return null;
	const could = couldHave(user, marker);
	const value = `(SELECT value FROM marked WHERE marker_id = $marker AND student_id = person.id)`;
	return {
		name: marker.name,
		csv: studentsCsv(
			db,
			key,
			{ sql: `${could.sql} AND ${value} IS NOT NULL`, bind: { ...could.bind, marker: id } },
			{ title: marker.name, sql: value }
		)
	};
}
