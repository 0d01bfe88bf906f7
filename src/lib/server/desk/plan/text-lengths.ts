import { nameOfLanguage } from '../../../core/copy/language';
import type { User } from '../../access/user';
import type { Db } from '../../db/open';
import type { Sheet } from '../sheet/sheet';
import { measureTexts } from './measure-texts';
import { planSheet } from './plan-sheet';
import type { TextLengths, TextSample } from './types';

/** Texts measured between two looks at what else there is to do. */
const atOnce = 500;

/** Measures every text of a sheet. Null where none is sent. Lets other questions in between. */
export async function textLengths(
	db: Db,
	publicUrl: string,
	user: User,
	sheet: Sheet
): Promise<TextLengths | null> {
	const planned = await planSheet(db, user, sheet);
	const copies = planned.manifest.copies.filter((c) => c.way === 'text');
	if (copies.length === 0) return null;
	const measure = await measureTexts(db, publicUrl, user, sheet, planned);
	const samples: { units: number; index: number }[] = [];
	const sums = new Map<string, { texts: number; parts: number }>();
	for (const [index, copy] of copies.entries()) {
		if (index % atOnce === atOnce - 1) await new Promise((r) => setImmediate(r));
		const language = measure.wordedOf(copy);
		const length = measure.lengthOf(copy);
		samples.push({ units: length.parts * 1e6 + length.units, index });
		const sum = sums.get(language) ?? { texts: 0, parts: 0 };
		sums.set(language, { texts: sum.texts + 1, parts: sum.parts + length.parts });
	}
	samples.sort((a, b) => a.units - b.units || a.index - b.index);
	const sample = ({ index }: { index: number }): TextSample => {
		const copy = copies[index]!;
		const facts = measure.factsOf(copy);
		return {
			...{ name: facts.full, facts },
			text: measure.textOf(copy),
			language: measure.wantedOf(copy),
			length: measure.lengthOf(copy)
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
		longest: sample(samples.at(-1)!),
		asks: measure.asks
	};
}
