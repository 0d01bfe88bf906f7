import type { Reason } from '../audience/reasons';
import type { Roster } from '../roster/roster';
import type { Handling } from './handling';
import type { PlannedCopy } from './manifest';
import { usableAddress } from './usable-address';

/** Copies for information, and who could not be given one. */
interface Informed {
	readonly copies: readonly PlannedCopy[];
	readonly notReached: readonly {
		readonly personId: number;
		readonly reasons: readonly Reason[];
	}[];
}

/**
 * One copy for each who is to be informed, by mail if they have it, else to the inbox; whoever is
 * written to anyway gets no second one. Nobody is informed of a dispatch that goes to nobody.
 */
export function informedCopies(
	roster: Roster,
	handling: Handling,
	written: ReadonlySet<number>
): Informed {
	const copies: PlannedCopy[] = [];
	const notReached: { personId: number; reasons: Reason[] }[] = [];
	if (written.size === 0) return { copies, notReached };
	for (const personId of new Set(handling.informed)) {
		if (written.has(personId)) continue;
		const reasons: Reason[] = [];
		const way = (['email', 'inbox'] as const).find((way) => {
			const usable = usableAddress(roster, personId, way, handling.kind);
			if ('reason' in usable) {
				reasons.push(usable.reason);
				return false;
			}
			const { address } = usable;
			copies.push({
				personId,
				way,
				address,
				studentIds: [],
				alsoFor: [],
				step: 0,
				overWish: false
			});
			return true;
		});
		if (!way) notReached.push({ personId, reasons });
	}
	return { copies, notReached };
}
