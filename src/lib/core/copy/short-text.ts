import { isOneSeptetEach } from './gsm7';
import { measureText, septetsIn } from './segments';

/** What a short text is made from, its fields filled in. */
export interface ShortParts {
	readonly subject: string;
	readonly body: string;
	/** Name of the sender. */
	readonly sender: string;
	/** Private link of this one copy. */
	readonly link: string;
	/** How it asks to be answered by text; empty where it does not. */
	readonly asks?: string;
}

/** Parts that a text made by itself takes at most. */
const shortTextParts = 2;

/**
 * The text message where it has no wording of its own: subject, as much of the body as fits, and
 * the link to the whole. The cut falls between words and is marked by three dots, which cost three
 * septets where the one-character ellipsis would force 16 bits.
 */
export function shortText(parts: ShortParts, maxParts = shortTextParts): string {
	const subject = oneLine(parts.subject);
	const body = oneLine(parts.body);
	const end = `${asksLine(parts.asks)}\n${parts.link}`;
	const start = subject ? `${subject}. ` : '';
	const sign = parts.sender ? ` - ${parts.sender}` : '';
	const fits = (text: string) => measureText(text).parts <= maxParts;
	const whole = start + body + sign + end;
	if (fits(whole)) return whole;
	const begun = (length: number) => `${start}${body.slice(0, length)}...${sign}${end}`;
	// Most texts are of one septet each: where they are cut is a matter of their length.
	const length = isOneSeptetEach(whole)
		? body.lastIndexOf(' ', septetsIn(maxParts) - begun(0).length)
		: longestThatFits(body, (n) => fits(begun(n)));
	if (length > 0) return begun(length);
	// Not even the subject fits beside the link: it gives way, the link stays.
	const letters = [...subject];
	while (letters.length > 0 && !fits(`${letters.join('')}...${end}`)) letters.pop();
	return `${letters.join('')}...${end}`;
}

/** How long the beginning of a body is (in its characters) that fits before a cut that falls between two of them; 0 where not even the first does. */
function longestThatFits(body: string, fits: (length: number) => boolean): number {
	const ends = [...body.matchAll(/ /g)].map((space) => space.index);
	let low = 0;
	let high = ends.length;
	while (low < high) {
		const middle = Math.ceil((low + high) / 2);
		if (fits(ends[middle - 1]!)) low = middle;
		else high = middle - 1;
	}
	return low === 0 ? 0 : ends[low - 1]!;
}

/** A text that has its own wording: what it says, who says it, and the link where it is wanted. */
export const ownText = (parts: Omit<ShortParts, 'subject'>, withLink: boolean): string =>
	`${parts.body.trim()}${parts.sender ? ` - ${parts.sender}` : ''}${asksLine(parts.asks)}${withLink ? `\n${parts.link}` : ''}`;

const asksLine = (asks: string | undefined): string => (asks ? `\n${asks}` : '');

/** Whether a text made by {@link shortText} holds the whole body, or only its beginning. */
export const holdsWhole = (text: string, body: string): boolean => text.includes(oneLine(body));

/** Most are on one line already, and need not be written anew. */
const oneLine = (text: string): string =>
	(/\s\s|[^\S ]/.test(text) ? text.replace(/\s+/g, ' ') : text).trim();
