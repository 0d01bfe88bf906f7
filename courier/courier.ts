import type { SMTPServer } from 'smtp-server';
import {
	answerAddress,
	copyToken,
	deliveryOfReturn,
	messageId,
	returnAddress
} from '../src/lib/server/access/tokens';
import { now } from '../src/lib/server/clock';
import { readDistrict } from '../src/lib/server/db/district';
import { holdUp, nextToPlan, replan } from '../src/lib/server/desk/replan';
import { dispatchLetters, type DispatchLetters } from '../src/lib/server/desk/letters';
import type { ReceiptParts } from '../src/lib/core/track/text-receipt';
import type { Db } from '../src/lib/server/db/open';
import { mailGateway, type MailGateway } from '../src/lib/server/gateway/mail';
import { letterParts } from './letter-parts';
import type { Outcome } from '../src/lib/server/gateway/outcome';
import { returnMailServer, type Returned } from '../src/lib/server/gateway/return-mail';
import { textGateway, type ReceiptHandler, type TextGateway } from '../src/lib/server/gateway/text';
import type { Settings } from '../src/lib/server/settings';
import { lapse, placeInbox, spare, type Claimed } from './claim';
import { healthDesk } from './health';
import { identity } from './identity';
import { grouped } from './grouped';
import { writeOutcomes, type Settled } from './outcomes';
import { pacer } from './pacer';
import { sendProofs } from './proofs';
import { sendNotices } from './notices';
import { takeReturned, takeTextReceipts } from './receipts';
import { makeSender } from './sender';
import { strangers } from './strangers';
import { surely } from './surely';

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

/** Outcomes are written down in groups: a commit for each would cost more than the sending. */
const outcomesAtOnce = 500;
const gatherMs = 3;

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

/** What the courier's process has done by threads of their own, so that copies go on leaving meanwhile. */
export interface CourierParts {
	/** Works a scheduled dispatch out again. */
	readonly plan: (dispatchId: number) => Promise<void>;
	readonly mail: (url: string) => MailGateway;
	readonly text: (url: string, onReceipt: ReceiptHandler) => TextGateway;
}

/** Makes the courier of a database. Without `parts` it does all in the caller's thread. */
export function makeCourier(
	db: Db,
	settings: Settings,
	key: Buffer,
	{
		plan = (id) => replan(db, key, id),
		mail: mailBy = mailGateway,
		text: textBy = textGateway
	}: Partial<CourierParts> = {}
): Courier {
	const me = identity(db);
	let closing = false;
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
			(why) => health.trouble(`could not write down what was sent: ${why}`)
		);
	const unknown = strangers();
	const takeReceipts = grouped((items: readonly ReceiptParts[]) =>
		db.write((tx) => takeTextReceipts(tx, items))
	);
	const takeReceipt = async (receipt: ReceiptParts): Promise<boolean> =>
		(await takeReceipts(receipt)) || unknown.longEnough(receipt);
	const takeReturns = grouped((items: readonly Returned[]) =>
		db.write(async (tx) => {
			await takeReturned(tx, key, items);
			return items.map(() => undefined);
		})
	);
	const mail = mailBy(settings.smtpUrl);
	const text = textBy(settings.smppUrl, takeReceipt);
	/** How often in a row each dispatch could not be planned. */
	const troubles = new Map<number, number>();
	const pace = pacer();
	/** What the clock of the job is ahead of the machine's, ms; looked up with each batch. */
	let clockOffset = 0;
	let returns: SMTPServer | null = null;

	/** What the writer of a dispatch needs of one copy. */
	const copyOf = ({ id, facts, language }: Claimed) => ({
		facts,
		language,
		link: `${settings.publicUrl}/f/${copyToken(key, id)}`,
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
					detail: `a file of this letter cannot be read (${(error as Error).message})`
				};
			}
			return mail.send({
				messageId: messageId(key, copy.id, settings.returnDomain),
				date,
				from: { name: own.fromName, address: district.mailFrom },
				// Answers come to us, are kept with the copy, and are passed on from here.
				replyTo: {
					name: own.senderName,
					address: answerAddress(key, copy.id, settings.returnDomain)
				},
				askReceipt: own.askReceipt,
				to: { name: copy.facts.full, address: copy.address },
				returnAddress: returnAddress(key, copy.id, settings.returnDomain),
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
				reference: copy.id & 0xffff
			});
	}

	const senderOf = (way: 'email' | 'text') =>
		makeSender(db, me, pace, {
			way,
			perMinute: async () => (await readDistrict(db)).pace[way],
			down: async (again) => (way === 'text' ? text.down() : again ? await mail.reachable() : null),
			prepare: way === 'email' ? emailsOf : textsOf,
			clock: () => Date.now() + clockOffset,
			settle,
			says: (why, slowMs) => health.way(way, why, slowMs)
		});
	const senders = [senderOf('email'), senderOf('text')];

	return {
		async open() {
			await text.start();
			const server = returnMailServer(
				(address) => deliveryOfReturn(key, address) !== null,
				takeReturns
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
			await health.way('email', await mail.reachable(), 0);
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
			await untilNone(() => spare(db, me));
			const inbox = await untilNone(() => placeInbox(db, me));
			if (await me.holds(db)) {
				await sendProofs(db, settings, key, district, mail, text);
				await sendNotices(db, settings, key, district, mail);
			}
			const sent = await Promise.all(senders.map((sender) => sender.run()));
			await health.beat(unknown.count);
			return sent.reduce((sum, n) => sum + n, inbox);
		},
		async close() {
			closing = true;
			mail.close();
			await text.close();
			if (returns) await new Promise<void>((resolve) => returns!.close(() => resolve()));
			await me.leave();
		}
	};
}
