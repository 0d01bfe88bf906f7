import type { JoinNoteKind, JoiningRow } from '../../db/models/joining';
import { autoNote } from '../../db/models/talk';
import type { Query } from '../../db/open';

const dayMs = 86_400_000;
const hourMs = 3_600_000;

/**
 * What one address is sent in a day, over all groups: whoever types a stranger's address does not fill their phone
 * (common practice). Of each kind for itself: what strangers ask on our page leaves the phone's own code its answer.
 */
const ofAddress = { kind: 5, all: 12 } as const;
/** What one group has asked in an hour: a hall full of people, and no more. */
const ofGroup = 1_000;

/** Whether a group may ask anybody else within this hour. */
export async function mayAskMore(tx: Query, groupId: number, at: number): Promise<boolean> {
	const row = await tx.one<{ n: number }>(
		`SELECT count(*) AS n FROM auto_note JOIN joining ON joining.id = joining_id
		WHERE group_id = $groupId AND made_at > $since AND kind != 'invite'`,
		{ groupId, since: at - hourMs }
	);
	return row!.n < ofGroup;
}

/** Puts down what is to be said to whoever joins, in the caller's transaction; false where they have been told enough today. */
export async function say(
	tx: Query,
	{
		id,
		groupId,
		addressKey,
		way,
		address,
		language
	}: Pick<JoiningRow, 'id' | 'groupId' | 'addressKey' | 'way' | 'address' | 'language'>,
	kind: JoinNoteKind,
	at: number,
	answers: string | null = null
): Promise<boolean> {
	const told = (await tx.one<{ n: number; same: number }>(
		`SELECT count(*) AS n, coalesce(sum(kind = $kind), 0) AS same
		FROM auto_note JOIN joining ON joining.id = joining_id
		WHERE address_key = $addressKey AND made_at > $since`,
		{ addressKey, since: at - dayMs, kind }
	))!;
	const wished = kind === 'welcome' || kind === 'invite';
	if (told.n >= ofAddress.all || (!wished && told.same >= ofAddress.kind)) return false;
	if (!wished && !(await mayAskMore(tx, groupId, at))) return false;
	await tx.rows(autoNote).add({
		...{ joiningId: id, kind, way, address, language },
		...{ madeAt: at, dueAt: at, state: 'waiting', answers }
	});
	return true;
}
