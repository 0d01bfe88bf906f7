import { usableBy, type UsableByWay } from '../../../core/plan/usable-address';
import { familyHomes, homeKey, type FamilyHome } from '../../../core/audience/family-homes';
import type { Roster } from '../../../core/roster/roster';
import { ways, type Way } from '../../../core/roster/way';
import { silenceOf, type Silence } from '../../../core/track/silent';
import { studentsAllowed } from '../../access/allowed';
import type { User } from '../../access/user';
import { readMany } from '../../db/many';
import type { Db, Query } from '../../db/open';
import { remembering } from '../../db/remember';
import { readRoster, rosterVersion } from '../../db/roster';
import { happenedIn, type Happened, type Stretch } from './happened';

/** A home that was written to in a stretch, and what reached it. */
export interface LookedHome extends FamilyHome {
	/** Why nothing has; null where something did. */
	readonly silence: Silence | null;
	/** Whether nothing has but that somebody spoke to it. */
	readonly spokenTo: boolean;
	readonly left: number;
	readonly arrived: number;
	/** The school of the youngest; null where that is in none. */
	readonly schoolId: number | null;
	/** Tags of the languages its adults read, in order, with a comma between; empty where it has none. */
	readonly languages: string;
}

/** The homes that were written to in a stretch, as they are looked at. */
export interface LookedOver {
	readonly roster: Roster;
	readonly dispatches: number;
	readonly homes: readonly LookedHome[];
	readonly usable: (personId: number) => UsableByWay;
}

/** Ways by which somebody can be written to. */
export const waysOf = (usable: UsableByWay): Way[] =>
	ways.filter((way) => !('reason' in usable[way]));

/** What is said of happenings is as of a full ten minutes; a word with somebody counts at once. */
const wordMs = 600_000;

/** Homes that somebody spoke to in a stretch, by their keys. */
async function spokenIn(db: Query, { since, until }: Stretch): Promise<Set<string>> {
	const rows = await db.all<Pick<FamilyHome, 'householdId' | 'studentId'>>(
		'SELECT household_id AS householdId, student_id AS studentId FROM spoken_to WHERE at > $since AND at <= $until',
		{ since, until: until + wordMs }
	);
	return new Set(rows.map(homeKey));
}

function lookAt(
	home: FamilyHome,
	{ roster, usable }: Pick<LookedOver, 'roster' | 'usable'>,
	happened: Happened,
	spoken: ReadonlySet<string>
): LookedHome {
	let left = 0;
	let arrived = 0;
	for (const id of home.adults) {
		const copies = happened.copies.get(id);
		left += copies?.left ?? 0;
		arrived += copies?.arrived ?? 0;
	}
	const hasWay = home.adults.some((id) => waysOf(usable(id)).length > 0);
	const reached =
		(home.householdId !== null && happened.reachedHomes.has(home.householdId)) ||
		home.adults.some((id) => happened.reached.has(id));
	const silence = silenceOf({ hasWay, left, arrived, reached });
	const spokenTo = silence !== null && spoken.has(homeKey(home));
	const tags = new Set(home.adults.map((id) => roster.person(id)!.language));
	return {
		...home,
		silence: spokenTo ? null : silence,
		...{ spokenTo, left, arrived },
		schoolId: roster.person(home.students[0]!)?.schoolId ?? null,
		languages: [...tags].sort().join(',')
	};
}

const kept = remembering<Happened>(4);
/** Homes as they were looked at: they change with the roster, the stretch and who was spoken to, and are the same for all who see the same students. */
const looks = remembering<Pick<LookedOver, 'dispatches' | 'homes'>>(3);

/** The homes of the students a user sees for which something was meant in a stretch. What happened in it is read once for all who ask. */
export async function lookOver(db: Db, user: User, stretch: Stretch): Promise<LookedOver> {
	const version = await rosterVersion(db);
	const roster = await readRoster(db);
	const usable = usableBy(roster, { kind: 'message', urgent: false });
	const allowed = await studentsAllowed(db, user, 'see');
	const spoken = await spokenIn(db, stretch);
	const mark = JSON.stringify([stretch, version, allowed, [...spoken]]);
	const looked = await looks.get(db, mark, async () => {
		const happened = await kept.get(db, `${stretch.since} ${stretch.until} ${version}`, () =>
			happenedIn(db, stretch)
		);
		const seen =
			allowed ??
			(await readMany(db, 'id', `FROM person_now WHERE kind = 'student'`, ([id]) => id as number));
		return {
			dispatches: happened.dispatches,
			homes: familyHomes(roster, seen)
				.filter((home) => home.students.some((id) => happened.students.has(id)))
				.map((home) => lookAt(home, { roster, usable }, happened, spoken))
		};
	});
	return { roster, usable, ...looked };
}
