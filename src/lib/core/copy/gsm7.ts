/**
 * The default alphabet of text messages, 7 bits a character: 3GPP TS 23.038 section 6.2.1, with
 * its extension table in 6.2.1.1. Position in the string is the code. Code 0x1B is the escape to
 * the extension and stands for no character of its own.
 */
const basic =
	'@£$¥èéùìòÇ\nØø\rÅåΔ_ΦΓΛΩΠΨΣΘΞ\u001bÆæßÉ' +
	' !"#¤%&\'()*+,-./0123456789:;<=>?' +
	'¡ABCDEFGHIJKLMNOPQRSTUVWXYZÄÖÑÜ§' +
	'¿abcdefghijklmnopqrstuvwxyzäöñüà';

/** Code in the extension table of each character there; each costs two septets, the escape and itself. */
const extension: Readonly<Record<string, number>> = {
	'\f': 0x0a,
	'^': 0x14,
	'{': 0x28,
	'}': 0x29,
	'\\': 0x2f,
	'[': 0x3c,
	'~': 0x3d,
	']': 0x3e,
	'|': 0x40,
	'€': 0x65
};

const septets = new Map<string, readonly number[]>();
[...basic].forEach((char, code) => {
	if (code !== 0x1b) septets.set(char, [code]);
});
for (const [char, code] of Object.entries(extension)) septets.set(char, [0x1b, code]);

/** The septets of one character: one, two for the extension table, or undefined where 7 bits do not hold it. */
export const septetsOf = (char: string): readonly number[] | undefined => septets.get(char);

/** The septet of each character that takes one, by its unit of UTF-16; the others hold {@link none}. */
const none = 0xff;
const single = new Uint8Array(0x400).fill(none);
for (const [char, code] of septets) if (code.length === 1) single[char.charCodeAt(0)] = code[0]!;

/** Text in the default alphabet, a septet in each octet; null where 7 bits do not hold it. */
export function septetOctets(text: string): Uint8Array | null {
	// Two septets a character at most.
	const octets = new Uint8Array(text.length * 2);
	let length = 0;
	for (let i = 0; i < text.length; i += 1) {
		const unit = text.charCodeAt(i);
		const code = unit < single.length ? single[unit]! : none;
		if (code !== none) {
			octets[length++] = code;
			continue;
		}
		const two = septets.get(text[i]!);
		if (!two) return null;
		for (const septet of two) octets[length++] = septet;
	}
	return octets.subarray(0, length);
}

const oneEach = new RegExp(
	`^[${[...basic]
		.filter((char) => char !== '\u001b')
		.join('')
		.replace(/[-\\\]^]/g, '\\$&')}]*$`
);
/** Whether each character of a text is one septet: most texts are so, and are measured by their length. */
export const isOneSeptetEach = (text: string): boolean => oneEach.test(text);
