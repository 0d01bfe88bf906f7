import { z } from 'zod';
import { languagesWords } from '../../../core/copy/language';
import { groupBy } from '../../../core/group-by';
import { standingOut } from '../../../core/track/differs';
import { shareOf } from '../../../core/track/share';
import { silences, type Silence } from '../../../core/track/silent';
import type { User } from '../../access/user';
import { now } from '../../clock';
import type { Db, Query } from '../../db/open';
import type { Stretch } from './happened';
import { lookOver, type LookedHome, type LookedOver } from './silent-homes';
import { silentLines } from './silent-lines';
import type { SilentCounts, SilentGroup, SilentLine, SilentView, StandsOut } from './types';

const dayMs = 86_400_000;
/** A month: long enough that a family without news for a week is none of them. */
const usualDays = 30;
/** What is said is as of the last full ten minutes, so that many who look at it make it be counted once. */
const everyMs = 600_000;

/** Days up to now. */
async function stretchOf(db: Query, days: number): Promise<Stretch> {
	const until = Math.floor((await now(db)) / everyMs) * everyMs;
	return { since: until - days * dayMs, until };
}

/** Which of them are shown. */
export const silentFilterSchema = z.object({
	days: z.coerce.number().int().min(1).max(370).catch(usualDays),
	kind: z.enum(['', ...silences]).catch(''),
	/** Id of a school, 0 for homes of students in none; empty for all. */
	school: z.string().max(20).catch(''),
	/** Tags with a comma between; empty for all. */
	language: z.string().max(120).catch(''),
	page: z.coerce.number().int().min(1).max(100_000).catch(1)
});
export type SilentFilter = z.infer<typeof silentFilterSchema>;

const linesPerPage = 25;

/** How many homes there are of each kind. */
function silentCounts({ homes, dispatches }: LookedOver, stretch: Stretch): SilentCounts {
	const of = (kind: Silence) => homes.filter((h) => h.silence === kind).length;
	return {
		...stretch,
		...{ homes: homes.length, dispatches },
		silent: homes.filter((h) => h.silence !== null).length,
		spoken: homes.filter((h) => h.spokenTo).length,
		kinds: Object.fromEntries(silences.map((kind) => [kind, of(kind)])) as Record<Silence, number>
	};
}

/** How many families nothing reached in a stretch, of a school or (null) of all one sees: by what happened then, and by who lives where today. */
export async function silentIn(
	db: Db,
	user: User,
	stretch: Stretch,
	schoolId: number | null
): Promise<SilentCounts> {
	const looked = await lookOver(db, user, stretch);
	return silentCounts(
		schoolId === null
			? looked
			: { ...looked, homes: looked.homes.filter((h) => h.schoolId === schoolId) },
		stretch
	);
}

/** How many families nothing has reached in the usual stretch. */
export async function countSilent(db: Db, user: User): Promise<SilentCounts> {
	const stretch = await stretchOf(db, usualDays);
	return silentCounts(await lookOver(db, user, stretch), stretch);
}

/** Homes in groups, the largest group first. */
function groupsOf(
	homes: readonly LookedHome[],
	keyOf: (home: LookedHome) => string,
	nameOfKey: (key: string) => string
): SilentGroup[] {
	return [...groupBy(homes, keyOf)]
		.map(([key, list]) => ({
			...{ key, name: nameOfKey(key) },
			share: shareOf(list.filter((h) => h.silence !== null).length, list.length)
		}))
		.sort((a, b) => b.share.of - a.share.of || (a.name < b.name ? -1 : 1));
}

/** Which groups differ by more than chance would make them, schools and languages corrected together for how many they are. */
function whichStandOut(
	schools: readonly SilentGroup[],
	languages: readonly SilentGroup[]
): { readonly compared: number; readonly standingOut: StandsOut[] } {
	const of = (groups: readonly SilentGroup[], by: StandsOut['by']) =>
		groups.length < 2 ? [] : groups.map((g) => ({ ...g.share, name: g.name, by }));
	const [first, second] = [of(schools, 'school'), of(languages, 'language')];
	return {
		compared: first.length + second.length,
		standingOut: standingOut([first, second]).map(({ group, more, chance }) => ({
			...{ name: group.name, by: group.by, more, chance }
		}))
	};
}

const schoolKey = (home: LookedHome): string => String(home.schoolId ?? 0);

/** Names of schools by the keys of homes. */
async function schoolNames(db: Query): Promise<(key: string) => string> {
	const names = new Map(
		(await db.all<{ id: number; name: string }>('SELECT id, name FROM school')).map((s) => [
			String(s.id),
			s.name
		])
	);
	return (key) => names.get(key) ?? 'In no school';
}

/** Silent homes in the order in which they are shown: by kind, then by the family name of the first who is named. */
function inOrder({ homes, roster }: LookedOver): LookedHome[] {
	const name = (h: LookedHome) => {
		const first = roster.person(h.adults[0] ?? h.unsaid[0] ?? h.students[0]!)!;
		return `${first.familyName} ${first.givenName}`;
	};
	const order = new Intl.Collator('en');
	return homes
		.filter((h) => h.silence !== null)
		.map((home) => ({ home, kind: silences.indexOf(home.silence!), name: name(home) }))
		.sort((a, b) => a.kind - b.kind || order.compare(a.name, b.name))
		.map(({ home }) => home);
}

/** The families that nothing has reached, of those a user sees: how many, where, and a page of them with what would probably work. */
export async function silentFamilies(
	db: Db,
	user: User,
	filter: SilentFilter
): Promise<SilentView> {
	const stretch = await stretchOf(db, filter.days);
	const looked = await lookOver(db, user, stretch);
	const { homes } = looked;
	const schools = groupsOf(homes, schoolKey, await schoolNames(db));
	const languages = groupsOf(
		homes,
		(h) => h.languages,
		(tags) => (tags === '' ? 'nobody to read' : languagesWords(tags))
	);
	const shown = inOrder(looked).filter(
		(h) =>
			(filter.kind === '' || h.silence === filter.kind) &&
			(filter.school === '' || schoolKey(h) === filter.school) &&
			(filter.language === '' || h.languages === filter.language)
	);
	const page = Math.min(filter.page, Math.max(1, Math.ceil(shown.length / linesPerPage)));
	const part = shown.slice((page - 1) * linesPerPage, page * linesPerPage);
	return {
		...silentCounts(looked, stretch),
		...{ schools, languages, ...whichStandOut(schools, languages) },
		lines: await silentLines(db, looked, part, stretch, { expecting: true }),
		...{ found: shown.length, page }
	};
}

/** Everybody on the sheet for calls of a school: what is asked is by the key of {@link SilentFilter}. */
export async function silentToCall(
	db: Db,
	user: User,
	filter: Pick<SilentFilter, 'days' | 'school'>
): Promise<{ readonly stretch: Stretch; readonly lines: readonly SilentLine[] }> {
	const stretch = await stretchOf(db, filter.days);
	const looked = await lookOver(db, user, stretch);
	const homes = inOrder(looked).filter(
		(h) => filter.school === '' || schoolKey(h) === filter.school
	);
	return { stretch, lines: await silentLines(db, looked, homes, stretch, { expecting: false }) };
}
