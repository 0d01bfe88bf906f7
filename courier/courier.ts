import type { SMTPServer } from 'smtp-server';
import {
	copyToken,
	deliveryOfReturn,
	messageId,
	returnAddress
} from '../src/lib/server/access/tokens';
import { now } from '../src/lib/server/clock';
import { readDistrict, type District } from '../src/lib/server/db/district';
import { holdUp, nextToPlan, replan } from '../src/lib/server/desk/replan';
import { dispatchLetters } from '../src/lib/server/desk/letters';
import type { Db, Query } from '../src/lib/server/db/open';
import { mailGateway } from '../src/lib/server/gateway/mail';
import { letterParts } from './letter-parts';
import type { Outcome } from '../src/lib/server/gateway/outcome';
import { returnMailServer, type Returned } from '../src/lib/server/gateway/return-mail';
import { textGateway } from '../src/lib/server/gateway/text';
import type { Settings } from '../src/lib/server/settings';
import { claim, lapse, placeInbox, type Claimed } from './claim';
import { identity } from './identity';
import { grouped } from './grouped';
import { writeOutcomes, type Settled } from './outcomes';
import { pacer } from './pacer';
import { sendProofs } from './proofs';
import { takeNotification, takeTextReceipt } from './receipts';

export interface Courier {
	/** Begins to take return mail and receipts. Throws when the return port is taken. */
	open(): Promise<void>;
	/** Works out what leaves soon, as the roster is now. Resolves to the number of dispatches; 0 also where another courier holds the office. */
	settle(): Promise<number>;
	/** Sends all that is due now. Resolves to the number of copies it dealt with; 0 also where another courier holds the office. */
	round(): Promise<number>;
	/** Shows that it lives; false while another courier holds the office. */
	beat(): Promise<boolean>;
	close(): Promise<void>;
}

/** Copies claimed at once, and how many of them are under way at the same time. */
const batch = { email: { claim: 200, atOnce: 16 }, text: { claim: 400, atOnce: 40 } } as const;
/** After a provider was not there, how long to leave it alone, ms of the machine's time. */
const pauseMs = 2_000;

/** Times in a row that a dispatch cannot be planned before it waits for its sender. */
const mostTroubles = 5;

/** Repeats a step until it finds nothing more to do; resolves to the sum. */
async function untilNone(step: () => Promise<number>): Promise<number> {
	let sum = 0;
	for (;;) {
		const n = await step();
		if (n === 0) return sum;
		sum += n;
	}
}

/**
 * `plan` works a scheduled dispatch out again; the courier's process has it done by a thread of its
 * own, so that copies of others go on leaving meanwhile.
 */
