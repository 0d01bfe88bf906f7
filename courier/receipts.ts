import { addresseesOf, type Addressee } from '../src/lib/server/access/return-address';
import { now } from '../src/lib/server/clock';
import { inSteps } from '../src/lib/server/db/at-once';
import type { Db, Query } from '../src/lib/server/db/open';
import { record, type Happening } from '../src/lib/server/desk/track/record';
import { joinByMail } from '../src/lib/server/desk/joining/by-mail';
import type { KeptAnswerFile } from '../src/lib/server/desk/replies/answer-files';
import { answerByMail } from '../src/lib/server/desk/replies/staff-mail';
import { takeAnswers, type MailCame } from '../src/lib/server/desk/replies/take-answers';
import type { Returned, ReturnedMail } from '../src/lib/server/gateway/return-mail';
import { asItCame, type Came } from './as-it-came';
import { failedIn, happeningsOf, type Fault } from './mail-sayings';
import {
	addressesFail,
	failAgainAndAgain,
	failInTheEnd,
	recordWithFaults
} from './failing-addresses';
import { answerAbout, sentCopies, type SentCopy } from './sent-copies';

/** What came back about a proof, a letter to the staff or one to whoever joins a group: only that it did not arrive matters. */
async function letterOfOurs(
	tx: Query,
	table: 'proof' | 'notice' | 'auto_note',
	id: number,
	mail: ReturnedMail
): Promise<void> {
	if (mail.kind !== 'notification') return;
	const failed = mail.notification.recipients.find((r) => r.action === 'failed');
	if (!failed) return;
	await tx.run(`UPDATE ${table} SET state = 'failed', detail = $detail WHERE id = $id`, {
		id,
		detail: `returned: ${failed.text} (${failed.status})`
	});
}

/** A mail that came, with what was kept of its files. */
export interface KeptReturned extends Returned {
	readonly files?: readonly KeptAnswerFile[];
}

/** What a mail says of the copies that it is about. */
interface AboutCopies {
	readonly happenings: readonly Happening[];
	readonly faults: readonly Fault[];
	readonly came: readonly Came[];
	/** What a person wrote. */
	readonly answer: MailCame | null;
}
/** A mail that came, whom its address was made for, and what it says of copies; null where it is about none. */
interface Read {
	readonly item: KeptReturned;
	readonly addressee: Addressee | null;
	readonly about: AboutCopies | null;
}

/** What a mail to an address of a copy, or of a letter of several, says of them. */
function saidOfCopies(
	{ mail, asItCame: words, files = [] }: KeptReturned,
	mailbox: 'return' | 'answer',
	copies: readonly SentCopy[],
	at: number
): AboutCopies | null {
	const first = answerAbout(copies);
	if (!first) return null;
	if (mail.kind === 'answer') {
		const answer = { deliveryId: first.id, mailbox, answer: { ...mail.answer, files } };
		return { happenings: [], faults: [], came: [], answer };
	}
	const said = copies.map((copy) => ({ copy, ...happeningsOf(copy, mailbox, mail, at) }));
	return {
		happenings: said.flatMap((s) => s.happenings),
		faults: said.flatMap((s) => s.faults),
		came: said.map(({ copy, happenings }) => ({
			...{ deliveryId: copy.id, at, code: happenings[0]?.code ?? mail.kind },
			...words
		})),
		answer: null
	};
}

/** Reads whom a group of mails is about. The address it came to says which row it is and what may come there; one that does not fit the key is nobody's. */
async function readGroup(
	q: Query,
	key: Buffer,
	group: readonly KeptReturned[],
	at: number
): Promise<Read[]> {
	const addressees = await addresseesOf(
		q,
		key,
		group.map((g) => g.address)
	);
	const sent = await sentCopies(q, addressees);
	return group.map((item, i) => {
		const addressee = addressees[i]!;
		const mailbox = addressee && copyMailbox[addressee.mailbox];
		return {
			...{ item, addressee },
			about: mailbox ? saidOfCopies(item, mailbox, sent(addressee), at) : null
		};
	});
}

/** What comes to which addresses is about copies, and as what. */
const copyMailbox: Readonly<Partial<Record<Addressee['mailbox'], 'return' | 'answer'>>> = {
	return: 'return',
	digest: 'return',
	answer: 'answer',
	'digest-answer': 'answer'
};

/** Takes a mail that is about no copy: to whoever wants to join, to staff, and what came back about a letter of ours. */
async function takeOther(
	tx: Query,
	key: Buffer,
	{ item: { address, mail, files = [] }, addressee }: Read,
	at: number
): Promise<void> {
	// Only what a person wrote: a machine wants to join nothing.
	if (!addressee) {
		if (mail.kind === 'answer') await joinByMail(tx, address, mail.answer, at);
		return;
	}
	const { mailbox, id } = addressee;
	if (mailbox === 'staff') {
		if (mail.kind === 'answer') await answerByMail(tx, key, id, { ...mail.answer, files }, at);
	} else if (mailbox === 'proof' || mailbox === 'notice' || mailbox === 'join') {
		await letterOfOurs(tx, mailbox === 'join' ? 'auto_note' : mailbox, id, mail);
	}
}

/** Takes returned mail in, a group at a time; what comes twice is kept once. */
export async function takeReturned(
	tx: Query,
	key: Buffer,
	group: readonly KeptReturned[]
): Promise<void> {
	const at = await now(tx);
	const read = await readGroup(tx, key, group, at);
	for (const one of read) if (!one.about) await takeOther(tx, key, one, at);
	const about = read.flatMap((r) => r.about ?? []);
	const happenings = about.flatMap((a) => a.happenings);
	await inSteps(tx, asItCame(about.flatMap((a) => a.came)));
	await record(tx, happenings, { once: true });
	await addressesFail(
		tx,
		about.flatMap((a) => a.faults),
		at
	);
	await failAgainAndAgain(tx, failedIn(happenings), at);
	await takeAnswers(
		tx,
		key,
		about.flatMap((a) => a.answer ?? []),
		at
	);
}

/** As {@link takeReturned}. Of what only says something of copies, which is nearly all, the database is asked before others wait for it. */
export async function returnedCome(
	db: Db,
	key: Buffer,
	group: readonly KeptReturned[]
): Promise<void> {
	const at = await now(db);
	const plain: KeptReturned[] = [];
	const rest: KeptReturned[] = [];
	const [happenings, faults, came]: [Happening[], Fault[], Came[]] = [[], [], []];
	for (const { item, about } of await readGroup(db, key, group, at)) {
		if (!about || about.answer) {
			rest.push(item);
			continue;
		}
		plain.push(item);
		happenings.push(...about.happenings);
		faults.push(...about.faults);
		came.push(...about.came);
	}
	if (
		await recordWithFaults(db, { happenings, faults }, at, { once: true, beside: asItCame(came) })
	)
		await failInTheEnd(db, failedIn(happenings), at);
	else rest.push(...plain);
	if (rest.length > 0) await db.write((tx) => takeReturned(tx, key, rest));
}
