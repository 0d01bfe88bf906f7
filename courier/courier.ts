import type { SMTPServer } from 'smtp-server';
import type { WayOut } from '../src/lib/core/roster/way';
import { now } from '../src/lib/server/clock';
import { readDistrict } from '../src/lib/server/db/district';
import type { Db } from '../src/lib/server/db/open';
import { nextLateText } from '../src/lib/server/desk/replies/gather-parts';
import { settleEnded } from '../src/lib/server/desk/replies/ended-terms';
import { followLines, nextFollow } from '../src/lib/server/desk/replies/live-lines';
import { takeLateTexts } from '../src/lib/server/desk/replies/take-texts';
import { dayHasTurned } from '../src/lib/server/desk/roster/turn-day';
import { nextFeed } from '../src/lib/server/desk/send/feed-dates';
import { nextRelease } from '../src/lib/server/desk/send/release';
import { nextPlanning } from '../src/lib/server/desk/send/replan';
import type { Settings } from '../src/lib/server/settings';
import { lapse, nextWithoutProvider, placeInbox, spare } from './claim';
import { beating, goOn } from './going-on';
import { house, type CourierParts, type House } from './house';
import { nextAutoNote, sendAutoNotes } from './auto-notes';
import { nextNotice, sendNotices } from './notices';
import { sendProofs } from './proofs';
import { openReturnPort } from './return-port';

export interface Courier {
	/** Begins to take return mail and receipts. Throws when the return port is taken. */
	open(): Promise<void>;
	/** Works out what leaves soon, as the roster is now. Resolves to the number of dispatches; 0 also where another courier holds the office. */
	settle(): Promise<number>;
	/** Does each of its works once, to its end: sends all that is due now. Resolves to the number of copies it dealt with; 0 also where another courier holds the office. */
	round(): Promise<number>;
	/** Shows that it lives; false while another courier holds the office. */
	beat(): Promise<boolean>;
	/** Goes on by itself, each work for itself, until {@link close}: a slow one holds up no other. */
	run(): Promise<void>;
	/** Ends within seconds: what is under way is finished, nothing new is begun, what has no answer by then is written down as such. */
	close(): Promise<void>;
}

/** A beat, ms; and how long a work waits at most without a change or a due moment. */
const beatMs = 2_000;
const longestMs = 30_000;
/** What is written to the staff by itself waits for no copy; looked at now and then, ms. */
const tellMs = 5_000;
/** What is said by itself is tried again so long after its provider was away, ms. */
const noteAgainMs = 5_000;
/** How far apart two looks into the watched folder are, in which nothing may change, ms. */
const rosterMs = 5_000;
/** On ending, how long what is under way may take, ms. */
const endingMs = 5_000;

/** Repeats a step until it finds nothing more to do; resolves to the sum. */
async function untilNone(step: () => Promise<number>): Promise<number> {
	let sum = 0;
	for (;;) {
		const n = await step();
		if (n === 0) return sum;
		sum += n;
	}
}

/** What of a dispatch needs no provider: what has lapsed, what is not needed, and the inbox. */
async function withoutProvider({ db, me }: House): Promise<number> {
	await untilNone(() => lapse(db, me));
	await untilNone(() => spare(db, me));
	return untilNone(() => placeInbox(db, me));
}

/** Proofs, and letters to the staff. */
async function toStaff(home: House): Promise<void> {
	if (!(await home.me.holds(home.db))) return;
	const district = await readDistrict(home.db);
	await sendProofs(home, district);
	await sendNotices(home, district);
}

/** Until a moment of the job's clock, ms; never longer than a work may wait. */
const until = async ({ db }: House, at: number | null): Promise<number> =>
	at === null ? longestMs : Math.min(longestMs, Math.max(0, at - (await now(db))));

/** One way's sending, as often as there is something to send. */
async function sending({ db, me, senders }: House, way: WayOut): Promise<number> {
	if (!(await me.holds(db))) return longestMs;
	const { settled, againMs, nextAt } = await senders[way].run();
	if (settled > 0) return 0;
	// What is due and does not leave (it is not settled, or a turn is not needed) changes by a change.
	const dueIn = nextAt === null ? longestMs : nextAt - (await now(db));
	const wait = dueIn > 0 ? Math.min(dueIn, longestMs) : longestMs;
	return againMs === null ? wait : dueIn > againMs ? wait : againMs;
}

/** What a roster has to be followed in: a new day, and files that lie whole in the watched folder. */
async function lookForRosters({ db, settings, rosters, watched }: House): Promise<void> {
	if (await dayHasTurned(db)) {
		await untilNone(() => settleEnded(db));
		await rosters.turnDay();
	}
	const names = (await watched?.ready()) ?? null;
	if (names !== null) await rosters.bring(settings.rosterFolder!, names);
}

