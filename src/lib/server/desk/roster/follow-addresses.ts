import { keptNumber } from '../../../core/format/phone';
import type { WayOut } from '../../../core/roster/way';
import { free } from '../../db/copy-state';
import type { Query } from '../../db/open';
import { stopPending } from '../track/stop-pending';
import { addressMoved } from './waiting-copies';
import type { AnyRow } from './row-tables';
import type { Work } from './work';

/** An address that somebody has no longer, and what they have in its place. */
interface Moved {
	readonly personId: number;
	readonly way: WayOut;
	readonly from: string;
	readonly to: string | null;
}

/** As it stands on a copy, whatever it is written like on file. */
const onCopy = (way: WayOut, value: string): string =>
	(way === 'text' ? (keptNumber(value) ?? value) : value).toLowerCase();

const mark = (personId: number, way: WayOut, address: string): string =>
	`${personId} ${way} ${address.toLowerCase()}`;

const valueOf = (row: AnyRow) => ({
	personId: row.person_id as number,
	way: row.way as WayOut,
	from: row.value as string
});

/** A copy that waits, and whose dispatch is not planned anew any more. */
const settledCopy = `${free} AND address IS NOT NULL
	AND dispatch_id IN (SELECT id FROM dispatch WHERE settled = 1)`;

/** The addresses that some work takes off people's files, or changes. Of rows that are taken back no more is known than their numbers. */
const movedBy = async (tx: Query, { address }: Pick<Work, 'address'>): Promise<Moved[]> => [
	...address.change
		.filter(
			({ before, after }) => before.person_id === after.person_id && before.value !== after.value
		)
		.map(({ before, after }) => ({ ...valueOf(before), to: after.value as string })),
	...address.take.flatMap((row) => (row.value === undefined ? [] : { ...valueOf(row), to: null })),
	...(
		await tx.all<Omit<Moved, 'to'>>(
			`SELECT person_id AS personId, way, value AS "from" FROM address WHERE id IN (SELECT value FROM json_each($ids))`,
			{
				ids: JSON.stringify(address.take.flatMap((row) => (row.value === undefined ? row.id! : [])))
			}
		)
	).map((row) => ({ ...row, to: null }))
];

/**
 * Copies that are settled, and are planned anew by nothing, follow the addresses that a roster file has
 * changed: to the new one, or to whoever else reads at the old one; a number that wants no more texts gets
 * none. In the transaction that changes them, and before rows are taken back. What leaves later is planned anew in any case.
 */
export async function followAddresses(tx: Query, work: Pick<Work, 'address'>): Promise<void> {
	for (const { before, after } of work.address.change)
		if (after.way === 'text' && before.consent !== 'out' && after.consent === 'out')
			await stopPending(
				tx,
				{ way: 'text', address: onCopy('text', after.value as string) },
				'a list says that no more texts are wanted'
			);
	const moved = await movedBy(tx, work);
	if (moved.length === 0) return;
	// Of a district's thousands of addresses few have a copy that waits: they alone are followed.
	const waiting = new Set(
		(
			await tx.all<{ personId: number; way: WayOut; address: string }>(
				`SELECT person_id AS personId, way, address FROM delivery WHERE ${settledCopy}
				UNION SELECT delivery_also.person_id, way, address FROM delivery
					JOIN delivery_also ON delivery_id = delivery.id WHERE ${settledCopy}`
			)
		).map((copy) => mark(copy.personId, copy.way, copy.address))
	);
	for (const one of moved) {
		const { personId, way, from } = one;
		if (waiting.has(mark(personId, way, onCopy(way, from)))) await addressMoved(tx, one);
	}
}
