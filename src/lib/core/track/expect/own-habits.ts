import { groupBy } from '../../group-by';
import { seenBeside, type Homes, type Seen } from './home-habits';
import { dayMs, sumsBy, type Habit, type PastCopy, type Weighed } from './past-copy';
import { drawn, drawnMean, inside, type Pull } from './shrink';

/** Ages at which a copy weighs half in what one person does, days. */
const halfLives = [15, 45, 120, 360] as const;
/** How much a person weighs by themselves where there are too few to tell how they differ. */
export const fewPeople: Pull = { share: 4, mean: 4 };

/**
 * The share of what a person reads, by what they did one after another: for each age at which a copy would weigh half, the share it
 * comes to, each by how well it would have foretold every copy from those before it.
 */
function ownShare(
	sequence: readonly PastCopy[],
	expected: number,
	strength: number,
	now: number
): number {
	const ages = halfLives.map((days) => {
		let [of, read, well, at] = [0, 0, 0, sequence[0]!.leftAt];
		for (const { leftAt, minutes } of sequence) {
			const fade = 2 ** (-(leftAt - at) / (days * dayMs));
			of *= fade;
			read *= fade;
			at = leftAt;
			const p = inside(drawn({ of, count: read, expected }, strength));
			well += Math.log(minutes === null ? 1 - p : p);
			of += 1;
			read += minutes === null ? 0 : 1;
		}
		const fade = 2 ** (-Math.max(0, now - at) / (days * dayMs));
		return { well, share: drawn({ of: of * fade, count: read * fade, expected }, strength) };
	});
	const best = Math.max(...ages.map((a) => a.well));
	const weights = ages.map((a) => Math.exp(a.well - best));
	const all = weights.reduce((sum, w) => sum + w, 0);
	return ages.reduce((sum, a, i) => sum + (a.share * weights[i]!) / all, 0);
}

/** What is seen of each person who has had copies, beside what is to be expected by those they live with. */
export const seenOfPeople = (
	copies: readonly Weighed[],
	homes: Homes,
	pull: Pull
): Map<number, Seen> =>
	new Map(
		[...sumsBy(copies, (c) => c.personId)].map(([id, sums]) => [
			id,
			seenBeside(sums, homes.expectedOf(id, pull, sums))
		])
	);

/** What one person does by one way. */
export interface OwnHabit extends Habit {
	/** How many copies the share is worth: theirs by their weight, and what they are drawn to. */
	readonly weight: number;
	/** Copies that are old enough to tell, and how many of them were read. */
	readonly copies: number;
	readonly read: number;
}

/** What each person does, drawn to what is to be expected of them. */
export function ownHabits(
	copies: readonly Weighed[],
	people: ReadonlyMap<number, Seen>,
	pull: Pull,
	now: number
): Map<number, OwnHabit> {
	const sequences = groupBy(copies, (c) => c.personId);
	return new Map(
		[...people].map(([id, { share, mean }]) => {
			const sequence = sequences.get(id)!.sort((a, b) => a.leftAt - b.leftAt);
			return [
				id,
				{
					share: inside(ownShare(sequence, share.expected, pull.share, now)),
					middle: drawnMean(mean, pull.mean),
					weight: pull.share + share.of,
					copies: sequence.length,
					read: sequence.filter((c) => c.minutes !== null).length
				}
			];
		})
	);
}

/** How far the logarithms of minutes spread around each one’s own middle. */
export function spreadAround(
	copies: readonly Weighed[],
	habits: ReadonlyMap<number, Habit>,
	variance: number
): number {
	let [of, squares] = [0, 0];
	for (const { personId, weight, log } of copies) {
		if (log === null) continue;
		of += weight;
		squares += weight * (log - habits.get(personId)!.middle) ** 2;
	}
	return Math.sqrt(Math.max(0.05, of > 0 ? squares / of : variance));
}