/** The works that go on beside each other, by what they are called when they cannot. */
const worksOf = (
	home: House,
	opened: () => boolean
): readonly (readonly [name: string, work: () => Promise<number>])[] => {
	const { db, me } = home;
	const saying = (way: WayOut) => async () => {
		if (!opened() || !(await me.holds(db))) return longestMs;
		const at = await nextAutoNote(db, way);
		if (at === null || at > (await now(db))) return until(home, at);
		// What is due and cannot leave waits for its provider.
		return (await sendAutoNotes(home, way)) > 0 ? 0 : noteAgainMs;
	};
	// Until its providers were spoken to for the first time, nothing is known of them.
	const send = (way: WayOut) => () => (opened() ? sending(home, way) : Promise.resolve(longestMs));
	return [
		[
			'what leaves next',
			async () => {
				if (!(await me.holds(db))) return longestMs;
				await home.settleAll();
				const moments = [await nextPlanning(db), await nextRelease(db)].filter((at) => at !== null);
				return until(home, moments.length > 0 ? Math.min(...moments) : null);
			}
		],
		[
			'what is new in feeds',
			async () => {
				if (!(await me.holds(db))) return longestMs;
				return (await home.takeFeed()) ? 0 : until(home, await nextFeed(db));
			}
		],
		[
			'the inbox',
			async () => {
				if (!(await me.holds(db))) return longestMs;
				await withoutProvider(home);
				await home.health.beat(home.coming.strangers());
				return until(home, await nextWithoutProvider(db));
			}
		],
		['email', send('email')],
		['texts', send('text')],
		[
			'letters to the staff',
			async () => {
				await toStaff(home);
				return until(home, await nextNotice(db));
			}
		],
		['what is said by itself, by mail', saying('email')],
		['what is said by itself, by text', saying('text')],
		[
			'what was said live and not seen',
			async () => {
				if (!(await me.holds(db))) return longestMs;
				const at = await nextFollow(db);
				if (at === null || at > (await now(db))) return until(home, at);
				await followLines(db, home.key);
				return 0;
			}
		],
		[
			'texts in parts',
			async () => {
				if (!(await me.holds(db))) return longestMs;
				const at = await nextLateText(db);
				if (at === null || at > (await now(db))) return until(home, at);
				await db.write(takeLateTexts);
				return 0;
			}
		],
		[
			'what is told to the staff',
			async () => {
				if (await me.holds(db)) await home.tellStaff();
				await home.ended.wait(tellMs);
				return longestMs;
			}
		],
		[
			'rosters',
			async () => {
				if (await me.holds(db)) await lookForRosters(home);
				await home.ended.wait(rosterMs);
				return 0;
			}
		]
	];
};

/** Makes the courier of a database. Without `parts` it does all in the caller's thread. */
export function makeCourier(
	db: Db,
	settings: Settings,
	key: Buffer,
	parts: Partial<CourierParts> = {}
): Courier {
	const home = house(db, settings, key, parts);
	const { me, health, changes, works, mail, text } = home;
	let returns: SMTPServer | null = null;
	let running: Promise<unknown> | null = null;
	let opened = false;
	let standingBy = false;

	async function open(): Promise<void> {
		await text.start();
		returns = await openReturnPort(db, key, settings, home.coming);
		await health.way('email', await mail.reachable(), 0, null);
	}

	/** Comes into office and shows that it lives; opens its doors once it is there. */
	async function office(): Promise<number> {
		const was = me.fence;
		const mine = await me.beat();
		if (mine && (was !== me.fence || standingBy)) works.say('at work');
		if (!mine && !standingBy) works.say('another courier is at work; standing by');
		standingBy = !mine;
		if (mine && !opened) {
			await open();
			opened = true;
			changes.tell();
		}
		return beatMs;
	}

	return {
		open,
		beat: () => me.beat(),
		settle: home.settleAll,
		async round() {
			const inbox = await withoutProvider(home);
			await toStaff(home);
			for (const way of ['email', 'text'] as const) await sendAutoNotes(home, way);
			const sent = await Promise.all(Object.values(home.senders).map((sender) => sender.run()));
			await health.beat(home.coming.strangers());
			return sent.reduce((sum, n) => sum + n.settled, inbox);
		},
		async run() {
			running = Promise.all([
				beating(works, office),
				...worksOf(home, () => opened).map(([name, work]) => goOn(works, name, work))
			]);
			await running;
		},
		async close() {
			home.end();
			const late = (ms: number) => new Promise<void>((go) => setTimeout(go, ms).unref());
			if (running) await Promise.race([running, late(endingMs)]);
			// What has had no answer by now gets none.
			mail.close();
			await text.close();
			if (running) await Promise.race([running, late(1_000)]);
			if (returns) await new Promise<void>((resolve) => returns!.close(() => resolve()));
			await me.leave();
		}
	};
}
