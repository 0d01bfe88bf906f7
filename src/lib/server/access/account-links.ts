import { accountLink } from '../db/models/access';
import type { Query } from '../db/open';
import { accountToken, sameSecret } from './tokens';

/** A day, counted in the machine's time (ms). */
const linkMs = 86_400_000;

/** What a link to set a password opens. */
export interface AccountLink {
	readonly id: number;
	readonly personId: number;
	readonly kind: 'invite' | 'reset';
}

/** Makes a link by which somebody sets a password; one of before is good no more. Its number: the token is made when the letter leaves. */
export async function makeAccountLink(
	tx: Query,
	{
		personId,
		kind,
		madeBy
	}: {
		readonly personId: number;
		readonly kind: 'invite' | 'reset';
		readonly madeBy: number | null;
	}
): Promise<number> {
	const time = Date.now();
	await endAccountLinks(tx, personId);
	return tx.rows(accountLink).add({ personId, kind, madeBy, madeAt: time, endsAt: time + linkMs });
}

/** Ends whatever links somebody has to set a password. */
export const endAccountLinks = (tx: Query, personId: number): Promise<void> =>
	tx.run(
		'UPDATE account_link SET ends_at = $time WHERE person_id = $personId AND used_at IS NULL AND ends_at > $time',
		{ personId, time: Date.now() }
	);

/** What a token opens, or why it opens nothing. */
export async function openAccountLink(
	db: Query,
	key: Buffer,
	token: string
): Promise<
	({ readonly ok: true } & AccountLink) | { readonly ok: false; readonly ended: boolean }
> {
	const id = Number(/^(\d{1,15})-/.exec(token)?.[1] ?? 0);
	const row = id > 0 ? await db.rows(accountLink).one({ id }) : undefined;
	if (!row || !sameSecret(accountToken(key, row), token)) return { ok: false, ended: false };
	if (row.usedAt !== null || row.endsAt <= Date.now()) return { ok: false, ended: true };
	return { ok: true, id, personId: row.personId, kind: row.kind };
}

/** Uses a link up; false where somebody else was first. */
export async function useAccountLink(tx: Query, id: number): Promise<boolean> {
	const row = await tx.rows(accountLink).one({ id });
	if (!row || row.usedAt !== null || row.endsAt <= Date.now()) return false;
	await tx.rows(accountLink).change({ id }, { usedAt: Date.now() });
	return true;
}
