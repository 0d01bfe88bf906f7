import { measureText } from '../src/lib/core/copy/segments';
import { textReference } from '../src/lib/server/access/tokens';
import { now } from '../src/lib/server/clock';
import { readDistrict } from '../src/lib/server/db/district';
import type { Db } from '../src/lib/server/db/open';
import { dispatchLetters, type DispatchLetters } from '../src/lib/server/desk/sheet/letters';
import { threadsOf } from '../src/lib/server/desk/replies/threads';
import type { MailGateway } from '../src/lib/server/gateway/mail';
import type { Letter } from '../src/lib/server/gateway/mail-letter';
import type { Outcome } from '../src/lib/server/gateway/outcome';
import type { TextGateway } from '../src/lib/server/gateway/text';
import type { Settings } from '../src/lib/server/settings';
import type { Claimed } from './claim';
import type { Handover } from './digests';
import { copyOf, writtenEmail } from './written-email';

/** Writes claimed copies out and hands them to their providers. */
export interface WritingOut {
	/** Reads what a batch has in common; what it resolves to sends one copy, or those that go in one letter. */
	emails(copies: readonly Claimed[]): Promise<(handover: Handover) => Promise<Outcome>>;
	texts(copies: readonly Claimed[]): Promise<(handover: Handover) => Promise<Outcome>>;
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

	const by = { key, settings };

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
		const common = await inCommon(copies);
		// What answers a family stands beside what it answers.
		const answering = copies.filter((c) => common.made.get(c.dispatchId)!.kind === 'answer');
		const threads = await threadsOf(
			db,
			key,
			settings.returnDomain,
			answering.map((c) => c.id)
		);
		return async (handover: Handover): Promise<Outcome> => {
			let letter: Letter;
			try {
				letter = await writtenEmail(by, { ...common, threads }, handover);
			} catch (error) {
				return {
					kind: 'deferred',
					detail: 'a file of this letter cannot be read',
					said: (error as Error).message
				};
			}
			return mail.send(letter);
		};
	}

	async function texts(copies: readonly Claimed[]) {
		const { district, made } = await inCommon(copies);
		return async ([copy]: Handover): Promise<Outcome> => {
			const own = made.get(copy.dispatchId)!;
			const words = own.letters.text(copyOf(by, copy, own.kind));
			const outcome = await text.send({
				to: copy.address,
				from: district.textFrom,
				text: words,
				reference: textReference(copy.nonce)
			});
			return outcome.kind === 'accepted'
				? { ...outcome, parts: measureText(words).parts }
				: outcome;
		};
	}

	return { emails, texts, clock: () => Date.now() + clockOffset };
}
