import { groupBy } from '../../../core/group-by';
import { hastyMs } from '../../../core/track/evidence';
import { now } from '../../clock';
import { hasLeft } from '../../db/copy-state';
import { rowSet } from '../../db/many';
import type { Db, Query } from '../../db/open';
import type { Opened } from '../../access/private-link';
import { record } from '../track/record';
import type { Visitor } from '../track/types';
import { sameVisitMs, signsOfMachines, weakBy } from '../track/visit';
import { copiesOf } from './copies-of';

/** What happened to a letter that is read here, as evidence says it. */
const did = {
	opened: 'letter stood open in the inbox',
	played: 'played the note to its end',
	acknowledged: 'tapped “I have seen this”'
} as const;

/** Something that a person did with a letter. */
export interface LetterHappening {
	readonly opened: Pick<Extract<Opened, { ok: true }>, 'personId' | 'deliveryId'>;
	readonly dispatchId: number;
	readonly kind: keyof typeof did;
	readonly visitor: Visitor;
	readonly at: number;
	/** Where it stood open, in words; in the inbox where nothing is said. */
	readonly stoodOpen?: string;
}

const happenedSet = rowSet('$happened', [
	...(['i', 'personId', 'dispatchId', 'kind', 'at'] as const),
	'hasty'
]);

/**
 * Writes down what people did with their letters. The evidence is put on the inbox copy where there is one, and on the
 * copy whose link led there. Gives, in their order, when each was done first, or null where the person has no such letter.
 * All is judged by what is written down before: of a person and a dispatch one stands in a group.
 */
export async function takeLetters(
	tx: Query,
	happened: readonly LetterHappening[]
): Promise<(number | null)[]> {
	// What a machine may have opened does not keep its reader from being believed later.
	const copies = groupBy(
		await tx.all<{ i: number; id: number; way: string; before: number | null }>(
			`SELECT i, delivery.id, way, (SELECT min(event.at) FROM event
					WHERE event.delivery_id = delivery.id AND event.kind = happened.kind
						AND (event.at > happened.at - ${sameVisitMs}
							OR (event.strength != 'weak' AND event.at > coalesce(left_at, 0) + happened.hasty))) AS before
			FROM ${happenedSet.table} AS happened JOIN delivery ON delivery.id IN (${copiesOf('happened.personId')})
				-- A person has some copies, a dispatch thousands: the plus keeps it from being looked up by.
				AND +delivery.dispatch_id = happened.dispatchId AND ${hasLeft}
			ORDER BY i, way = 'inbox' DESC, delivery.id`,
			{
				happened: happenedSet.json(
					happened.map(({ opened, dispatchId, kind, at }, i) => ({
						...{ i, dispatchId, kind, at, personId: opened.personId },
						hasty: kind === 'opened' ? hastyMs : 0
					}))
				)
			}
		),
		(c) => c.i
	);
	/** Those of a letter's copies that what was done is put on. */
	const touchedBy = ({ opened }: LetterHappening, i: number) => {
		const all = copies.get(i) ?? [];
		const through = all.filter((c) => c.id === opened.deliveryId || c.way === 'inbox');
		return through.length > 0 ? through : all.slice(0, 1);
	};
	const touched = happened.map(touchedBy);
	// Tapping again, or opening again, adds nothing that is not known.
	const fresh = happened.flatMap((h, i) =>
		touched[i]!.filter((c) => c.before === null).map(({ id }) => ({ ...h, deliveryId: id }))
	);
	const signs = await signsOfMachines(
		tx,
		fresh.filter((h) => h.kind !== 'acknowledged')
	);
	await record(
		tx,
		fresh.map((h) => ({
			...{ deliveryId: h.deliveryId, at: h.at, kind: h.kind },
			source: 'inbox',
			detail: (h.kind === 'opened' ? h.stoodOpen : undefined) ?? did[h.kind],
			visitor: h.visitor.key,
			...weakBy(signs.get(h))
		}))
	);
	return happened.map(({ at }, i) =>
		touched[i]!.reduce<number | null>(
			(first, { before }) => Math.min(first ?? at, before ?? at),
			null
		)
	);
}

/**
 * A letter stands open in a person's inbox or on a board, its note was played to its end, or they say that they have seen it.
 * Returns when that was first so, or null where the person has no such letter.
 */
export const letterHappened = (
	db: Db,
	opened: LetterHappening['opened'],
	dispatchId: number,
	kind: LetterHappening['kind'],
	visitor: Visitor,
	stoodOpen?: string
): Promise<{ at: number } | null> =>
	db.write(async (tx) => {
		const at = await now(tx);
		const [first] = await takeLetters(tx, [{ opened, dispatchId, kind, visitor, at, stoodOpen }]);
		return first === null ? null : { at: first! };
	});
