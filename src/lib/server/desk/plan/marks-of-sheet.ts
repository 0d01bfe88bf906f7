import { markersOf } from '../../../core/audience/named';
import { markersNamed } from '../../../core/copy/fields';
import { marksMark } from '../../db/markers';
import type { Query } from '../../db/open';
import type { Sheet } from '../sheet/sheet';

/** What the markers stand at that a sheet asks about or speaks of: where it has changed, the sheet is to be planned anew. */
export const marksOfSheet = (
	db: Query,
	{ audience, wording }: Pick<Sheet, 'audience' | 'wording'>
): Promise<string> =>
	marksMark(db, [...markersOf(audience), ...markersNamed(JSON.stringify(wording))]);
