import { letterheadOf } from '../src/lib/server/db/district';
import { digestLetter } from '../src/lib/core/copy/digest-letter';
import { addressFor, copyToken, messageId } from '../src/lib/server/access/tokens';
import type { District } from '../src/lib/server/db/district';
import type { Thread } from '../src/lib/server/desk/replies/threads';
import type { DispatchLetters } from '../src/lib/server/desk/sheet/letters';
import type { Letter } from '../src/lib/server/gateway/mail-letter';
import type { Settings } from '../src/lib/server/settings';
import type { Claimed } from './claim';
import type { Handover } from './digests';
import { letterParts } from './letter-parts';

/** What is known of a batch of copies: the district, the time, and the writers of its dispatches. */
export interface InCommon {
	readonly district: District;
	readonly date: Date;
	readonly made: ReadonlyMap<number, DispatchLetters>;
	/** Of copies that answer a family: what they stand beside. */
	readonly threads: ReadonlyMap<number, Thread>;
}

interface By {
	readonly key: Buffer;
	readonly settings: Settings;
}

const linkOf = ({ key, settings }: By, { nonce }: Claimed): string =>
	`${settings.publicUrl}/f/${copyToken(key, nonce)}`;

/** What the writer of a dispatch needs of one copy. */
export const copyOf = (by: By, copy: Claimed, kind: DispatchLetters['kind']) => ({
	facts: copy.facts,
	language: copy.language,
	link: linkOf(by, copy),
	// A copy for information speaks of no student, and nobody stops it; nor an answer to what one has written.
	mayStop: copy.facts.students.length > 0 && kind !== 'answer'
});

/** The email of one copy. Throws where a file of it cannot be read. */
async function single(by: By, common: InCommon, copy: Claimed): Promise<Letter> {
	const { key, settings } = by;
	const { district, date, made, threads } = common;
	const own = made.get(copy.dispatchId)!;
	const letter = own.letters.email(copyOf(by, copy, own.kind));
	return {
		messageId: messageId(key, 'return', copy, settings.returnDomain),
		date,
		from: { name: own.fromName, address: district.mailFrom },
		// Answers come to us, are kept with the copy, and are passed on from here. An announcement asks for none.
		replyTo:
			own.kind === 'announcement'
				? null
				: { name: own.senderName, address: addressFor(key, 'answer', copy, settings.returnDomain) },
		askReceipt: own.askReceipt,
		thread: threads.get(copy.id) ?? null,
		to: { name: copy.facts.full, address: copy.address },
		returnAddress: addressFor(key, 'return', copy, settings.returnDomain),
		...letter,
		...(await letterParts(settings.dataFolder, own, letter))
	};
}

/** The email of several copies: their reader's daily digest. */
async function together(by: By, common: InCommon, copies: Handover): Promise<Letter> {
	const { key, settings } = by;
	const { district, date, made } = common;
	const [first] = copies;
	const digest = first.digest!;
	const all = copies.map((copy) => ({ copy, own: made.get(copy.dispatchId)! }));
	const files = {
		attached: [...new Map(all.flatMap(({ own }) => own.attached.map((f) => [f.id, f]))).values()],
		pictures: new Map(all.flatMap(({ own }) => [...own.pictures])),
		logoId: district.letterhead.logo?.fileId ?? null
	};
	const letter = digestLetter(
		all.map(({ copy, own }) => own.letters.parts(copyOf(by, copy, own.kind))),
		{
			language: first.language,
			district: district.name,
			letterhead: letterheadOf(district),
			choicesLink: `${linkOf(by, first)}/choices`
		}
	);
	return {
		messageId: messageId(key, 'digest', digest, settings.returnDomain),
		date,
		from: { name: district.name, address: district.mailFrom },
		replyTo: all.every(({ own }) => own.kind === 'announcement')
			? null
			: {
					name: district.name,
					address: addressFor(key, 'digest-answer', digest, settings.returnDomain)
				},
		askReceipt: all.some(({ own }) => own.askReceipt),
		thread: null,
		to: { name: first.facts.full, address: first.address },
		returnAddress: addressFor(key, 'digest', digest, settings.returnDomain),
		...letter,
		...(await letterParts(settings.dataFolder, files, letter))
	};
}

/** What is handed over as one email. Throws where a file of it cannot be read. */
export const writtenEmail = (by: By, common: InCommon, copies: Handover): Promise<Letter> =>
	copies[0].digest ? together(by, common, copies) : single(by, common, copies[0]);
