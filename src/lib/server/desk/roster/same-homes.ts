import { groupBy } from '../../../core/group-by';
import type { Change } from '../../../core/roster/difference';
import type { Things } from '../../../core/roster/things';
import { readMany } from '../../db/many';
import type { Query } from '../../db/open';
import type { Known } from './known';

/**
 * Households that a file only guesses at, and that are here already: where everybody in one who is
 * known lives in the same household, it is that one; where they live in several, what is known here is
 * better than the guess, and nothing is made of it. Resolves to the changes without such guesses.
 */
export async function findSameHomes(
	db: Query,
	changes: readonly Change[],
	after: Things,
	known: Known
): Promise<readonly Change[]> {
	const fresh = new Set(
		changes.flatMap((c) =>
			c.kind === 'household' && c.before === null && known.idOf('household', c.key) === undefined
				? [c.key]
				: []
		)
	);
	if (fresh.size === 0) return changes;
	const members = groupBy(
		[...after.householdMember.values()].filter((l) => fresh.has(l.household)),
		(l) => l.household
	);
	const ids = [...members.values()].flat().flatMap((l) => known.idOf('person', l.person) ?? []);
	if (ids.length === 0) return changes;
	const homesOf = groupBy(
		await readMany<readonly [number, number]>(
			db,
			'person_id, household_id',
			`FROM household_member JOIN household_now AS household ON household.id = household_id
			WHERE person_id IN (SELECT value FROM json_each($ids))`,
			([person, home]) => [person as number, home as number],
			{ ids: JSON.stringify(ids) }
		),
		([person]) => person
	);
	const guesses = new Set<string>();
	for (const [key, list] of members) {
		const homes = new Set(
			list
				.flatMap(
					(l) => homesOf.get(known.idOf('person', l.person) ?? -1)?.map(([, home]) => home) ?? []
				)
				// Its own it may part and join as it says.
				.filter((home) => !known.has('household', home))
		);
		const [only] = homes;
		if (only === undefined) continue;
		if (homes.size === 1) known.bind('household', key, only);
		else guesses.add(key);
	}
	if (guesses.size === 0) return changes;
	return changes.filter(
		(c) =>
			!(c.kind === 'household' && guesses.has(c.key)) &&
			!(c.kind === 'householdMember' && guesses.has((c.after ?? c.before)!.household as string))
	);
}
