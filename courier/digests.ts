import { newNonces } from '../src/lib/server/access/tokens';
import { groupBy } from '../src/lib/core/group-by';
import { rowSet } from '../src/lib/server/db/many';
import type { DeliveryRow } from '../src/lib/server/db/models/delivery';
import type { Query } from '../src/lib/server/db/open';
import type { Claimed } from './claim';

/** Letters that one digest holds at most, and octets of files and pictures in it: what is beyond comes in another. Mailboxes take letters of 10 MB (common practice), in which a file takes a third more room than on the disk. */
const most = { letters: 30, octets: 7_000_000 } as const;

const digestSet = rowSet('$rows', ['n', 'person_id', 'address', 'nonce', 'copies']);

interface Waiting extends Pick<DeliveryRow, 'id' | 'personId' | 'address'> {
	readonly octets: number;
}

/** Copies for one mailbox, in their order, as the letters that they go in. */
function lettersOf(copies: readonly Waiting[]): Waiting[][] {
	const letters: Waiting[][] = [];
	let octets = 0;
	for (const copy of copies) {
		const last = letters.at(-1);
		octets += copy.octets;
		if (last && last.length < most.letters && octets <= most.octets) last.push(copy);
		else {
			letters.push([copy]);
			octets = copy.octets;
		}
	}
	return letters;
}

/**
 * Of copies that are to be claimed, and are `due` by a condition of `delivery`: puts those for one reader's daily digest
 * into one letter, with all others that are due there, and takes along what was in a letter with one that is tried
 * again. The same letter stays the same at each try, so that a mailbox can tell a repeat; one that is alone in its
 * digest is no digest. Returns all that is to be claimed; in the transaction of the claim.
 */
export async function putTogether(
	tx: Query,
	ids: readonly number[],
	due: { readonly sql: string; readonly bind: Readonly<Record<string, string | number>> }
): Promise<number[]> {
	const bind = { ...due.bind, ids: JSON.stringify(ids) };
	const mine = `SELECT value FROM json_each($ids)`;
	const again = await tx.all<{ id: number }>(
		`SELECT id FROM delivery WHERE digest_id IN (SELECT digest_id FROM delivery
			WHERE id IN (${mine}) AND digest_id IS NOT NULL) AND ${due.sql}`,
		bind
	);
	const fresh = 'in_digest = 1 AND digest_id IS NULL AND attempts = 0';
	const waiting = await tx.all<Waiting>(
		`SELECT id, person_id AS personId, address,
			(SELECT coalesce(sum(bytes), 0) FROM dispatch_file JOIN file ON file.id = file_id
				WHERE dispatch_file.dispatch_id = delivery.dispatch_id) AS octets
		FROM (SELECT DISTINCT person_id AS reader, address AS mailbox FROM delivery WHERE id IN (${mine}) AND ${fresh})
		-- From the readers on: of what is due there may be a whole district.
		CROSS JOIN delivery ON person_id = reader AND address = mailbox
		WHERE ${fresh} AND ${due.sql} ORDER BY due_at, id`,
		bind
	);
	const byMailbox = groupBy(waiting, (copy) => `${copy.personId} ${copy.address}`);
	const together = [...byMailbox.values()].flatMap(lettersOf).filter((copies) => copies.length > 1);
	await putDigests(tx, together, due.bind.time as number);
	return [...new Set([...ids, ...again.map((c) => c.id), ...waiting.map((c) => c.id)])];
}

/** Puts down a letter for each list of copies, at an instant (ms). */
async function putDigests(
	tx: Query,
	letters: readonly (readonly Waiting[])[],
	at: number
): Promise<void> {
	if (letters.length === 0) return;
	// No number is used twice, also not of rows that are not there any more.
	const { first } = (await tx.one<{ first: number }>(
		`SELECT 1 + coalesce((SELECT seq FROM sqlite_sequence WHERE name = 'digest'), 0) AS first`
	))!;
	const nonces = newNonces(letters.length);
	const rows = digestSet.json(
		letters.map((copies, n) => ({
			...{ n, person_id: copies[0]!.personId, address: copies[0]!.address, nonce: nonces[n]! },
			copies: JSON.stringify(copies.map((c) => c.id))
		}))
	);
	await tx.run(
		`INSERT INTO digest (id, person_id, address, at, nonce)
		SELECT $first + n, person_id, address, $at, nonce FROM ${digestSet.table}`,
		{ rows, first, at }
	);
	await tx.run(
		`UPDATE delivery SET digest_id = $first + n FROM ${digestSet.table} AS new, json_each(new.copies) AS copy
		WHERE delivery.id = copy.value`,
		{ rows, first }
	);
}

/** Copies that are handed over as one: those of one digest, or one alone. */
export type Handover = readonly [Claimed, ...Claimed[]];

/** Claimed copies as they are handed over, in their order. */
export function handovers(copies: readonly Claimed[]): Handover[] {
	const byDigest = new Map<number, [Claimed, ...Claimed[]]>();
	return copies.flatMap((copy): Handover[] => {
		const before = copy.digest && byDigest.get(copy.digest.id);
		if (before) {
			before.push(copy);
			return [];
		}
		const own: [Claimed, ...Claimed[]] = [copy];
		if (copy.digest) byDigest.set(copy.digest.id, own);
		return [own];
	});
}
