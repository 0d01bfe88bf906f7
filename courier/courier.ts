import type { SMTPServer } from 'smtp-server';
import { addresseeOf } from '../src/lib/server/access/return-address';
import { addressFor, copyToken, messageId, textReference } from '../src/lib/server/access/tokens';
import { now } from '../src/lib/server/clock';
import { readDistrict } from '../src/lib/server/db/district';
import { zoneMoved } from '../src/lib/server/desk/send/realign';
import {
	followZone,
	holdUp,
	nextPlanning,
	nextToPlan,
	replan
} from '../src/lib/server/desk/send/replan';
import { dispatchLetters, type DispatchLetters } from '../src/lib/server/desk/sheet/letters';
import type { ReceiptParts } from '../src/lib/core/track/text-receipt';
import { takeTexts } from '../src/lib/server/desk/replies/take-texts';
import type { Db } from '../src/lib/server/db/open';
import { mailGateway, type Dkim, type MailGateway } from '../src/lib/server/gateway/mail';
import { letterParts } from './letter-parts';
import type { Outcome } from '../src/lib/server/gateway/outcome';
import {
	returnMailServer,
	type ReadMail,
	type Returned
} from '../src/lib/server/gateway/return-mail';
import {
	type IncomingText,
	noTextGateway,
	textGateway,
	type ReceiptHandler,
	type TextGateway
} from '../src/lib/server/gateway/text';
import { read, TooLong } from '../src/lib/server/reading/reading';
import { isDiskFull } from '../src/lib/server/disk';
import type { Settings } from '../src/lib/server/settings';
import { watchChanges } from './changes';
import { lapse, nextWithoutProvider, placeInbox, spare, type Claimed } from './claim';
import { healthDesk } from './health';
import { identity } from './identity';
import { grouped } from './grouped';
import { writeOutcomes, type Settled } from './outcomes';
import { pacer } from './pacer';
import { sendProofs } from './proofs';
import { nextNotice, sendNotices } from './notices';
import { takeReturned, takeTextReceipts } from './receipts';
import { makeSender, type Sender } from './sender';
import { sleeper } from './sleeper';
import { strangers } from './strangers';
import { surely } from './surely';
import type { WayOut } from '../src/lib/core/roster/way';

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

/** Outcomes are written down in groups: a commit for each would cost more than the sending. */
const outcomesAtOnce = 500;
const gatherMs = 3;

/** Times in a row that a dispatch cannot be planned before it waits for its sender. */
const mostTroubles = 5;

/** A beat, ms; and how long a work waits at most without a change or a due moment. */
const beatMs = 2_000;
const longestMs = 30_000;
/** What is written to the staff by itself waits for no copy; looked at now and then, ms. */
const tellMs = 5_000;
/** After a work has failed, how long until it is tried again, ms. */
const troubleMs = 1_000;
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

/** What the courier's process has done by threads of their own, so that copies go on leaving meanwhile. */
export interface CourierParts {
	/** Works a scheduled dispatch out again. */
	readonly plan: (dispatchId: number) => Promise<void>;
	/** Moves what is planned by local time when the district's zone was changed. */
	readonly followZone: () => Promise<void>;
	/** Writes what is written to the staff by itself: accounts, addresses to mend. */
	readonly tellStaff: () => Promise<unknown>;
	/** Says a line to whoever runs it. */
	readonly say: (line: string) => void;
	readonly mail: (url: string, dkim: Dkim | null) => MailGateway;
	readonly text: (url: string, onReceipt: ReceiptHandler) => TextGateway;
}

