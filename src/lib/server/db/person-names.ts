import { plainName, type IsName } from '../../core/copy/without-names';
import type { Query } from './open';
import { remembering } from './remember';
import { peopleVersion } from './roster';

const kept = remembering<IsName>(1);

/** Whether a name is that of somebody on file, whoever they are; read again when people have changed. */
export const namesOnFile = async (db: Query): Promise<IsName> =>
	kept.get(db, String(await peopleVersion(db)), async () => {
		const rows = await db.all<{ name: string }>(
			`SELECT DISTINCT given_name || ' ' || family_name AS name FROM person`
		);
		const names = new Set(rows.map((r) => plainName(r.name)));
		return (name) => names.has(name);
	});
