import type { Way } from '../roster/way';
import type { Handling } from './handling';

/** A copy while others may still be merged into it. */
export interface OpenCopy {
	readonly personId: number;
	readonly way: Way;
	readonly address: string | null;
	studentIds: readonly number[];
	alsoFor: number[];
	step: number;
	overWish: boolean;
}

/** A copy as one person would have it, before it is known who else reads at the same address. */
interface Wanted extends Pick<
	OpenCopy,
	'personId' | 'way' | 'address' | 'studentIds' | 'step' | 'overWish'
> {
	/** What is the same for all who read at this address; null for the inbox. */
	readonly key: string | null;
}

/** Most copies are read by one person: they share this one empty list. */
const nobody: number[] = [];

/** What is merged has the same key: by address, and by student where each has a copy of their own. */
function mergeKey(handling: Handling, { key, studentIds }: Wanted): string | null {
	if (key === null || handling.perPerson) return null;
	return handling.perStudent ? `${key} ${studentIds[0] ?? ''}` : key;
}

/** Puts down copies, one for each address: who reads at an address that has one already is added to it. */
export function mergeCopies(handling: Handling): {
	readonly copies: OpenCopy[];
	put(wanted: Wanted): void;
} {
	const copies: OpenCopy[] = [];
	const atAddress = new Map<string, OpenCopy>();
	return {
		copies,
		put(wanted) {
			const key = mergeKey(handling, wanted);
			const shared = key === null ? undefined : atAddress.get(key);
			if (shared) {
				if (shared.alsoFor.length === 0) shared.alsoFor = [];
				shared.alsoFor.push(wanted.personId);
				shared.overWish ||= wanted.overWish;
				// Whoever has no earlier way is not made to wait for those who share the address.
				shared.step = Math.min(shared.step, wanted.step);
				shared.studentIds = [...new Set([...shared.studentIds, ...wanted.studentIds])];
				return;
			}
			const { personId, way, address, studentIds, step, overWish } = wanted;
			const copy: OpenCopy = {
				personId,
				way,
				address,
				studentIds,
				alsoFor: nobody,
				step,
				overWish
			};
			copies.push(copy);
			if (key !== null) atAddress.set(key, copy);
		}
	};
}
