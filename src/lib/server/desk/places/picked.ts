import { z } from 'zod';
import { resolveAudience } from '../../../core/audience/resolve';
import type { Roster } from '../../../core/roster/roster';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import { permitted } from '../audience/permitted';
import { sheetColumns, sheetOfRow, type SheetRow } from '../sheet/sheet-row';
import type { Place } from './types';

const sheetKeySchema = z.uuid();

/** The students of the audience of a sheet, by the sheet's key: as it is saved, and as the user may see it; null where there is none. */
export async function pickedPlace(
	db: Db,
	user: User,
	roster: Roster,
	key: string
): Promise<Place | null> {
	const sheetKey = sheetKeySchema.safeParse(key.slice('sheet-'.length));
	if (!sheetKey.success) return null;
	const { sql, bind } = scope(user).dispatches;
	const row = await db.one<SheetRow & { subject: string }>(
		`SELECT ${sheetColumns}, subject FROM dispatch WHERE sheet_key = $sheetKey AND ${sql}`,
		{ sheetKey: sheetKey.data, ...bind }
	);
	if (!row) return null;
	const { audience, chases } = sheetOfRow(row);
	const { shown, facts } = await permitted(db, user, audience, chases);
	return {
		key,
		name: row.subject === '' ? 'Whom the sheet is about' : row.subject,
		students: resolveAudience(roster, shown, facts).students
	};
}
