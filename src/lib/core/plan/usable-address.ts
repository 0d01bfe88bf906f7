import type { Reason } from '../audience/reasons';
import type { Roster } from '../roster/roster';
import type { DispatchKind } from '../roster/types';
import type { Way } from '../roster/way';
import type { Handling } from './handling';

/** The address to write to and what is the same for all who read there (both null for the inbox), or why there is none. */
type Usable =
	{ address: string | null; key: string | null; overWish?: boolean } | { reason: Reason };

/**
 * The one address a way would use for a person, or the reason there is none. Of several addresses
 * the first that works is taken. For text, consent is asked for each number (opt in); for email
 * only a "no" counts. A person's own choices for a kind of message hold for email and inbox; what is
 * urgent passes over these, and over nothing else.
 */
export function usableAddress(
	roster: Roster,
	personId: number,
	way: Way,
	kind: DispatchKind = 'message',
	urgent = false
): Usable {
	if (way === 'inbox') {
		if (!roster.person(personId)?.hasInbox) return { reason: { code: 'no-inbox' } };
		if (!roster.declines(personId, kind, way)) return { address: null, key: null };
		return urgent
			? { address: null, key: null, overWish: true }
			: { reason: { code: 'declined', way, kind } };
	}
	let first: Reason | null = null;
	let any = false;
	for (const address of roster.addressesOf(personId)) {
		if (address.way !== way) continue;
		any = true;
		const allowed = way === 'text' ? address.consent === 'in' : address.consent !== 'out';
		if (allowed && address.failing === null) {
			const declined = way === 'email' && roster.declines(personId, kind, way);
			if (declined && !urgent) return { reason: { code: 'declined', way, kind } };
			return {
				address: address.usable,
				key: address.key,
				...(declined ? { overWish: true } : {})
			};
		}
		// What stands nearest to working is said: a number that fails before one that never opted in.
		if (allowed) first ??= { code: 'address-failing', way, why: address.failing! };
	}
	if (first) return { reason: first };
	if (!any) return { reason: { code: way === 'email' ? 'no-email' : 'no-number' } };
	const refused = roster.addressesOf(personId).some((a) => a.way === way && a.consent === 'out');
	return { reason: refused ? { code: 'opted-out', way } : { code: 'not-opted-in' } };
}

/** {@link usableAddress} for every way of one person. */
export type UsableByWay = Readonly<Record<Way, Usable>>;

/** What was found for each person of a roster, by kind of message. A roster never changes, so neither does this; a tally asks for the same people at every pick. */
const found = new WeakMap<Roster, Map<string, Map<number, UsableByWay>>>();

/** {@link usableAddress} for every way, looked up once for each person of a roster. */
export function usableBy(
	roster: Roster,
	{ kind, urgent }: Pick<Handling, 'kind' | 'urgent'>
): (personId: number) => UsableByWay {
	let kinds = found.get(roster);
	if (!kinds) found.set(roster, (kinds = new Map()));
	const key = `${kind} ${urgent}`;
	let people = kinds.get(key);
	if (!people) kinds.set(key, (people = new Map()));
	const known = people;
	return (personId) => {
		let usable = known.get(personId);
		if (!usable) {
			usable = {
				email: usableAddress(roster, personId, 'email', kind, urgent),
				text: usableAddress(roster, personId, 'text', kind, urgent),
				inbox: usableAddress(roster, personId, 'inbox', kind, urgent)
			};
			known.set(personId, usable);
		}
		return usable;
	};
}
