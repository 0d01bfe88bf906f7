import { remembering } from '../../db/remember';
import { isDeepStrictEqual } from 'node:util';
import { type Audience } from '../../../core/audience/audience';
import { dispatchesOf, joinedGroupsOf, listsOf, markersOf } from '../../../core/audience/named';
import { mayStillGain } from '../../../core/audience/gained';
import type { Handling } from '../../../core/plan/handling';
import { turnsInUse } from '../../../core/plan/turns';
import { planManifest } from '../../../core/plan/plan-manifest';
import type { Manifest } from '../../../core/plan/manifest';
import { timed, type TimedManifest } from '../../../core/plan/times';
import { zoneOf } from '../../../core/time/clocks';
import { comingMoments, momentsOf, type Moment } from '../../../core/time/timing';
import type { Roster } from '../../../core/roster/roster';
import type { User } from '../../access/user';
import { districtDay } from '../../db/district';
import { marksMark } from '../../db/markers';
import type { Db, Query } from '../../db/open';
import { changedSince, readRoster, rosterVersion } from '../../db/roster';
import { permitted, type Permitted } from '../audience/permitted';
import { now } from '../../clock';
import { departureOf } from '../sheet/departure';
import { handlingOf, type Sending } from '../sheet/sheet';
import { eventOf, readTimes, type Times } from '../../db/calendar';
import type { SchoolEvent } from '../../../core/time/school-event';

/** Who a sheet would reach, whenever it leaves. */
interface Reached extends Permitted {
	readonly roster: Roster;
	/** Of what the user may see. */
	readonly manifest: Manifest;
}

/** A sheet planned for a user, and what it was planned from. */
export interface Planned extends Reached {
	/** Of what the user may see, with the moment of each copy. */
	readonly manifest: TimedManifest;
	/** Every moment at which it would leave; the manifest is that of `moment`. */
	readonly moments: readonly Moment[];
	readonly moment: Moment;
	/** The instant (ms) it was planned at. */
	readonly now: number;
	readonly times: Times;
	/** Of the clock that its times are meant by. */
	readonly zone: string;
	/** The event it is set by, where there is one. */
	readonly event: SchoolEvent | null;
	/** What all of it rests on: see {@link isStillSo}. */
	readonly restsOn: { readonly version: number; readonly calendar: string };
}

/** Plans kept at a time: the tally, its doors and the manifest's pages are asked for one after another. */
const most = 4;
/** Copies of a plan beside which no other is kept. */
const large = 20_000;
const plans = remembering<Reached>(most);

type WhoAndHow = Omit<Sending, 'timing' | 'holdMinutes'> & { readonly urgent: boolean };

/** The calendar and the fixed lists, as far as plans are made from them. What is read of earlier dispatches moves on with every answer, and is as it was when it was planned. */
async function calendarAndLists(db: Query, eventId: number | null): Promise<string> {
	const lists = await db.one<object>(
		'SELECT max(id) AS newest, count(gone_at) AS gone FROM kept_audience'
	);
	return JSON.stringify([(await readTimes(db)).mark, await eventOf(db, eventId), lists]);
}

/**
 * Whether a plan would come out the same if it were made now: to be asked in the transaction that
 * writes it down. Changes of addresses and consents matter only where they are those of somebody
 * who gets a copy.
 */
export async function isStillSo(tx: Query, planned: Planned): Promise<boolean> {
	const { version, calendar } = planned.restsOn;
	if (calendar !== (await calendarAndLists(tx, planned.event?.id ?? null))) return false;
	if ((await rosterVersion(tx)) === version) return true;
	const changed = await changedSince(tx, version);
	if (changed === 'all') return false;
	return !planned.manifest.copies.some(
		(c) => changed.has(c.personId) || c.alsoFor.some((id) => changed.has(id))
	);
}

/** What a plan rests on; the same mark means the same plan. */
async function markOf(
	db: Db,
	user: User,
	sending: Omit<WhoAndHow, 'turns'> & { readonly steps: readonly object[] }
): Promise<string> {
	return JSON.stringify([await rosterVersion(db), user, sending, await askedOf(db, sending)]);
}

/** The state of earlier dispatches, fixed lists, markers and open groups, for a sheet that asks them; null for others. Evidence has rising numbers: what is asked changes with it. */
async function askedOf(
	db: Query,
	{ chases, audience }: Pick<Sending, 'chases' | 'audience'>
): Promise<object | null> {
	const marks = await marksMark(db, markersOf(audience));
	const open = await openMark(db, joinedGroupsOf(audience));
	if (chases === null && dispatchesOf(audience).length + listsOf(audience).length === 0)
		return marks + open === '' ? null : { marks, open };
	const state = (await db.one<object>(
		`SELECT (SELECT max(id) FROM event) AS e, (SELECT max(id) FROM coming_said) AS c, (SELECT count(gone_at) FROM kept_audience) AS g,
			(SELECT max(id) FROM kept_audience) AS k`
	))!;
	return { ...state, marks, open };
}

