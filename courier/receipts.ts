import type { Disposition } from '../src/lib/core/track/disposition';
import type { RecipientStatus } from '../src/lib/core/track/notification';
import { matterOf } from '../src/lib/core/track/status-code';
import { mailKey } from '../src/lib/core/format/mail-address';
import { addresseesOf } from '../src/lib/server/access/return-address';
import { now } from '../src/lib/server/clock';
import type { Query } from '../src/lib/server/db/open';
import { record, type Happening } from '../src/lib/server/desk/track/record';
import { joinByMail } from '../src/lib/server/desk/joining/by-mail';
import type { KeptAnswerFile } from '../src/lib/server/desk/replies/answer-files';
import { answerByMail } from '../src/lib/server/desk/replies/staff-mail';
import {
	atWrongAddress,
	takeAnswers,
	type MailCame
} from '../src/lib/server/desk/replies/take-answers';
import type { Returned, ReturnedMail } from '../src/lib/server/gateway/return-mail';
import { keepAsItCame, type Came } from './as-it-came';
import { addressesFail, failAgainAndAgain } from './outcomes';
import { answerAbout, sentCopies } from './sent-copies';

export interface Fault {
	readonly deliveryId: number;
	readonly why: string;
}

export const failedIn = (happenings: readonly Happening[]): number[] =>
	happenings.filter((h) => h.kind === 'failed').map((h) => h.deliveryId);

/** Of whom a report speaks: of the mailbox we wrote to, of one that ours was passed on to, or of somebody else. */
function aboutWhom(
	sentTo: string,
	{
		finalRecipient,
		originalRecipient
	}: { finalRecipient: string; originalRecipient: string | null }
): 'ours' | 'passed on' | 'other' {
	const ours = mailKey(sentTo);
	if (mailKey(finalRecipient) === ours) return 'ours';
	return originalRecipient !== null && mailKey(originalRecipient) === ours ? 'passed on' : 'other';
}

/** What a notification says of one recipient, as evidence. What it says of a mailbox other than the one we wrote to settles nothing. */
function statusHappening(
	deliveryId: number,
	sentTo: string,
	at: number,
	said: RecipientStatus
): Happening {
	const { action, status, text, finalRecipient } = said;
	const base = { deliveryId, at, source: 'notification' as const, code: status };
	switch (aboutWhom(sentTo, said)) {
		case 'passed on':
			return {
				...base,
				kind: 'noted',
				code: 'passed-on',
				detail: `the mailbox passes its mail on to ${finalRecipient}: ${action === 'failed' ? `${text} there` : `${action} there`}`,
				said: status
			};
		case 'other':
			return {
				...base,
				kind: 'noted',
				code: 'other-recipient',
				detail: `a report about another address (${finalRecipient}) came back, which settles nothing`,
				said: `${action}, ${status}`
			};
		case 'ours':
	}
	switch (action) {
		case 'delivered':
			return {
				...base,
				kind: 'delivered',
				detail: 'the mailbox has it',
				said: `notification, ${status}`
			};
		case 'failed':
			return {
				...base,
				kind: 'failed',
				code: matterOf(`${status} ${said.diagnostic}`),
				detail: `returned: ${text}`,
				said: status
			};
		case 'delayed':
			return {
				...base,
				kind: 'deferred',
				detail: `the mail system still tries: ${text}`,
				said: status
			};
		case 'relayed':
			return {
				...base,
				kind: 'noted',
				detail: 'passed on to a mail system that sends no notifications',
				said: status
			};
		case 'expanded':
			return { ...base, kind: 'noted', detail: 'passed on to several mailboxes', said: status };
	}
}

/** What a read receipt says, as evidence. One that a mail program sent of its own accord shows that the letter arrived, and no reader. */
function receiptHappening(
	deliveryId: number,
	sentTo: string,
	at: number,
	d: Disposition
): Happening {
	const base = { deliveryId, at, source: 'read receipt' as const, code: d.type };
	if (aboutWhom(sentTo, d) === 'other') {
		return {
			...base,
			kind: 'noted',
			code: 'other-recipient',
			detail: `a read receipt of another address (${d.finalRecipient}) came back, which settles nothing`
		};
	}
	const mode = d.byHand ? 'sent by the reader' : 'sent by the mail program by itself';
	switch (d.type) {
		case 'displayed':
			return {
				...base,
				kind: 'receipt',
				detail: 'a read receipt says that it was shown',
				said: mode,
				strength: d.byHand ? 'strong' : 'weak'
			};
		case 'deleted':
			return {
				...base,
				kind: 'noted',
				detail: 'deleted, perhaps unread',
				said: `read receipt, ${mode}`
			};
		case 'dispatched':
			return {
				...base,
				kind: 'noted',
				detail: 'passed on by the mail program',
				said: `read receipt, ${mode}`
			};
		case 'processed':
			return {
				...base,
				kind: 'noted',
				detail: 'handled by a program without being shown',
				said: `read receipt, ${mode}`
			};
	}
}

