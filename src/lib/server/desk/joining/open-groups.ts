import { districtDay } from '../../db/district';
import type { Query } from '../../db/open';

/** An open group as whoever joins it knows it. */
export interface OpenGroup {
	readonly id: number;
	readonly name: string;
	readonly schoolId: number | null;
	/** Null where it is not open any more. */
	readonly code: string | null;
	/** Its last day (ISO date); null where it stays open. */
	readonly until: string | null;
	/** Whether nobody comes in any more. */
	readonly over: boolean;
}

type Row = Omit<OpenGroup, 'over'>;
const columns = 'id, name, school_id AS schoolId, code, open_until AS until';

async function known(db: Query, row: Row | undefined): Promise<OpenGroup | null> {
	if (!row) return null;
	const ended = row.until !== null && (await districtDay(db)) > row.until;
	return { ...row, over: row.code === null || ended };
}

/** The open group that has a code, by the code's key; null where there is none. */
export const groupOfCode = async (db: Query, key: string): Promise<OpenGroup | null> =>
	known(
		db,
		await db.one<Row>(`SELECT ${columns} FROM school_group_now WHERE code_key = $key`, { key })
	);

/** A group that somebody was asked into; one that is given up, or closed, is over. */
export const groupJoined = async (db: Query, id: number): Promise<OpenGroup> =>
	(await known(
		db,
		await db.one<Row>(
			`SELECT id, name, school_id AS schoolId, iif(gone_at IS NULL, code, NULL) AS code, open_until AS until
			FROM school_group WHERE id = $id`,
			{ id }
		)
	))!;
