import type { Source } from '../../../core/track/evidence';
import type { Query } from '../../db/open';
import { record } from '../track/record';
import type { Standing } from './types';

/** What was said to an invitation, as evidence on the copy that it answers. */
export const saidOnCopy = (
	tx: Query,
	deliveryId: number,
	{ comes }: Pick<Standing, 'comes'>,
	by: { readonly at: number; readonly source: Source; readonly visitor?: string }
): Promise<void> =>
	record(tx, [
		{
			...{ deliveryId, kind: 'answered', ...by },
			detail: comes ? 'said that they come' : 'said that they do not come'
		}
	]);