/** What a mail about a copy says, as evidence, and where the address itself is at fault. */
function happeningsOf(
	copy: { readonly id: number; readonly address: string },
	mailbox: 'return' | 'answer',
	mail: Exclude<ReturnedMail, { kind: 'answer' }>,
	at: number
): { happenings: Happening[]; faults: Fault[] } {
	const only = (happening: Happening) => ({ happenings: [happening], faults: [] });
	switch (mail.kind) {
		case 'notification': {
			if (mailbox === 'answer') return only(atWrongAddress(copy.id, at, 'a notification'));
			const { recipients } = mail.notification;
			return {
				happenings: recipients.map((r) => statusHappening(copy.id, copy.address, at, r)),
				faults: recipients.flatMap((r) =>
					r.action === 'failed' &&
					aboutWhom(copy.address, r) === 'ours' &&
					matterOf(`${r.status} ${r.diagnostic}`) === 'address'
						? [{ deliveryId: copy.id, why: r.text }]
						: []
				)
			};
		}
		case 'read receipt':
			return only(
				mailbox === 'answer'
					? atWrongAddress(copy.id, at, 'a read receipt')
					: receiptHappening(copy.id, copy.address, at, mail.disposition)
			);
		case 'automatic':
			return only({
				deliveryId: copy.id,
				at,
				kind: 'noted',
				source: 'notification',
				code: 'automatic',
				detail: `${mail.why} came back, which settles nothing: “${mail.words}”`
			});
	}
}

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

/**
 * Takes returned mail in, a group at a time. The address it came to says which row it is about and
 * what may come there; one that does not fit the key is nobody's, and what comes twice is kept once.
 */
export async function takeReturned(
	tx: Query,
	key: Buffer,
	group: readonly KeptReturned[]
): Promise<void> {
	const at = await now(tx);
	const happenings: Happening[] = [];
	const faults: Fault[] = [];
	const answers: MailCame[] = [];
	const came: Came[] = [];
	const addressees = await addresseesOf(
		tx,
		key,
		group.map((g) => g.address)
	);
	const sent = await sentCopies(tx, addressees);
	for (const [i, { address, mail, asItCame, files = [] }] of group.entries()) {
		const addressee = addressees[i];
		if (!addressee) {
			// Only what a person wrote: a machine wants to join nothing.
			if (mail.kind === 'answer') await joinByMail(tx, address, mail.answer, at);
			continue;
		}
		const { mailbox, id } = addressee;
		if (mailbox === 'staff') {
			if (mail.kind === 'answer') await answerByMail(tx, key, id, { ...mail.answer, files }, at);
			continue;
		}
		if (mailbox === 'proof' || mailbox === 'notice' || mailbox === 'join') {
			await letterOfOurs(tx, mailbox === 'join' ? 'auto_note' : mailbox, id, mail);
			continue;
		}
		const copies = sent(addressee);
		const about = answerAbout(copies);
		if (!about) continue;
		const plain = mailbox === 'answer' || mailbox === 'digest-answer' ? 'answer' : 'return';
		if (mail.kind === 'answer') {
			answers.push({ deliveryId: about.id, mailbox: plain, answer: { ...mail.answer, files } });
			continue;
		}
		for (const copy of copies) {
			const said = happeningsOf(copy, plain, mail, at);
			happenings.push(...said.happenings);
			faults.push(...said.faults);
			came.push({
				...{ deliveryId: copy.id, at, code: said.happenings[0]?.code ?? mail.kind },
				...asItCame
			});
		}
	}
	await keepAsItCame(tx, came);
	await record(tx, happenings, { once: true });
	await addressesFail(tx, faults, at);
	await failAgainAndAgain(tx, failedIn(happenings), at);
	await takeAnswers(tx, key, answers, at);
}
