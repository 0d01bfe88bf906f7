import { person } from '../../db/models/roster';
import type { Query } from '../../db/open';

/** The language somebody reads, BCP 47. */
export const languageOfReader = async (db: Query, personId: number): Promise<string> =>
	(await db.rows(person).one({ id: personId }, ['language']))?.language ?? 'en';
