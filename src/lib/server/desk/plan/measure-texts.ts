import type { Asks } from '../../../core/copy/asks';
import { measureText, type TextLength } from '../../../core/copy/segments';
import { textWriter, type TextWriter } from '../../../core/copy/text-writer';
import type { CopyFacts } from '../../../core/copy/values';
import { wordsFor } from '../../../core/copy/words';
import type { PlannedCopy } from '../../../core/plan/manifest';
import type { User } from '../../access/user';
import { now } from '../../clock';
import type { Db } from '../../db/open';
import { asksOf } from '../sheet/asked';
import { withNewest } from '../sheet/feed-tried';
import { frameOf, readSender } from '../sheet/letters';
import type { Sheet } from '../sheet/sheet';
import { planBook, plannedFacts } from './plan-facts';
import type { Planned } from './plan-sheet';

/** As long as every copy's link: 128 bits in base64url are 22 characters. */
export const linkLike = (publicUrl: string): string => `${publicUrl}/f/${'x'.repeat(22)}`;

/** Measures the texts of one plan. */
export interface TextMeasure {
	/** The tag of the language that its reader wants, and of the one that it is worded in. */
	wantedOf(copy: PlannedCopy): string;
	wordedOf(copy: PlannedCopy): string;
	factsOf(copy: PlannedCopy): CopyFacts;
	textOf(copy: PlannedCopy): string;
	lengthOf(copy: PlannedCopy): TextLength;
	/** What each of them asks; null where they ask nothing. */
	readonly asks: Asks | null;
}

/** Readies the measuring of a sheet’s texts: what is the same for all of them is worked out once. */
export async function measureTexts(
	db: Db,
	publicUrl: string,
	user: User,
	said: Sheet,
	{ roster, manifest, zone }: Pick<Planned, 'roster' | 'manifest' | 'zone'>
): Promise<TextMeasure> {
	const sheet = await withNewest(db, said, zone);
	const book = await planBook(db, user, sheet.wording);
	const frame = await frameOf(db, await readSender(db, user.personId), sheet.letter, {
		...{ leavesAt: await now(db), zone, dispatchId: null },
		asks: await asksOf(db, sheet.invitation, sheet.timing.clock)
	});
	const writers = new Map<string, { language: string; writer: TextWriter }>();
	const link = linkLike(publicUrl);
	/** Without fields a language's texts are all the same: measured once. */
	const same = new Map<string, TextLength>();
	const wantedOf = ({ personId }: PlannedCopy) => roster.person(personId)?.language ?? 'en';
	const writerFor = (wanted: string) => {
		let found = writers.get(wanted);
		if (!found) {
			const { language, words } = wordsFor(sheet.wording, wanted);
			found = { language, writer: textWriter(words, language, frame) };
			writers.set(wanted, found);
		}
		return found;
	};
	const factsOf = (copy: PlannedCopy) => plannedFacts(roster, book, manifest, copy);
	const textOf = (copy: PlannedCopy) => writerFor(wantedOf(copy)).writer.write(factsOf(copy), link);
	return {
		...{ wantedOf, factsOf, textOf, asks: frame.asks ?? null },
		wordedOf: (copy) => writerFor(wantedOf(copy)).language,
		lengthOf(copy) {
			const { language, writer } = writerFor(wantedOf(copy));
			if (writer.fields.length > 0) return measureText(textOf(copy));
			let length = same.get(language);
			if (!length) same.set(language, (length = measureText(textOf(copy))));
			return length;
		}
	};
}
