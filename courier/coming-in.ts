import { readDistrict } from '../src/lib/server/db/district';
import {
	keepAnswerFiles,
	roomForFiles,
	type KeptAnswerFile
} from '../src/lib/server/desk/replies/answer-files';
import { takeTexts } from '../src/lib/server/desk/replies/take-texts';
import type { ReceiptParts } from '../src/lib/core/track/text-receipt';
import { addresseeOf } from '../src/lib/server/access/return-address';
import { now } from '../src/lib/server/clock';
import type { Db } from '../src/lib/server/db/open';
import type { ReadMail, Returned } from '../src/lib/server/gateway/return-mail';
import type { IncomingText, ReceiptHandler } from '../src/lib/server/gateway/text';
import { read, TooLong } from '../src/lib/server/reading/reading';
import type { Changes } from './changes';
import { grouped } from './grouped';
import { returnedCome, type KeptReturned } from './receipts';
import { receiptsCome } from './text-receipts';
import { strangers } from './strangers';

/** Takes in what providers and readers send us. */
export interface ComingIn {
	/** Receipts of texts, and texts from phones; false asks the exchange to come again. */
	readonly text: ReceiptHandler;
	/** Mail that came back, and answers. */
	readonly returned: (item: Returned) => Promise<void>;
	readonly readMail: (message: Buffer, returnPath: string) => Promise<ReadMail>;
	/** Receipts of texts that nobody here knows, so far. */
	readonly strangers: () => number;
}

/** Whatever comes is written down in groups, and changes are told once it is there. */
export function comingIn(db: Db, key: Buffer, dataFolder: string, changes: Changes): ComingIn {
	const unknown = strangers();
	const receipts = grouped((items: readonly ReceiptParts[]) => receiptsCome(db, items));
	const phones = grouped((items: readonly IncomingText[]) =>
		db
			.write(async (tx) => {
				await takeTexts(tx, items);
				return items.map(() => true);
			})
			.finally(() => changes.tell())
	);
	const written = grouped((items: readonly KeptReturned[]) =>
		returnedCome(db, key, items)
			.then(() => items.map(() => undefined))
			.finally(() => changes.tell())
	);
	/** Of a copy's own address only so much a day; what staff send with an answer is bound by that answer. */
	const roomAt = async (address: string): Promise<number | undefined> => {
		const to = await addresseeOf(db, key, address);
		return to?.mailbox === 'answer'
			? roomForFiles(db, { deliveryId: to.id }, await now(db))
			: undefined;
	};
	const filesOf = async ({ mail, address }: Returned): Promise<KeptAnswerFile[]> =>
		mail.kind === 'answer' && mail.answer.files.length > 0
			? keepAnswerFiles(
					dataFolder,
					mail.answer.files,
					(await readDistrict(db)).fileLimitMegabytes * 1e6,
					await roomAt(address)
				)
			: [];
	return {
		text: async (came) =>
			'words' in came ? phones(came) : (await receipts(came)) || unknown.longEnough(came),
		// Files are on the disk before anything says that they are there.
		returned: async (item) => written({ ...item, files: await filesOf(item) }),
		/** In a thread of its own: what makes its reader slow holds no copy up. What cannot be read in time is kept as that; coming again would not help it. */
		async readMail(message, returnPath) {
			try {
				return await read('mail', [message, returnPath]);
			} catch (error) {
				if (!(error instanceof TooLong)) throw error;
				return {
					mail: { kind: 'automatic', why: 'a mail that could not be read in time', words: '' },
					asItCame: { words: message.toString('latin1').slice(0, 2_000), machine: '' }
				};
			}
		},
		strangers: () => unknown.count
	};
}
