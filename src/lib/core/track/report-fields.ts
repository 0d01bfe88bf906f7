/** Header fields of one block of a report's machine part, folded lines joined (RFC 822 folding, as RFC 3464 section 2.1 and RFC 8098 section 3.1 ask); a repeated field keeps its first value. */
export function fieldsOf(block: string): Map<string, string> {
	const fields = new Map<string, string>();
	for (const line of block.replace(/\r?\n[ \t]+/g, ' ').split(/\r?\n/)) {
		const colon = line.indexOf(':');
		if (colon < 1) continue;
		const name = line.slice(0, colon).trim().toLowerCase();
		if (!fields.has(name)) fields.set(name, line.slice(colon + 1).trim());
	}
	return fields;
}

/** The value after the type: "rfc822; reader@slip.example" (RFC 3464 section 2.1.2). */
export const afterType = (value: string): string => value.slice(value.indexOf(';') + 1).trim();
