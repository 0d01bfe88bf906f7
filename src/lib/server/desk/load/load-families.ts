import { mostLoaded } from '../../../core/plan/load';
import { nameOf } from '../../../core/roster/relation';
import { localDays } from '../../../core/time/zone';
import { studentsAllowed } from '../../access/allowed';
import { scope } from '../../access/may';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import { readRoster } from '../../db/roster';
import { loadWindow } from './load';
import { readTimes } from '../../db/calendar';
import type { LoadedFamily } from './types';
import type { DispatchRow } from '../../db/models/dispatch';
import type { HouseholdMemberRow, HouseholdRow } from '../../db/models/roster';

const familiesShown = 200;

/** The families with most messages on a day, and what they are: of those the user may see. */
export async function familiesOn(
	db: Db,
	user: User,
	date: string
): Promise<{
	readonly limit: number;
	readonly over: number;
	readonly families: readonly LoadedFamily[];
}> {
	const times = await readTimes(db);
	const window = await loadWindow(db, localDays(date, 1, times.zone));
	const roster = await readRoster(db);
	const allowed = await studentsAllowed(db, user);
	const may = allowed && new Set(allowed.flatMap((id) => [...roster.householdsOf(id)]));
	const top = mostLoaded(window.load, 0, 1, window.load.households).filter(
		(h) => !may || may.has(window.households[h]!)
	);
	const shown = top.slice(0, familiesShown);
	const homes = shown.map((h) => window.households[h]!);
	const condition = scope(user).dispatches;
	const dispatches = new Map(
		(
			await db.all<
				Pick<DispatchRow, 'id' | 'subject'> & { sender: string; at: number; mine: number }
			>(
				`SELECT dispatch.id, subject, given_name || ' ' || family_name AS sender, leaves_at AS at, (${condition.sql}) AS mine
				FROM dispatch JOIN person ON person.id = sender_id WHERE dispatch.id IN (SELECT value FROM json_each($ids))`,
				{
					ids: JSON.stringify([...new Set(window.entries.map((e) => e.dispatchId))]),
					...condition.bind
				}
			)
		).map((d) => [d.id, d])
	);
	const members = new Map<number, string[]>();
	for (const row of await db.all<{
		home: HouseholdMemberRow['householdId'];
		id: HouseholdMemberRow['personId'];
	}>(
		`SELECT household_id AS home, person_id AS id FROM household_member
		WHERE household_id IN (SELECT value FROM json_each($ids))`,
		{ ids: JSON.stringify(homes) }
	)) {
		members.set(row.home, [...(members.get(row.home) ?? []), nameOf(roster, row.id)]);
	}
	const names = new Map(
		(
			await db.all<Pick<HouseholdRow, 'id' | 'name'>>(
				'SELECT id, name FROM household WHERE id IN (SELECT value FROM json_each($ids))',
				{ ids: JSON.stringify(homes) }
			)
		).map((h) => [h.id, h.name])
	);
	const got = new Map<number, { id: number; digest: boolean }[]>(shown.map((h) => [h, []]));
	for (const { dispatchId: id, households, digest } of window.entries) {
		for (const h of households) got.get(h)?.push({ id, digest: false });
		for (const h of digest) got.get(h)?.push({ id, digest: true });
	}
	return {
		limit: times.loadLimit,
		over: top.filter((h) => window.load.messages[0]![h]! > times.loadLimit).length,
		families: shown.map((h) => ({
			household: names.get(window.households[h]!) ?? '',
			people: (members.get(window.households[h]!) ?? []).join(', '),
			messages: got
				.get(h)!
				.map(({ id, digest }) => ({ ...dispatches.get(id)!, digest }))
				.sort((a, b) => a.at - b.at)
				.map(({ id, subject, sender, at, mine, digest }) =>
					mine === 1
						? { subject, sender, at, dispatchId: id, digest }
						: {
								subject: 'A message from another sender',
								...{ sender: '', at, dispatchId: null, digest }
							}
				)
		}))
	};
}