/** How open groups stand: who is in them changes with the roster, their last day and the day do not. */
async function openMark(db: Query, groups: readonly number[]): Promise<string> {
	if (groups.length === 0) return '';
	const rows = await db.all<object>(
		`SELECT id, open_until AS until FROM school_group WHERE id IN (SELECT value FROM json_each($groups))`,
		{ groups: JSON.stringify(groups) }
	);
	return JSON.stringify([await districtDay(db), rows]);
}

/** How the copies are made. Copies for information are for staff, whatever a browser sends: nobody learns the name or the address of anybody else by asking for one. */
function handling(roster: Roster, sending: WhoAndHow, user: User): Handling {
	const staff = new Set(roster.staffRoles().map((s) => s.personId));
	const made = handlingOf(sending, user);
	return { ...made, informed: made.informed.filter((id) => id === user.personId || staff.has(id)) };
}

/** Whom a sheet is about: of one that waits for a marker, those who lack it. */
const audienceMeant = ({ audience, timing: { when } }: Sending): Audience =>
	when.kind === 'gain' && when.markerId !== null ? mayStillGain(audience, when.markerId) : audience;

/** Works out who a sheet reaches. */
async function reached(db: Db, user: User, sending: WhoAndHow): Promise<Reached> {
	const { kind, audience, ways, turns, chases, copies, urgent } = sending;
	// When a turn comes is nothing to who gets a copy in it.
	const steps = turnsInUse(turns, ways).map((t) => ({ ways: t.ways }));
	const mark = await markOf(db, user, { kind, audience, ways, steps, chases, copies, urgent });
	return plans.get(db, mark, async () => {
		const roster = await readRoster(db);
		const may = await permitted(db, user, audience, chases);
		const manifest = planManifest(roster, may.shown, handling(roster, sending, user), may.facts);
		// Plans of a whole district are a hundred megabytes each: then the one in use is enough.
		if (manifest.copies.length >= large) plans.keepOnly(db, mark);
		return { ...may, roster, manifest };
	});
}

/** The last timed plan of each: what leaves now moves on with the clock, and within a minute nobody sees it. */
const lastTimed = new WeakMap<Reached, { mark: string; planned: Planned }>();

/**
 * Plans a sheet without writing anything down: who gets a copy, and when each of the next moment's
 * copies leaves. `at` plans another of its moments, or one that is already past (what is planned
 * again as it leaves), with when its event begins, where it is a reminder; `times` plans it by other hours than there are.
 */
export async function planSheet(
	db: Db,
	user: User,
	said: Sending,
	at?: Pick<Moment, 'at' | 'endsAt'> & {
		readonly eventAt?: number | null;
		readonly times?: Times;
	}
): Promise<Planned> {
	const { timing, holdMinutes } = said;
	const sending = { ...said, audience: audienceMeant(said) };
	const eventId = timing.when.kind === 'event' ? timing.when.eventId : null;
	// Read first: what changes while it is planned makes another of it.
	const restsOn = {
		version: await rosterVersion(db),
		calendar: await calendarAndLists(db, eventId)
	};
	const who = await reached(db, user, { ...sending, urgent: timing.urgent });
	const time = await now(db);
	const times = at?.times ?? (await readTimes(db));
	const event = await eventOf(db, eventId);
	const zone = zoneOf(times.clocks, timing.clock);
	const moments = momentsOf(timing, {
		now: time,
		holdMinutes,
		zone,
		event,
		isSchoolDay: times.isSchoolDay
	});
	const fallback: Moment = {
		key: '',
		local: '',
		at: time,
		endsAt: null,
		existence: 'once',
		note: null,
		words: ''
	};
	const eventAt = at?.eventAt ?? event?.startsAt ?? null;
	const moment: Moment = {
		...(comingMoments(moments, time)[0] ?? moments.at(-1) ?? fallback),
		...(at && { at: at.at, endsAt: at.endsAt })
	};
	const mark = JSON.stringify([
		timing,
		sending.turns,
		holdMinutes,
		// What leaves now is kept for a minute; a moment that is asked for is meant exactly.
		at ? moment.at : Math.floor(moment.at / 60_000),
		moment.endsAt,
		Math.floor(time / 60_000),
		times.mark,
		event,
		eventAt
	]);
	const before = lastTimed.get(who);
	if (before?.mark === mark && isDeepStrictEqual(before.planned.restsOn, restsOn)) {
		return before.planned;
	}
	const manifest = timed(
		who.manifest,
		who.roster,
		departureOf(sending, moment, times, eventAt),
		times.quiet
	);
	const planned: Planned = {
		...who,
		manifest,
		moments,
		moment,
		now: time,
		times,
		zone,
		event,
		restsOn
	};
	lastTimed.set(who, { mark, planned });
	return planned;
}
