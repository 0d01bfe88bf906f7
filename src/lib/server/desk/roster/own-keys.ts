import { createHmac } from 'node:crypto';
import type { Change } from '../../../core/roster/difference';
import type { Query } from '../../db/open';
import { tableOf } from './here';
import { isNumbered, type Known, type NumberedKind } from './known';

/**
 * Keys under which rows leave that no source has named: they say which row of ours it is, signed, so
 * that what goes out and comes in again is known again, and nobody can name a row by guessing.
 */
const sign = (secret: Buffer, kind: NumberedKind, id: number): string =>
	createHmac('sha256', secret).update(`roster:${kind}:${id}`).digest('hex').slice(0, 12);

export const ownKey = (secret: Buffer, kind: NumberedKind, id: number): string =>
	`ic-${kind}-${id}-${sign(secret, kind, id)}`;

/** The row that a key of ours names; null for any other key. */
export function rowOfOwnKey(secret: Buffer, kind: NumberedKind, key: string): number | null {
	const [, named, number, mark] = /^ic-([a-z]+)-(\d{1,15})-([0-9a-f]{12})$/.exec(key) ?? [];
	if (named !== kind || number === undefined) return null;
	const id = Number(number);
	return sign(secret, kind, id) === mark ? id : null;
}

/** Recognises new things that have keys of ours. */
export async function findOwnRows(
	db: Query,
	secret: Buffer,
	changes: readonly Change[],
	known: Known
): Promise<void> {
	const found = new Map<NumberedKind, { readonly key: string; readonly id: number }[]>();
	for (const { kind, key, before } of changes) {
		if (before !== null || !isNumbered(kind) || known.idOf(kind, key) !== undefined) continue;
		// A course is named with the school at which it is taught.
		const id = rowOfOwnKey(secret, kind, kind === 'course' ? key.split('\n')[0]! : key);
		if (id === null) continue;
		const list = found.get(kind);
		if (list) list.push({ key, id });
		else found.set(kind, [{ key, id }]);
	}
	for (const [kind, list] of found) {
		const there = new Set(
			(
				await db.all<{ id: number }>(
					`SELECT id FROM ${tableOf[kind]} WHERE id IN (SELECT value FROM json_each($ids))`,
					{ ids: JSON.stringify(list.map((l) => l.id)) }
				)
			).map((r) => r.id)
		);
		for (const { key, id } of list)
			if (there.has(id) && !known.has(kind, id)) known.bind(kind, key, id);
	}
}
