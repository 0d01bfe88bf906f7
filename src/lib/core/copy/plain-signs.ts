import { mapDoc, type Doc, type Inline } from './doc';
import { septetsOf } from './gsm7';

/** What kind of character it is that 7 bits do not hold; letters change the look of names, so they are told apart. */
type SignKind = 'sign' | 'letter';

/** A character that forces 16 bits, and what can stand for it in 7. */
export interface Exchange {
	readonly char: string;
	/** "curly quote", "long dash": what people call it. */
	readonly name: string;
	/** What stands for it; empty for one that is not seen, null where nothing fits. */
	readonly plain: string | null;
	readonly kind: SignKind;
	/** How often it stands in the text. */
	readonly count: number;
}

interface Rule {
	readonly fits: RegExp;
	readonly name: string;
	readonly plain: string;
}

/** By Unicode's general categories (UAX #44) where they tell enough, else by the characters themselves. */
const rules: readonly Rule[] = [
	{ fits: /^[‘’‚‛‹›′ʼʹ´`]$/u, name: 'curly quote', plain: "'" },
	{ fits: /^[“”„‟«»″〝〞]$/u, name: 'curly quote', plain: '"' },
	{ fits: /^[\p{Pd}−]$/u, name: 'long dash', plain: '-' },
	{ fits: /^\p{Zs}$/u, name: 'special space', plain: ' ' },
	{ fits: /^[\p{Cf}\u034f]$/u, name: 'invisible sign', plain: '' },
	{ fits: /^…$/u, name: 'three-dot sign', plain: '...' },
	{ fits: /^[•‣◦▪·]$/u, name: 'bullet', plain: '-' },
	{ fits: /^[×✕✖]$/u, name: 'multiplication sign', plain: 'x' },
	{ fits: /^[\u2028\u2029]$/u, name: 'line break', plain: '\n' }
];

const inSevenBits = (text: string): boolean => [...text].every((char) => septetsOf(char));

function exchangeOf(char: string): Omit<Exchange, 'char' | 'count'> {
	const rule = rules.find((r) => r.fits.test(char));
	if (rule) return { name: rule.name, plain: rule.plain, kind: 'sign' };
	// Compatibility forms: fractions, ligatures, full width (UAX #15, NFKC and NFKD).
	for (const form of ['NFKC', 'NFKD'] as const) {
		const plain = char.normalize(form).replaceAll('\u2044', '/');
		if (plain !== char && inSevenBits(plain)) return { name: 'special form', plain, kind: 'sign' };
	}
	const letter = char.normalize('NFD').replace(/\p{M}/gu, '');
	const plain = letter !== char && letter !== '' && inSevenBits(letter) ? letter : null;
	return {
		name: /\p{L}/u.test(char)
			? 'letter'
			: /\p{Extended_Pictographic}/u.test(char)
				? 'picture'
				: 'sign',
		plain,
		kind: plain === null ? 'sign' : 'letter'
	};
}

/** The characters of a text that 7 bits do not hold, each once in order of appearance, with what could stand for it. A joiner inside a picture belongs to the picture. */
export function exchangesOf(text: string): Exchange[] {
	const counts = new Map<string, number>();
	for (const char of text) {
		if (!septetsOf(char)) counts.set(char, (counts.get(char) ?? 0) + 1);
	}
	return [...counts].map(([char, count]) => ({ char, count, ...exchangeOf(char) }));
}

/**
 * A text with plain characters in place of those that force 16 bits: signs always, letters only
 * where asked for. What nothing fits for stays; so does what joins the parts of a picture that
 * stays.
 */
export function plainText(text: string, { letters = false } = {}): string {
	const pictures = /\p{Extended_Pictographic}/u.test(text);
	return [...text]
		.map((char) => {
			if (septetsOf(char)) return char;
			if (pictures && (char === '\u200d' || char === '\ufe0f')) return char;
			const { plain, kind } = exchangeOf(char);
			return plain === null || (kind === 'letter' && !letters) ? char : plain;
		})
		.join('');
}

/** A doc with plain characters in the words of it; see {@link plainText}. */
export const plainDoc = (doc: Doc, options: { letters?: boolean } = {}): Doc =>
	mapDoc(doc, (runs) =>
		runs
			.map((i) => (i.type === 'text' ? { ...i, text: plainText(i.text, options) } : i))
			.filter(isSaid)
	);

/** A run of invisible signs only is gone. */
const isSaid = (i: Inline): boolean => i.type !== 'text' || i.text !== '';
