/** Somebody who has said yes to an invitation. */
export interface Party {
	readonly id: number;
	/** The slot they come to. */
	readonly slot: number;
	/** How many come. */
	readonly people: number;
	/** Their turn in line: who has a lower one came first. */
	readonly turn: number;
	/** Whether they have their places, or wait for them. */
	readonly seated: boolean;
}

/** How many places there are: over all, and in each slot; null for as many as come. */
export interface Places {
	readonly overall: number | null;
	readonly slots: ReadonlyMap<number, number | null>;
}

/** Places that are taken, over all and in each slot. */
class Taken {
	#overall = 0;
	readonly #slots = new Map<number, number>();

	constructor(
		parties: readonly Party[],
		private readonly places: Places
	) {
		for (const party of parties) if (party.seated) this.take(party);
	}

	take({ slot, people }: Pick<Party, 'slot' | 'people'>): void {
		this.#overall += people;
		this.#slots.set(slot, (this.#slots.get(slot) ?? 0) + people);
	}

	/** Places left over all. */
	get leftOverall(): number {
		return left(this.places.overall, this.#overall);
	}

	/** Places left in a slot, and over all; none in one that is not there. */
	leftIn(slot: number): number {
		const inSlot = this.places.slots.get(slot);
		return inSlot === undefined
			? 0
			: Math.min(this.leftOverall, left(inSlot, this.#slots.get(slot) ?? 0));
	}
}

const left = (places: number | null, taken: number): number =>
	places === null ? Infinity : Math.max(0, places - taken);

/** Places that nobody has in a slot; Infinity where there are as many as come. Fewer places than are taken already take nobody's away: none are left then. */
export const placesLeft = (parties: readonly Party[], places: Places, slot: number): number =>
	new Taken(parties, places).leftIn(slot);

/** Who waits, first come first. */
const inLine = (parties: readonly Party[]): Party[] =>
	parties.filter((p) => !p.seated).sort((a, b) => a.turn - b.turn || a.id - b.id);

/**
 * Who comes in now, in order. Nobody passes somebody who came before and waits for the same: the first in line of a
 * slot that does not find places keeps that slot's line where it is, and one for whom there are none over all, every
 * line: a large family is not made to wait for ever by small ones.
 */
export function comeIn(parties: readonly Party[], places: Places): readonly number[] {
	const taken = new Taken(parties, places);
	const came: number[] = [];
	const stopped = new Set<number>();
	for (const party of inLine(parties)) {
		if (stopped.has(party.slot)) continue;
		if (taken.leftIn(party.slot) >= party.people) {
			taken.take(party);
			came.push(party.id);
		} else if (taken.leftOverall < party.people) break;
		else stopped.add(party.slot);
	}
	return came;
}

/** How many stand before a party in the line of its slot; 0 for the first, and for whoever has places. */
export const standBefore = (parties: readonly Party[], id: number): number => {
	const party = parties.find((p) => p.id === id);
	return !party || party.seated
		? 0
		: inLine(parties)
				.filter((p) => p.slot === party.slot)
				.findIndex((p) => p.id === id);
};

/** Whether a party that has places can change to another number or slot at once, without passing anybody who waits for it. Fewer in the same slot always can. */
export function canChange(
	parties: readonly Party[],
	places: Places,
	change: Pick<Party, 'id' | 'slot' | 'people'>
): boolean {
	const before = parties.find((p) => p.id === change.id && p.seated);
	if (!before) return false;
	if (before.slot === change.slot && change.people <= before.people) return true;
	const others = parties.filter((p) => p.id !== change.id);
	const competes = inLine(others).some((p) => p.slot === change.slot);
	return !competes && placesLeft(others, places, change.slot) >= change.people;
}
