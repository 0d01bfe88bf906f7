import type { ComingState } from '../../core/audience/audience';
import type { Query } from './open';
import type { HouseholdMemberRow } from './models/roster';

/** In whose name an answer to an invitation is given: a household’s, that of a person who lives in none, or of somebody from outside. */
export interface Party {
	readonly kind: 'household' | 'person' | 'guest';
	readonly id: number;
}

/** The rows of `coming` in which a person has a part, in SQL: those of their households, and their own. `$person` is who. */
const ofPerson = `(household_id IN (SELECT household_id FROM household_member WHERE person_id = $person) OR person_id = $person)`;

/** In whose name a person answers an invitation: as one of theirs has before, else for the household they live in. */
export async function partyOf(db: Query, dispatchId: number, personId: number): Promise<Party> {
	const bind = { dispatch: dispatchId, person: personId };
	const said = await db.one<{ householdId: number | null }>(
		`SELECT household_id AS householdId FROM coming WHERE dispatch_id = $dispatch AND ${ofPerson}
		ORDER BY household_id IS NULL, id LIMIT 1`,
		bind
	);
	const home =
		said === undefined
			? (
					await db.one<{ id: number | null }>(
						`SELECT min(household_id) AS id FROM household_member JOIN household_now ON id = household_id
						WHERE person_id = $person`,
						{ person: personId }
					)
				)?.id
			: said.householdId;
	return home == null ? { kind: 'person', id: personId } : { kind: 'household', id: home };
}

/** Who is in a household, or the one person. */
export async function membersOf(db: Query, party: Party): Promise<number[]> {
	if (party.kind === 'guest') return [];
	if (party.kind === 'person') return [party.id];
	const members = await db.all<Pick<HouseholdMemberRow, 'personId'>>(
		'SELECT person_id AS personId FROM household_member WHERE household_id = $id ORDER BY person_id',
		{ id: party.id }
	);
	return members.map((m) => m.personId);
}

/** How a row of `coming` stands, in SQL: a {@link ComingState}. */
export const stateSql = `CASE WHEN NOT comes THEN 'not' WHEN seated THEN 'comes' ELSE 'waits' END`;

/** How everybody who has said something stands with some invitations, by "dispatch person". */
export async function comingStates(
	db: Query,
	ids: readonly number[]
): Promise<ReadonlyMap<string, ComingState>> {
	const rows = await db.all<{ dispatchId: number; personId: number; state: ComingState }>(
		`SELECT dispatch_id AS dispatchId, coalesce(coming.person_id, household_member.person_id) AS personId,
			${stateSql} AS state
		FROM coming LEFT JOIN household_member USING (household_id)
		WHERE dispatch_id IN (SELECT value FROM json_each($ids)) AND guest_id IS NULL`,
		{ ids: JSON.stringify(ids) }
	);
	return new Map(rows.map((r) => [`${r.dispatchId} ${r.personId}`, r.state]));
}
