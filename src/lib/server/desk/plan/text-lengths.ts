import { textWriter, type TextWriter } from '../../../core/copy/text-writer';
import { measureText, type TextLength } from '../../../core/copy/segments';
import { wordsFor } from '../../../core/copy/words';
import type { User } from '../../access/user';
import { now } from '../../clock';
import type { Db } from '../../db/open';
import { nameOfLanguage } from '../../../core/copy/language';
import { frameOf, readSender } from '../sheet/letters';
import { withNewest } from '../sheet/feed-tried';
import { planBook, plannedFacts } from './plan-facts';
import { planSheet } from './plan-sheet';
import type { Sheet } from '../sheet/sheet';
import type { TextLengths, TextSample } from './types';

/** As long as every copy's link: 128 bits in base64url are 22 characters. */
export const linkLike = (publicUrl: string): string => `${publicUrl}/f/${'x'.repeat(22)}`;

/** Texts measured between two looks at what else there is to do. */
const atOnce = 500;

/** Measures every text of a sheet. Null where none is sent. Lets other questions in between. */
export async function textLengths(
	db: Db,
	publicUrl: string,
	user: User,
	said: Sheet
): Promise<TextLengths | null> {
	const { roster, manifest, zone } = await planSheet(db, user, said);
	const sheet = await withNewest(db, said, zone);
	const copies = manifest.copies.filter((c) => c.way === 'text');
	if (copies.length === 0) return null;
	const book = await planBook(db, user, sheet.wording);
	const frame = await frameOf(db, await readSender(db, user.personId), sheet.letter, {
		...{ leavesAt: await now(db), zone, dispatchId: null }
	});
	const writers = new Map<string, { language: string; writer: TextWriter }>();
	const link = linkLike(publicUrl);
	const samples: { units: number; index: number }[] = [];
	const sums = new Map<string, { texts: number; parts: number }>();
	/** Without fields a language's texts are all the same: measured once. */
	const same = new Map<string, TextLength>();

	const writerFor = (wanted: string) => {
		let found = writers.get(wanted);
		if (!found) {
			const { language, words } = wordsFor(sheet.wording, wanted);
			found = { language, writer: textWriter(words, language, frame) };
			writers.set(wanted, found);
		}
		return found;
	};
	const wantedOf = (personId: number) => roster.person(personId)?.language ?? 'en';
	const textOf = (index: number) => {
		const copy = copies[index]!;
		const { writer } = writerFor(wantedOf(copy.personId));
		return writer.write(plannedFacts(roster, book, manifest, copy), link);
	};

	for (let index = 0; index < copies.length; index += 1) {
		if (index % atOnce === atOnce - 1) await new Promise((r) => setImmediate(r));
		const { language, writer } = writerFor(wantedOf(copies[index]!.personId));
		let length = writer.fields.length === 0 ? same.get(language) : undefined;
		if (!length) {
			length = measureText(textOf(index));
			if (writer.fields.length === 0) same.set(language, length);
		}
		samples.push({ units: length.parts * 1e6 + length.units, index });
		const sum = sums.get(language) ?? { texts: 0, parts: 0 };
		sums.set(language, { texts: sum.texts + 1, parts: sum.parts + length.parts });
	}
	samples.sort((a, b) => a.units - b.units || a.index - b.index);
	const sample = ({ index }: { index: number }): TextSample => {
		const copy = copies[index]!;
		const facts = plannedFacts(roster, book, manifest, copy);
		const text = textOf(index);
		return {
			name: facts.full,
			text,
			language: wantedOf(copy.personId),
			facts,
			length: measureText(text)
		};
	};
	return {
		byLanguage: [...sums]
			.map(([language, s]) => ({ language, name: nameOfLanguage(language), ...s }))
			.sort((a, b) => b.texts - a.texts),
		texts: copies.length,
		parts: [...sums.values()].reduce((sum, s) => sum + s.parts, 0),
		shortest: sample(samples[0]!),
		typical: sample(samples[Math.floor(samples.length / 2)]!),
		longest: sample(samples.at(-1)!)
	};
}
