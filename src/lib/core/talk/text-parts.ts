/** Which part of a longer text something is. */
export interface TextPart {
	/** What all parts of one text have in common; of 8 or 16 bits. */
	readonly reference: number;
	/** How many parts there are, 2 to 255. */
	readonly of: number;
	/** Which one it is, from 1 on. */
	readonly number: number;
}

const part = (reference: number, of: number, number: number): TextPart | null =>
	of >= 2 && number >= 1 && number <= of ? { reference, of, number } : null;

/** Identifiers of the header elements that say it: with a reference of 8 and of 16 bits. */
const short = 0x00;
const long = 0x08;

/**
 * The part that the elements of a user data header say (3GPP TS 23.040 sections 9.2.3.24.1 and 9.2.3.24.8), each
 * with its identifier and length before its octets; null where none says it, or what it says cannot be.
 */
export function partOfHeader(elements: readonly Uint8Array[]): TextPart | null {
	for (const [identifier, length, ...octets] of elements) {
		if (identifier === short && length === 3 && octets.length === 3)
			return part(octets[0]!, octets[1]!, octets[2]!);
		if (identifier === long && length === 4 && octets.length === 4)
			return part(octets[0]! * 256 + octets[1]!, octets[2]!, octets[3]!);
	}
	return null;
}

/** The part that the parameters of a deliver_sm say (SMPP 3.4 sections 5.3.2.22 to 5.3.2.24); null where they do not. */
export const partOfParameters = (
	reference: number | undefined,
	of: number | undefined,
	number: number | undefined
): TextPart | null =>
	reference === undefined || of === undefined || number === undefined
		? null
		: part(reference, of, number);

/** Stands for a part that is missing: no phone sends it (Unicode 16.0 section 23.8, object replacement). */
const gap = '\ufffc';
const gaps = /\s*\ufffc+\s*/g;

/** Parts that have come as one text, in their order; what is missing is said where it would stand. */
export function joinParts(
	parts: readonly { readonly number: number; readonly words: string }[],
	of: number
): string {
	const words = new Map(parts.map((p) => [p.number, p.words]));
	return Array.from({ length: of }, (_, i) => words.get(i + 1) ?? gap)
		.join('')
		.replace(gaps, ' […] ')
		.trim();
}
