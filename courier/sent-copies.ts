import { groupBy } from '../src/lib/core/group-by';
import type { Addressee } from '../src/lib/server/access/return-address';
import type { Query } from '../src/lib/server/db/open';

/** A copy as far as what came back about it asks. */
export interface SentCopy {
	readonly id: number;
	readonly address: string;
	/** Whether its reader is asked for no answer. */
	readonly oneWay: 0 | 1;
}

const ofDigest = ({ mailbox }: Addressee) => mailbox === 'digest' || mailbox === 'digest-answer';

/** The copies that some of our addresses were made for, of each one or those that went in one letter. */
export async function sentCopies(
	tx: Query,
	addressees: readonly (Addressee | null)[]
): Promise<(addressee: Addressee) => readonly SentCopy[]> {
	const there = addressees.filter((a) => a !== null);
	const read = async (of: string, ids: readonly number[]) =>
		groupBy(
			ids.length === 0
				? []
				: await tx.all<SentCopy & { about: number }>(
						`SELECT ${of} AS about, delivery.id, coalesce(delivery.address, '') AS address,
							kind = 'announcement' AS oneWay
						FROM delivery JOIN dispatch ON dispatch.id = dispatch_id
						WHERE ${of} IN (SELECT value FROM json_each($ids)) ORDER BY delivery.id`,
						{ ids: JSON.stringify(ids) }
					),
			(row) => row.about
		);
	const copies = await read(
		'delivery.id',
		there.filter((a) => a.mailbox === 'return' || a.mailbox === 'answer').map((a) => a.id)
	);
	const digests = await read(
		'digest_id',
		there.filter(ofDigest).map((a) => a.id)
	);
	return (addressee) => (ofDigest(addressee) ? digests : copies).get(addressee.id) ?? [];
}

/** The copy that an answer is taken to be about: the last one that can be answered. Whoever reads it can say that it is about another. */
export const answerAbout = (copies: readonly SentCopy[]): SentCopy | undefined =>
	copies.findLast((c) => c.oneWay === 0) ?? copies.at(-1);
