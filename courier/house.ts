import type { Dkim, MailGateway } from '../src/lib/server/gateway/mail';
import { mailGateway, noMailGateway } from '../src/lib/server/gateway/mail';
import {
	noTextGateway,
	textGateway,
	type ReceiptHandler,
	type TextGateway
} from '../src/lib/server/gateway/text';
import type { WayOut } from '../src/lib/core/roster/way';
import { readDistrict } from '../src/lib/server/db/district';
import type { Db } from '../src/lib/server/db/open';
import { release } from '../src/lib/server/desk/send/release';
import { releaseFeed, type DateTaken } from '../src/lib/server/desk/send/release-feed';
import { takeFeed } from '../src/lib/server/desk/feeds/take-feed';
import { followZone, replan } from '../src/lib/server/desk/send/replan';
import { watchedFolder, type WatchedFolder } from '../src/lib/server/desk/roster/watched-folder';
import { isDiskFull } from '../src/lib/server/disk';
import type { Settings } from '../src/lib/server/settings';
import { watchChanges, type Changes } from './changes';
import { comingIn, type ComingIn } from './coming-in';
import type { Works } from './going-on';
import { grouped } from './grouped';
import { healthDesk, type HealthDesk } from './health';
import { identity, type Identity } from './identity';
import { settleOutcomes, type Settled } from './outcomes';
import { pacer } from './pacer';
import { makeSender, type Sender } from './sender';
import { settling } from './settling';
import { sleeper, type Sleeper } from './sleeper';
import { surely } from './surely';
import { writingOut } from './writing-out';

/** What the courier's process has done by threads of their own, so that copies go on leaving meanwhile. */
export interface CourierParts {
	/** Works a scheduled dispatch out again. */
	readonly plan: (dispatchId: number) => Promise<void>;
	/** Lets a sheet go for the students who have gained its marker. */
	readonly release: (standingId: number) => Promise<void>;
	/** Lets a date of a sheet go with what is new in its feed. */
	readonly releaseFeed: (standingId: number, taken: DateTaken) => Promise<void>;
	/** Moves what is planned by local time when the district's zone was changed. */
	readonly followZone: () => Promise<void>;
	/** Writes what is written to the staff by itself: accounts, addresses to mend. */
	readonly tellStaff: () => Promise<unknown>;
	/** What rosters ask for: a new day, and what lies in the watched folder; works out again what is scheduled. */
	readonly rosters: Rosters;
	/** Says a line to whoever runs it. */
	readonly say: (line: string) => void;
	readonly mail: (url: string, dkim: Dkim | null) => MailGateway;
	readonly text: (url: string, onReceipt: ReceiptHandler) => TextGateway;
}

/** Rosters, as a planner of their own does them. */
interface Rosters {
	readonly turnDay: () => Promise<unknown>;
	/** Brings files of the watched folder; whatever follows is done. */
	readonly bring: (folder: string, names: readonly string[]) => Promise<unknown>;
}

/** What the works of one courier share. */
export interface House {
	readonly db: Db;
	readonly settings: Settings;
	readonly key: Buffer;
	readonly me: Identity;
	readonly health: HealthDesk;
	readonly changes: Changes;
	/** Wakes, when it ends, those who wait for no change. */
	readonly ended: Sleeper;
	readonly works: Works;
	readonly coming: ComingIn;
	readonly mail: MailGateway;
	readonly text: TextGateway;
	readonly senders: Readonly<Record<WayOut, Sender>>;
	/** Asks the feed that is due, and lets its date go where it has something new; false where none is due. */
	readonly takeFeed: () => Promise<boolean>;
	/** Works out what leaves soon. */
	readonly settleAll: () => Promise<number>;
	readonly tellStaff: () => Promise<unknown>;
	readonly rosters: Rosters;
	/** The folder that is watched for rosters. */
	readonly watched: WatchedFolder | null;
	/** Ends it: no work begins anything new from here on. */
	end(): void;
}

/** Outcomes are written down in groups: a commit for each would cost more than the sending. */
const outcomesAtOnce = 250;
const gatherMs = 3;

/** An outcome is written down whatever ails the disk: until it is, the copy counts as under way, and no other takes its place. */
function writingDown(db: Db, health: HealthDesk, closing: () => boolean) {
	// A group is written whole or not at all: one that is tried again has nothing in it that was written before.
	const write = grouped(
		async (items: readonly Settled[]) => {
			await settleOutcomes(db, items);
			return items.map(() => undefined);
		},
		outcomesAtOnce,
		gatherMs
	);
	return (settled: Settled): Promise<void> =>
		surely(
			() => write(settled),
			() => !closing(),
			(why) =>
				health.trouble(
					`could not write down what was sent: ${isDiskFull({ message: why }) ? 'the disk is full' : why}`
				)
		);
}

/** Puts the parts of a courier together. Without `parts` all is done in the caller's thread. */
export function house(
	db: Db,
	settings: Settings,
	key: Buffer,
	{
		plan = (id) => replan(db, key, id),
		release: letGo = (id) => release(db, key, id),
		releaseFeed: letFeedGo = (id, taken) => releaseFeed(db, key, id, taken),
		followZone: follow = () => followZone(db, key),
		tellStaff = () => Promise.resolve(),
		rosters = { turnDay: () => Promise.resolve(), bring: () => Promise.resolve() },
		say = () => {},
		mail: mailBy = mailGateway,
		text: textBy = textGateway
	}: Partial<CourierParts> = {}
): House {
	let ending = false;
	const closing = () => ending;
	const me = identity(db);
	const health = healthDesk(db);
	const ended = sleeper();
	const changes = watchChanges(db);
	const coming = comingIn(db, key, settings.dataFolder, changes);
	// Without a place for what comes back there is no sender to give (RFC 5321 section 4.1.1.2).
	const mail =
		settings.smtpUrl === '' || settings.returnDomain === ''
			? noMailGateway
			: mailBy(settings.smtpUrl, settings.dkim);
	const text = settings.smppUrl === '' ? noTextGateway : textBy(settings.smppUrl, coming.text);
	const writing = writingOut(db, key, settings, { mail, text });
	const settle = writingDown(db, health, closing);
	const pace = pacer();
	const senderOf = (way: WayOut) =>
		makeSender(db, me, pace, {
			way,
			perMinute: async () => (await readDistrict(db)).pace[way],
			down: () => (way === 'text' ? text.down() : undefined),
			stopping: closing,
			prepare: way === 'email' ? writing.emails : writing.texts,
			clock: writing.clock,
			settle,
			says: (why, slowMs) => health.way(way, why, slowMs, way === 'email' ? mail.remark() : null)
		});
	return {
		...{ db, settings, key, me, health, changes, ended, coming, mail, text, tellStaff, rosters },
		watched: settings.rosterFolder === null ? null : watchedFolder(settings.rosterFolder),
		works: { changes, ended, closing, say },
		senders: { email: senderOf('email'), text: senderOf('text') },
		takeFeed: () =>
			takeFeed({
				...{ db, dataFolder: settings.dataFolder, inside: settings.feedsInside },
				publicUrl: settings.publicUrl,
				release: letFeedGo
			}),
		settleAll: settling(db, me, { plan, release: letGo, follow }),
		end() {
			ending = true;
			changes.end();
			ended.end();
		}
	};
}
