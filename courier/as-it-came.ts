import { rowSet } from '../src/lib/server/db/many';
import type { Deed } from '../src/lib/server/db/at-once';

/** So much of what came back is kept for each copy. */
const mostKept = 20;

const cameKeys = ['deliveryId', 'at', 'code', 'words', 'machine'] as const;
const cameSet = rowSet('$came', cameKeys);
/** What came back about a copy, as it came. */
export type Came = Readonly<Record<(typeof cameKeys)[number], string | number>>;

/** Keeps what came back as it came, for whoever wants to read it: the same is kept once. */
export const asItCame = (came: readonly Came[]): Deed[] =>
	came.length === 0
		? []
		: [
				{
					sql: `INSERT INTO returned_mail (delivery_id, at, code, words, machine)
		SELECT deliveryId, at, code, words, machine FROM
			(SELECT *, row_number() OVER (PARTITION BY deliveryId ORDER BY at) AS nth FROM
				(SELECT deliveryId, min(at) AS at, code, words, machine FROM ${cameSet.table}
				GROUP BY deliveryId, words, machine) AS new
			WHERE NOT EXISTS (SELECT 1 FROM returned_mail AS same
				WHERE same.delivery_id = new.deliveryId AND same.words = new.words AND same.machine = new.machine))
		WHERE nth + (SELECT count(*) FROM returned_mail WHERE delivery_id = deliveryId) <= ${mostKept}`,
					bind: { came: cameSet.json(came) }
				}
			];