export function makeCourier(
	db: Db,
	settings: Settings,
	key: Buffer,
	plan: (dispatchId: number) => Promise<void> = (id) => replan(db, key, id)
): Courier {
	const me = identity(db);
	/** One transaction for a group of items, each taken in by `take`. */
	const inGroups = <In, Out>(take: (tx: Query, item: In) => Promise<Out>) =>
		grouped((items: readonly In[]) =>
			db.write(async (tx) => {
				const results: Out[] = [];
				for (const item of items) results.push(await take(tx, item));
				return results;
			})
		);
	const settle = grouped((items: readonly Settled[]) =>
		db.write(async (tx) => {
			await writeOutcomes(tx, items);
			return items.map(() => undefined);
		})
	);
	const takeReceipt = inGroups(takeTextReceipt);
	const takeReturned = inGroups((tx, returned: Returned) => takeNotification(tx, key, returned));
	const mail = mailGateway(settings.smtpUrl);
	const text = textGateway(settings.smppUrl, takeReceipt);
	/** How often in a row each dispatch could not be planned. */
	const troubles = new Map<number, number>();
	const pausedUntil = { email: 0, text: 0 };
	const pace = pacer();
	let returns: SMTPServer | null = null;

	/** Says how a way stands, where that has changed. */
	async function says(way: 'email' | 'text', why: string | null): Promise<void> {
		if (why !== null) pausedUntil[way] = Date.now() + pauseMs;
		const row = await db.one<{ working: number; why: string }>(
			'SELECT working, why FROM courier_way WHERE way = $way',
			{ way }
		);
		if (row && row.working === (why === null ? 1 : 0) && row.why === (why ?? '')) return;
		await db.run(
			`INSERT INTO courier_way (way, working, since, why) VALUES ($way, $working, $since, $why)
			ON CONFLICT (way) DO UPDATE SET
				since = CASE WHEN working = excluded.working THEN since ELSE excluded.since END,
				working = excluded.working, why = excluded.why`,
			{ way, working: why === null ? 1 : 0, since: await now(db), why: why ?? '' }
		);
	}

	/** What the writer of a dispatch needs of one copy. */
	const copyOf = ({ id, facts, language }: Claimed) => ({
		facts,
		language,
		link: `${settings.publicUrl}/f/${copyToken(key, id)}`,
		// A copy for information speaks of no student, and nobody stops it.
		mayStop: facts.students.length > 0
	});

	async function sendEmail(copy: Claimed, district: District): Promise<Outcome> {
		const made = await dispatchLetters(db, copy.dispatchId);
		const letter = made.letters.email(copyOf(copy));
		let parts: Awaited<ReturnType<typeof letterParts>>;
		try {
			parts = await letterParts(settings.dataFolder, made, letter);
		} catch (error) {
			return {
				kind: 'deferred',
				detail: `a file of this letter cannot be read (${(error as Error).message})`
			};
		}
		return mail.send({
			messageId: messageId(key, copy.id, settings.returnDomain),
			date: new Date(await now(db)),
			from: { name: made.fromName, address: district.mailFrom },
			replyTo: made.replyTo,
			to: { name: copy.facts.full, address: copy.address },
			returnAddress: returnAddress(key, copy.id, settings.returnDomain),
			...letter,
			...parts
		});
	}

	async function sendText(copy: Claimed, district: District): Promise<Outcome> {
		const { letters } = await dispatchLetters(db, copy.dispatchId);
		return text.send({
			to: copy.address,
			from: district.textFrom,
			text: letters.text(copyOf(copy)),
			reference: copy.id & 0xffff
		});
	}

	/** Sends one batch of a way; resolves to how many copies were settled. */
	async function sendBatch(way: 'email' | 'text', district: District): Promise<number> {
		if (Date.now() < pausedUntil[way]) return 0;
		const notThere = way === 'email' ? null : text.down();
		if (notThere !== null) {
			await says(way, notThere);
			return 0;
		}
		const room = pace.room(way, district.pace[way], await now(db));
		if (room === 0) return 0;
		const copies = await claim(db, me, way, Math.min(batch[way].claim, room));
		pace.used(way, copies.length);
		if (copies.length === 0) return 0;
		let settled = 0;
		let away: string | null = null;
		const queue = [...copies];
		const lane = async () => {
			for (let copy = queue.shift(); copy; copy = queue.shift()) {
				const outcome: Outcome =
					away === null
						? await (way === 'email' ? sendEmail : sendText)(copy, district)
						: { kind: 'unavailable', why: away };
				if (outcome.kind === 'unavailable') away = outcome.why;
				else settled += 1;
				await settle({ copy, outcome });
			}
		};
		await Promise.all(Array.from({ length: batch[way].atOnce }, lane));
		await says(way, away);
		return settled;
	}

	/** One way to its end, or to where its provider is away. */
	async function sendAll(way: 'email' | 'text', district: District): Promise<number> {
		return untilNone(() => sendBatch(way, district));
	}

	return {
		async open() {
			await text.start();
			const server = returnMailServer(
				(address) => deliveryOfReturn(key, address) !== null,
				takeReturned
			);
			returns = server;
			await new Promise<void>((resolve, reject) => {
				server.once('error', reject);
				server.listen(settings.returnPort, '127.0.0.1', () => {
					server.off('error', reject);
					// A client that hangs up in the middle is the client's affair.
					server.on('error', () => {});
					resolve();
				});
			});
			await says('email', await mail.reachable());
		},
		beat: () => me.beat(),
		async settle() {
			let done = 0;
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
		},
		async round() {
			const district = await readDistrict(db);
			await untilNone(() => lapse(db, me));
			const inbox = await untilNone(() => placeInbox(db, me));
			if (await me.holds(db)) await sendProofs(db, settings, key, district, mail, text);
			const [emails, texts] = await Promise.all([
				sendAll('email', district),
				sendAll('text', district)
			]);
			return inbox + emails + texts;
		},
		async close() {
			mail.close();
			await text.close();
			if (returns) await new Promise<void>((resolve) => returns!.close(() => resolve()));
			await me.leave();
		}
	};
}
