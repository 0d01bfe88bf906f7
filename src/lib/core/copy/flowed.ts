/** The longest line made, without the line's end; RFC 3676 section 4.2 says 78 at most, RFC 5322 section 2.1.1 asks for the same. */
const longest = 76;

/** A line that begins with a space, ">" or "From " gets a space before it (RFC 3676 section 4.4). */
const stuffed = (line: string): string => (/^( |>|From )/.test(line) ? ` ${line}` : line);

/**
 * Plain text as format=flowed (RFC 3676): a paragraph longer than a line goes on after a soft break,
 * which is a space at a line's end, so that a reader can flow it to its own width and any other
 * still shows short lines. Words longer than a line, such as links, stay whole.
 */
export function flowed(text: string): string {
	return text
		.split('\n')
		.map((paragraph) => {
			// A space at the end would be a soft break; only the signature's mark keeps it (section 4.3).
			const line = paragraph === '-- ' ? paragraph : paragraph.replace(/ +$/, '');
			if (line === '-- ' || line.length <= longest) return stuffed(line);
			const lines: string[] = [];
			let open = '';
			for (const word of line.split(/(?<= )(?! )/)) {
				if (open !== '' && open !== '-- ' && (open + word).trimEnd().length > longest) {
					lines.push(open);
					open = '';
				}
				open += word;
			}
			lines.push(open);
			return lines.map(stuffed).join('\n');
		})
		.join('\n');
}
