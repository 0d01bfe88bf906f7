import { readDistrict } from '../../db/district';
import { address } from '../../db/models/roster';
import { RateLimiterMemory } from 'rate-limiter-flexible';
import { z } from 'zod';
import { fold } from '../../../core/format/fold';
import { toE164 } from '../../../core/format/phone';
import type { User } from '../../access/user';
import { now } from '../../clock';
import { ownChanged } from '../../db/roster';
import type { Db, Query } from '../../db/open';
import { saidStop } from '../../db/said-stop';
import { textAddressesOf } from '../../db/text-addresses';

export const ownNumberSchema = z.object({ number: z.string().trim().min(1).max(40) });

/** So many numbers an hour may one person try: what is refused tells something of other people's. */
const tries = new RateLimiterMemory({ points: 5, duration: 3600 });

/** Why a number does not become a user's own; null where it may. A person on file twice, as staff and as a guardian, is known by the name. */
async function whyNotOwn(tx: Query, user: User, number: string): Promise<string | null> {
	const addresses = await textAddressesOf(tx, number);
	if ((await saidStop(tx, number)) || addresses.some((a) => a.consent === 'out')) {
		return `${number} asked for no more texts. Send START from it to us first.`;
	}
	const others = addresses.filter(
		(a) => a.personId !== user.personId && fold(a.name) !== fold(user.name)
	);
	return others.length > 0
		? `${number} is on file for somebody else. Use a phone of your own, or ask the school office.`
		: null;
}

/** Puts the number on file to which somebody's own proofs go; whoever puts their own has opted in by it. */
export async function setOwnNumber(
	db: Db,
	user: User,
	typed: string
): Promise<{ ok: true; number: string } | { ok: false; why: string }> {
	const number = toE164(typed, (await readDistrict(db)).country);
	if (number === null) {
		return { ok: false, why: `"${typed}" is no phone number. Write it like (207) 555-0143.` };
	}
	const spent = await tries.consume(user.personId).then(
		() => false,
		() => true
	);
	if (spent) return { ok: false, why: 'Five numbers were tried. Wait an hour, then try again.' };
	const why = await db.write(async (tx) => {
		const refused = await whyNotOwn(tx, user, number);
		if (refused !== null) return refused;
		const mine = { personId: user.personId, way: 'text' } as const;
		await tx.rows(address).remove(mine);
		await tx.rows(address).add({
			...mine,
			value: number,
			consent: 'in',
			consentAt: Math.round(await now(tx)),
			consentHow: 'own'
		});
		await ownChanged(tx, [user.personId]);
		return null;
	});
	return why === null ? { ok: true, number } : { ok: false, why };
}
