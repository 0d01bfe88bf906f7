const encoder = new TextEncoder();

/**
 * A content line of at most 75 octets each, never cut inside a character (RFC 5545 section 3.1, RFC 6350
 * section 3.2). ical.js counts without the blank that a line goes on with, and writes 76.
 */
export function foldLine(line: string): string {
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