/** Makes the courier of a database. Without `parts` it does all in the caller's thread. */
export function makeCourier(
	db: Db,
	settings: Settings,
	key: Buffer,
	{
		plan = (id) => replan(db, key, id),
		followZone: follow = () => followZone(db, key),
		tellStaff = () => Promise.resolve(),
		say = () => {},
		mail: mailBy = mailGateway,
		text: textBy = textGateway
	}: Partial<CourierParts> = {}
): Courier {
	const me = identity(db);
	let closing = false;
	const ended = sleeper();
	const health = healthDesk(db);
	const writeDown = grouped(
		(items: readonly Settled[]) =>
			db.write(async (tx) => {
				await writeOutcomes(tx, items);
				return items.map(() => undefined);
			}),
		outcomesAtOnce,
		gatherMs
	);
	/** An outcome is written down whatever ails the disk: until it is, the copy counts as under way, and no other takes its place. */
	const settle = (settled: Settled): Promise<void> =>
		surely(
			() => writeDown(settled),
			() => !closing,
			(why) =>
				health.trouble(
					`could not write down what was sent: ${isDiskFull({ message: why }) ? 'the disk is full' : why}`
				)
		);
	const changes = watchChanges(db);
	/** In a thread of its own: what makes its reader slow holds no copy up. What cannot be read in time is kept as that; coming again would not help it. */
	const readMail = async (message: Buffer, returnPath: string): Promise<ReadMail> => {
		try {
			return await read('mail', [message, returnPath]);
		} catch (error) {
			if (!(error instanceof TooLong)) throw error;
			return {
				mail: { kind: 'automatic', why: 'a mail that could not be read in time', words: '' },
				asItCame: { words: message.toString('latin1').slice(0, 2_000), machine: '' }
			};
		}
	};
	const unknown = strangers();
	const takeReceipts = grouped((items: readonly ReceiptParts[]) =>
		db.write((tx) => takeTextReceipts(tx, items))
	);
	const takePhones = grouped((items: readonly IncomingText[]) =>
		db
			.write(async (tx) => {
				await takeTexts(tx, items);
				return items.map(() => true);
			})
			.finally(() => changes.tell())
	);
	const takeReceipt = async (came: ReceiptParts | IncomingText): Promise<boolean> =>
		'words' in came ? takePhones(came) : (await takeReceipts(came)) || unknown.longEnough(came);
	const takeReturns = grouped((items: readonly Returned[]) =>
		db
			.write(async (tx) => {
				await takeReturned(tx, key, items);
				return items.map(() => undefined);
			})
			.finally(() => changes.tell())
	);
	const mail = mailBy(settings.smtpUrl, settings.dkim);
	const text = settings.smppUrl === '' ? noTextGateway : textBy(settings.smppUrl, takeReceipt);
	/** How often in a row each dispatch could not be planned. */
	const troubles = new Map<number, number>();
	const pace = pacer();
	/** What the clock of the job is ahead of the machine's, ms; looked up with each batch. */
	let clockOffset = 0;
	let returns: SMTPServer | null = null;

	/** What the writer of a dispatch needs of one copy. */
	const copyOf = ({ nonce, facts, language }: Claimed) => ({
		facts,
		language,
		link: `${settings.publicUrl}/f/${copyToken(key, nonce)}`,
		// A copy for information speaks of no student, and nobody stops it.
		mayStop: facts.students.length > 0
	});

	/** What a batch of copies has in common: the district, the time, and the writers of its dispatches. */
	async function inCommon(copies: readonly Claimed[]) {
		const made = new Map<number, DispatchLetters>();
		for (const { dispatchId } of copies) {
			if (!made.has(dispatchId)) made.set(dispatchId, await dispatchLetters(db, dispatchId));
		}
		const time = await now(db);
		clockOffset = time - Date.now();
		return { district: await readDistrict(db), date: new Date(time), made };
	}

	async function emailsOf(copies: readonly Claimed[]) {
		const { district, date, made } = await inCommon(copies);
		return async (copy: Claimed): Promise<Outcome> => {
			const own = made.get(copy.dispatchId)!;
			const letter = own.letters.email(copyOf(copy));
			let parts: Awaited<ReturnType<typeof letterParts>>;
			try {
				parts = await letterParts(settings.dataFolder, own, letter);
			} catch (error) {
				return {
					kind: 'deferred',
					detail: 'a file of this letter cannot be read',
					said: (error as Error).message
				};
			}
			return mail.send({
				messageId: messageId(key, 'return', copy, settings.returnDomain),
				date,
				from: { name: own.fromName, address: district.mailFrom },
				// Answers come to us, are kept with the copy, and are passed on from here. An announcement asks for none.
				replyTo:
					own.kind === 'announcement'
						? null
						: {
								name: own.senderName,
								address: addressFor(key, 'answer', copy, settings.returnDomain)
							},
				askReceipt: own.askReceipt,
				to: { name: copy.facts.full, address: copy.address },
				returnAddress: addressFor(key, 'return', copy, settings.returnDomain),
				...letter,
				...parts
			});
		};
	}

	async function textsOf(copies: readonly Claimed[]) {
		const { district, made } = await inCommon(copies);
		return (copy: Claimed): Promise<Outcome> =>
			text.send({
				to: copy.address,
				from: district.textFrom,
				text: made.get(copy.dispatchId)!.letters.text(copyOf(copy)),
				reference: textReference(key, copy.nonce)
			});
	}

	const senderOf = (way: WayOut) =>
		makeSender(db, me, pace, {
			way,
			perMinute: async () => (await readDistrict(db)).pace[way],
			down: () => (way === 'text' ? text.down() : undefined),
			stopping: () => closing,
			prepare: way === 'email' ? emailsOf : textsOf,
			clock: () => Date.now() + clockOffset,
			settle,
			says: (why, slowMs) => health.way(way, why, slowMs, way === 'email' ? mail.remark() : null)
		});
	const [emails, texts] = [senderOf('email'), senderOf('text')];
	let running: Promise<unknown> | null = null;
	let opened = false;

	/** What of a dispatch needs no provider: what has lapsed, what is not needed, and the inbox. */
	const withoutProvider = async () => {
		await untilNone(() => lapse(db, me));
		await untilNone(() => spare(db, me));
		return untilNone(() => placeInbox(db, me));
	};
	/** Proofs, and letters to the staff. */
	const toStaff = async () => {
		if (!(await me.holds(db))) return;
		const district = await readDistrict(db);
		await sendProofs(db, settings, key, district, mail, text);
		await sendNotices(db, settings, key, district, mail);
	};

	async function settleAll(): Promise<number> {
		let done = 0;
		if (await zoneMoved(db)) await follow();
		for (let before: number | null = null; ;) {
			if (!(await me.holds(db))) return done;
			const id = await nextToPlan(db);
			// One that is still there after it was planned is looked at again in the next round.
			if (id === null || id === before) return done;
			before = id;
			try {
				await plan(id);
				troubles.delete(id);
				done += 1;
			} catch (error) {
				const times = (troubles.get(id) ?? 0) + 1;
				troubles.set(id, times);
				// A passing trouble passes; what fails again and again must not stand in the way of others.
				if (times >= mostTroubles) {
					await holdUp(db, id, `It could not be worked out: ${(error as Error).message}`);
				}
			}
		}
	}

	/** Until a moment of the job's clock, ms; never longer than a work may wait. */
	const until = async (at: number | null): Promise<number> =>
		at === null ? longestMs : Math.min(longestMs, Math.max(0, at - (await now(db))));

	/** A work that goes on until the courier ends: done once, then waiting for what it says, or for a change. */
	async function goOn(name: string, work: () => Promise<number>): Promise<void> {
		let lastTrouble = '';
		while (!closing) {
			let wait = troubleMs;
			const since = changes.count;
			try {
				wait = await work();
				lastTrouble = '';
			} catch (error) {
				const { message } = error as Error;
				if (message !== lastTrouble) say(`${name} could not go on: ${message}; trying again`);
				lastTrouble = message;
			}
			await changes.wait(wait, since);
		}
	}

	/** One way's sending, as often as there is something to send. */
	const sending = (sender: Sender) => async (): Promise<number> => {
		// Until its providers were spoken to for the first time, nothing is known of them.
		if (!opened || !(await me.holds(db))) return longestMs;
		const { settled, againMs, nextAt } = await sender.run();
		if (settled > 0) return 0;
		// What is due and does not leave (it is not settled, or a turn is not needed) changes by a change.
		const dueIn = nextAt === null ? longestMs : nextAt - (await now(db));
		const wait = dueIn > 0 ? Math.min(dueIn, longestMs) : longestMs;
		return againMs === null ? wait : dueIn > againMs ? wait : againMs;
	};

	/** Comes into office and shows that it lives; opens its doors once it is there. */
	let standingBy = false;
	async function office(): Promise<number> {
		const was = me.fence;
		const mine = await me.beat();
		if (mine && (was !== me.fence || standingBy)) say('at work');
		if (!mine && !standingBy) say('another courier is at work; standing by');
		standingBy = !mine;
		if (mine && !opened) {
			await open();
			opened = true;
			changes.tell();
		}
		return beatMs;
	}

	async function open(): Promise<void> {
		await text.start();
		const server = returnMailServer(
			async (address) => (await addresseeOf(db, key, address)) !== null,
			takeReturns,
			readMail
		);
		await new Promise<void>((resolve, reject) => {
			server.once('error', (error: NodeJS.ErrnoException) =>
				reject(
					error.code === 'EADDRINUSE'
						? new Error(
								`port ${settings.returnPort} is taken, so returned mail cannot come in: free it, or set IDLE_COURIER_RETURN_PORT`
							)
						: error
				)
			);
			server.listen(settings.returnPort, settings.returnHost, () => {
				server.removeAllListeners('error');
				// A client that hangs up in the middle is the client's affair.
				server.on('error', () => {});
				resolve();
			});
		});
		returns = server;
		await health.way('email', await mail.reachable(), 0, null);
	}

	/** The beat goes by its own clock: no work and no change may hold it up. */
	async function beating(): Promise<void> {
		let lastTrouble = '';
		while (!closing) {
			const wait = await office().then(
				(ms) => {
					lastTrouble = '';
					return ms;
				},
				(error: Error) => {
					if (error.message !== lastTrouble) say(`could not go on: ${error.message}; trying again`);
					lastTrouble = error.message;
					return troubleMs;
				}
			);
			await ended.wait(wait);
		}
	}

	return {
		open,
		beat: () => me.beat(),
		settle: settleAll,
		async round() {
			const inbox = await withoutProvider();
			await toStaff();
			const sent = await Promise.all([emails, texts].map((sender) => sender.run()));
			await health.beat(unknown.count);
			return sent.reduce((sum, n) => sum + n.settled, inbox);
		},
		async run() {
			const all = Promise.all([
				beating(),
				goOn('what leaves next', async () => {
					if (!(await me.holds(db))) return longestMs;
					await settleAll();
					return until(await nextPlanning(db));
				}),
				goOn('the inbox', async () => {
					if (!(await me.holds(db))) return longestMs;
					await withoutProvider();
					await health.beat(unknown.count);
					return until(await nextWithoutProvider(db));
				}),
				goOn('email', sending(emails)),
				goOn('texts', sending(texts)),
				goOn('letters to the staff', async () => {
					await toStaff();
					return until(await nextNotice(db));
				}),
				goOn('what is told to the staff', async () => {
					if (await me.holds(db)) await tellStaff();
					await ended.wait(tellMs);
					return longestMs;
				})
			]);
			running = all;
			await all;
		},
		async close() {
			closing = true;
			changes.end();
			ended.end();
			const late = new Promise<void>((go) => setTimeout(go, endingMs).unref());
			if (running) await Promise.race([running, late]);
			// What has had no answer by now gets none.
			mail.close();
			await text.close();
			if (running)
				await Promise.race([running, new Promise((go) => setTimeout(go, 1_000).unref())]);
			if (returns) await new Promise<void>((resolve) => returns!.close(() => resolve()));
			await me.leave();
		}
	};
}
