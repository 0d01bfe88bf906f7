import { isOneSeptetEach, septetsOf } from './gsm7';

/** The true length of a text message. */
export interface TextLength {
	readonly alphabet: '7-bit' | '16-bit';
	/** Septets, or 16-bit units. */
	readonly units: number;
	/** Segments that will be sent and paid for. 0 for an empty text. */
	readonly parts: number;
	/** Units that fit into one segment, given how many there are. */
	readonly unitsPerPart: number;
	/** Units left before one more part is needed. */
	readonly unitsLeft: number;
	/** The characters that 7 bits do not hold, each once, in order of appearance. */
	readonly forcing: readonly string[];
}

/**
 * Room in one segment: 140 octets, or 134 beside the six octets of the concatenation header
 * (3GPP TS 23.040 section 9.2.3.24.1). That is 160 or 153 septets, 70 or 67 16-bit units.
 */
const room = {
	'7-bit': { single: 160, joined: 153 },
	'16-bit': { single: 70, joined: 67 }
} as const;

/**
 * Measures a text. A character of two units (the escape and its extension character, a surrogate
 * pair) is never cut in two, so a part may stay one unit short.
 */
export function measureText(text: string): TextLength {
	if (isOneSeptetEach(text)) return measureSeptets(text.length);
	const sizes: number[] = [];
	const forcing = new Set<string>();
	for (const char of text) {
		const code = septetsOf(char);
		if (code) sizes.push(code.length);
		else forcing.add(char);
	}
	const alphabet = forcing.size === 0 ? '7-bit' : '16-bit';
	const units = alphabet === '7-bit' ? sizes : [...text].map((char) => char.length);
	const total = units.reduce((sum, n) => sum + n, 0);
	const { single, joined } = room[alphabet];
	if (total <= single) {
		return {
			alphabet,
			units: total,
			parts: total === 0 ? 0 : 1,
			unitsPerPart: single,
			unitsLeft: single - total,
			forcing: [...forcing]
		};
	}
	let parts = 1;
	let filled = 0;
	for (const size of units) {
		if (filled + size > joined) {
			parts += 1;
			filled = 0;
		}
		filled += size;
	}
	return {
		alphabet,
		units: total,
		parts,
		unitsPerPart: joined,
		unitsLeft: joined - filled,
		forcing: [...forcing]
	};
}

/** The septets that so many parts hold together. */
export const septetsIn = (parts: number): number =>
	parts === 1 ? room['7-bit'].single : parts * room['7-bit'].joined;

/** Measures a text of so many characters, each of one septet: nothing in it can be cut in two. */
function measureSeptets(units: number): TextLength {
	const { single, joined } = room['7-bit'];
	const parts = units <= single ? Math.min(units, 1) : Math.ceil(units / joined);
	const unitsPerPart = parts > 1 ? joined : single;
	const unitsLeft = Math.max(parts, 1) * unitsPerPart - units;
	return { alphabet: '7-bit', units, parts, unitsPerPart, unitsLeft, forcing: [] };
}
