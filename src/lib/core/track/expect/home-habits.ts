import { sumsBy, Sums, type Habit, type Reader, type ReaderOf, type Weighed } from './past-copy';
import { drawn, drawnMean, inside, type Pull, type SeenMean, type SeenShare } from './shrink';

/** How much a home weighs by itself where there are too few to tell how they differ. */
export const fewHomes: Pull = { share: 6, mean: 4 };

/** What was seen of one home or person, beside what is to be expected of it. */
export interface Seen {
	readonly share: SeenShare;
	readonly mean: SeenMean;
}

/** Copies added up, beside a habit that is to be expected of them. */
export const seenBeside = (sums: Sums, expected: Habit): Seen => ({
	share: { of: sums.of, count: sums.read, expected: expected.share },
	mean: { of: sums.read, sum: sums.logs, expected: expected.middle }
});

/** What is seen of homes. */
export class Homes {
	readonly #homes = new Map<number, Seen>();

	constructor(
		copies: readonly Weighed[],
		private readonly readerOf: ReaderOf,
		private readonly groupOf: (reader: Reader) => Habit
	) {
		const readers = new Map<number, Reader>();
		const inHomes = copies.filter((c) => {
			const reader = readerOf(c.personId);
			if (reader.householdId !== null) readers.set(reader.householdId, reader);
			return reader.householdId !== null;
		});
		for (const [home, sums] of sumsBy(inHomes, (c) => readerOf(c.personId).householdId!))
			this.#homes.set(home, seenBeside(sums, groupOf(readers.get(home)!)));
	}

	get all(): readonly Seen[] {
		return [...this.#homes.values()];
	}

	/** Whether anything is known of a person’s home. */
	knows(personId: number): boolean {
		const { householdId } = this.readerOf(personId);
		return householdId !== null && this.#homes.has(householdId);
	}

	/** What is to be expected of a person by those they live with, drawn to their group; what they did themselves (`own`) is left out of it. */
	expectedOf(personId: number, pull: Pull, own = new Sums()): Habit {
		const reader = this.readerOf(personId);
		const home = reader.householdId === null ? undefined : this.#homes.get(reader.householdId);
		if (!home) return this.groupOf(reader);
		const { share, mean } = home;
		const others = {
			share: {
				...share,
				of: Math.max(0, share.of - own.of),
				count: Math.max(0, share.count - own.read)
			},
			mean: { ...mean, of: Math.max(0, mean.of - own.read), sum: mean.sum - own.logs }
		};
		return {
			share: inside(drawn(others.share, pull.share)),
			middle: others.mean.of < 1e-9 ? mean.expected : drawnMean(others.mean, pull.mean)
		};
	}
}
