import type { Query } from '../db/open';
import { hashToken } from './tokens';
import { now } from '../clock';
import { readDistrict } from '../db/district';
import type { DeliveryRow } from '../db/models/delivery';
import type { FamilyLinkRow } from '../db/models/access';

/** Whose inbox a private link opens, and through which copy it was reached. */
export type Opened =
	| {
			readonly ok: true;
			readonly personId: number;
			readonly deliveryId: number | null;
			readonly dispatchId: number | null;
	  }
	| { readonly ok: false; readonly why: 'unknown' | 'ended' };

/** Whether a link was ended by its reader, or with all of a person's by an office. */
const wasEnded = async (
	db: Query,
	hash: string,
	{ personId, dueAt }: { readonly personId: number; readonly dueAt: number }
): Promise<boolean> =>
	(await db.one(
		`SELECT 1 FROM link_end WHERE token_hash = $hash
		UNION ALL SELECT 1 FROM link_end WHERE person_id = $personId AND before_at >= $dueAt`,
		{ hash, personId, dueAt: dueAt === Infinity ? Number.MAX_SAFE_INTEGER : dueAt }
	)) !== undefined;

/** Looks a private link up. A link in a copy ends some time after the copy left; a person's own link has its own end. */
export async function openLink(db: Query, token: string): Promise<Opened> {
	const hash = hashToken(token);
	const time = await now(db);
	const copy = await db.one<
		Pick<DeliveryRow, 'id' | 'personId' | 'dispatchId' | 'dueAt' | 'state'>
	>(
		`SELECT id, person_id AS personId, dispatch_id AS dispatchId, due_at AS dueAt, state
		FROM delivery WHERE link_hash = $hash`,
		{ hash }
	);
	if (copy) {
		const { linkDays } = await readDistrict(db);
		if (time > copy.dueAt + linkDays * 86_400_000 || (await wasEnded(db, hash, copy)))
			return { ok: false, why: 'ended' };
		return { ok: true, personId: copy.personId, deliveryId: copy.id, dispatchId: copy.dispatchId };
	}
	const own = await db.one<Pick<FamilyLinkRow, 'personId' | 'endsAt'>>(
		'SELECT person_id AS personId, ends_at AS endsAt FROM family_link WHERE token_hash = $hash',
		{ hash }
	);
	if (!own) return { ok: false, why: 'unknown' };
	if (time >= own.endsAt || (await wasEnded(db, hash, { ...own, dueAt: Infinity })))
		return { ok: false, why: 'ended' };
	return { ok: true, personId: own.personId, deliveryId: null, dispatchId: null };
}
