/** A person as a vCard. */
export interface Card {
	readonly uid: string;
	readonly givenName: string;
	readonly familyName: string;
	readonly emails: readonly string[];
	/** E.164. */
	readonly phones: readonly string[];
	/** BCP 47 tag. */
	readonly language: string;
	readonly note: string;
}

/** Backslash, comma and line breaks in a text value; a semicolon stands for itself there (RFC 6350 section 4, TEXT-CHAR). */
const escape = (text: string): string =>
	text.replace(/[\\,]/g, (c) => `\\${c}`).replace(/\r\n|\r|\n/g, '\\n');

/** In a value of several components a semicolon would end one (section 3.4). */
const component = (text: string): string => escape(text).replaceAll(';', '\\;');

/** Lines of at most 75 octets, never cut inside a character (RFC 6350 section 3.2). */
function fold(line: string): string {
	const encoder = new TextEncoder();
	const parts: string[] = [];
	let part = '';
	let octets = 0;
	for (const char of line) {
		const size = encoder.encode(char).length;
		if (octets + size > 75) {
			parts.push(part);
			part = ' ';
			octets = 1;
		}
		part += char;
		octets += size;
	}
	return [...parts, part].join('\r\n');
}

/** Writes cards as one vCard 4.0 stream (RFC 6350). */
export function writeVcards(cards: readonly Card[]): string {
	return cards
		.flatMap((c) => [
			'BEGIN:VCARD',
			'VERSION:4.0',
			// A UID is a URI unless it says that it is text (section 6.7.6).
			`UID;VALUE=text:${escape(c.uid)}`,
			`FN:${escape(`${c.givenName} ${c.familyName}`.trim())}`,
			`N:${component(c.familyName)};${component(c.givenName)};;;`,
			...c.emails.map((e) => `EMAIL:${escape(e)}`),
			...c.phones.map((p) => `TEL;VALUE=uri:tel:${p}`),
			`LANG:${c.language}`,
			...(c.note ? [`NOTE:${escape(c.note)}`] : []),
			'END:VCARD'
		])
		.map((line) => `${fold(line)}\r\n`)
		.join('');
}
