import { invitationToken } from '../../access/tokens';
import { hasLeft } from '../../db/copy-state';
import type { InvitationLinkRow } from '../../db/models/coming';
import type { Query } from '../../db/open';
import { askedBy } from '../sheet/asked';

/** Somebody who reads boards by a link of theirs, and where their letters lie. */
interface BoardPerson {
	readonly personId: number;
	/** "/f/TOKEN". */
	readonly base: string;
}

/**
 * Where announcements on boards are answered that ask who comes, by their numbers: in the letter of whoever reads them there
 * and has one, else by the link for anybody, where there is one. Nothing of what can be answered no longer.
 */
export async function answeredWhere(
	db: Query,
	key: Buffer,
	dispatches: readonly number[],
	reader: BoardPerson | null
): Promise<Record<number, string>> {
	const ids = JSON.stringify(dispatches);
	const asking = await db.all<{ id: number; own: 0 | 1 } & Pick<InvitationLinkRow, 'nonce'>>(
		`SELECT dispatch.id, coalesce(nonce, '') AS nonce, EXISTS (SELECT 1 FROM delivery WHERE dispatch_id = dispatch.id AND ${hasLeft}
			AND (person_id = $person OR id IN (SELECT delivery_id FROM delivery_also WHERE person_id = $person))) AS own
		FROM dispatch LEFT JOIN invitation_link ON invitation_link.dispatch_id = dispatch.id AND ended_at IS NULL
		WHERE dispatch.id IN (SELECT value FROM json_each($ids)) AND invitation != 'null'`,
		{ ids, person: reader?.personId ?? 0 }
	);
	const where: Record<number, string> = {};
	for (const { id, nonce, own } of asking) {
		const asked = await askedBy(db, id);
		if (!asked?.open) continue;
		if (reader && own === 1) where[id] = `${reader.base}?letter=${id}#coming`;
		else if (nonce !== '' && asked.id === id && asked.asking.anybody)
			where[id] = `/i/${invitationToken(key, { id, nonce })}`;
	}
	return where;
}
