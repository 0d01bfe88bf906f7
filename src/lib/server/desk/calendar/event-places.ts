import { staffSchools } from '../../access/allowed';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { readDistrict } from '../../db/district';
import type { Db } from '../../db/open';
import { localOf } from '../../../core/time/local';
import type { SchoolRow, SectionRow } from '../../db/models/roster';

export interface EventPlaces {
	readonly schools: readonly { readonly id: number; readonly name: string }[];
	readonly sections: readonly { readonly id: number; readonly name: string }[];
}

/** The schools and the sections of present terms that a user may make an event for. */
export async function eventPlaces(db: Db, user: User): Promise<EventPlaces> {
	const { zone } = await readDistrict(db);
	const today = localOf(await now(db), zone).slice(0, 10);
	const condition = scope(user).sections;
	const own = staffSchools(user);
	return {
		schools: await db.all<Pick<SchoolRow, 'id' | 'name'>>(
			`SELECT id, name FROM school WHERE $all = 1 OR id IN (SELECT value FROM json_each($own)) ORDER BY id`,
			{ all: own === null ? 1 : 0, own: JSON.stringify(own ?? []) }
		),
		sections: await db.all<Pick<SectionRow, 'id' | 'name'>>(
			`SELECT section.id, section.name FROM section_now AS section JOIN course ON course.id = course_id
			JOIN term ON term.id = term_id WHERE ends_on > $today AND ${condition.sql} ORDER BY section.name LIMIT 500`,
			{ today, ...condition.bind }
		)
	};
}
