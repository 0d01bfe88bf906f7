import { addressFor, copyToken, messageId, textReference } from '../src/lib/server/access/tokens';
import { now } from '../src/lib/server/clock';
import { readDistrict } from '../src/lib/server/db/district';
import type { Db } from '../src/lib/server/db/open';
import { dispatchLetters, type DispatchLetters } from '../src/lib/server/desk/sheet/letters';
import { threadsOf } from '../src/lib/server/desk/replies/threads';
import type { MailGateway } from '../src/lib/server/gateway/mail';
import type { Outcome } from '../src/lib/server/gateway/outcome';
import type { TextGateway } from '../src/lib/server/gateway/text';
import type { Settings } from '../src/lib/server/settings';
import type { Claimed } from './claim';
import { letterParts } from './letter-parts';

/** Writes claimed copies out and hands them to their providers. */
export interface WritingOut {
	/** Reads what a batch has in common; what it resolves to sends one copy. */
	emails(copies: readonly Claimed[]): Promise<(copy: Claimed) => Promise<Outcome>>;
	texts(copies: readonly Claimed[]): Promise<(copy: Claimed) => Promise<Outcome>>;
	/** The clock of the job, ms; its offset is looked up with each batch. */
	clock(): number;
}

export function writingOut(
	db: Db,
	key: Buffer,
	settings: Settings,
	{ mail, text }: { readonly mail: MailGateway; readonly text: TextGateway }
): WritingOut {
	/** What the clock of the job is ahead of the machine's, ms. */
	let clockOffset = 0;

	/** What the writer of a dispatch needs of one copy. */
	const copyOf = ({ nonce, facts, language }: Claimed, kind: DispatchLetters['kind']) => ({
		facts,
		language,
		link: `${settings.publicUrl}/f/${copyToken(key, nonce)}`,
		// A copy for information speaks of no student, and nobody stops it; nor an answer to what one has written.
		mayStop: facts.students.length > 0 && kind !== 'answer'
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

	async function emails(copies: readonly Claimed[]) {
		const { district, date, made } = await inCommon(copies);
		// What answers a family stands beside what it answers.
		const answering = copies.filter((c) => made.get(c.dispatchId)!.kind === 'answer');
		const threads = await threadsOf(
			db,
			key,
			settings.returnDomain,
			answering.map((c) => c.id)
		);
		return async (copy: Claimed): Promise<Outcome> => {
			const own = made.get(copy.dispatchId)!;
			const letter = own.letters.email(copyOf(copy, own.kind));
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
				thread: threads.get(copy.id) ?? null,
				to: { name: copy.facts.full, address: copy.address },
				returnAddress: addressFor(key, 'return', copy, settings.returnDomain),
				...letter,
				...parts
			});
		};
	}

	async function texts(copies: readonly Claimed[]) {
		const { district, made } = await inCommon(copies);
		return (copy: Claimed): Promise<Outcome> => {
			const own = made.get(copy.dispatchId)!;
			return text.send({
				to: copy.address,
				from: district.textFrom,
				text: own.letters.text(copyOf(copy, own.kind)),
				reference: textReference(key, copy.nonce)
			});
		};
	}

	return { emails, texts, clock: () => Date.now() + clockOffset };
}
