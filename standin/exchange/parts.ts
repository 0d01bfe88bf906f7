/** Room beside the header of a part: 153 septets, or 67 units of 16 bits (3GPP TS 23.040 section 9.2.3.24.1). */
const room = { whole: { 7: 160, 16: 70 }, part: { 7: 153, 16: 67 } } as const;

/** Letters that 7 bits hold as one septet each, of those on a plain keyboard; with any other a phone sends 16 bits. */
const plain = /^[A-Za-z0-9 \n\r!"#$%&'()*+,\-./:;<=>?@_]*$/;

/** A text cut as a phone cuts it: no character is cut in two. */
export function partsOf(text: string): string[] {
	const bits = plain.test(text) ? 7 : 16;
	if (text.length <= room.whole[bits]) return [text];
	const parts = [''];
	for (const character of text) {
		if (parts.at(-1)!.length + character.length > room.part[bits]) parts.push('');
		parts[parts.length - 1] += character;
	}
	return parts;
}
