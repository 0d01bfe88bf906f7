import { measureText } from './segments';

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
	const words = body.split(' ');
	let low = 0;
	let high = words.length;
	while (low < high) {
		const middle = Math.ceil((low + high) / 2);
		if (fits(`${start}${words.slice(0, middle).join(' ')}...${sign}${end}`)) low = middle;
		else high = middle - 1;
	}
	if (low > 0) return `${start}${words.slice(0, low).join(' ')}...${sign}${end}`;
	// Not even the subject fits beside the link: it gives way, the link stays.
	const letters = [...subject];
	while (letters.length > 0 && !fits(`${letters.join('')}...${end}`)) letters.pop();
	return `${letters.join('')}...${end}`;
}

/** A text that has its own wording: what it says, who says it, and the link where it is wanted. */
export const ownText = (parts: Omit<ShortParts, 'subject'>, withLink: boolean): string =>
	`${parts.body.trim()}${parts.sender ? ` - ${parts.sender}` : ''}${asksLine(parts.asks)}${withLink ? `\n${parts.link}` : ''}`;

const asksLine = (asks: string | undefined): string => (asks ? `\n${asks}` : '');

/** Whether a text made by {@link shortText} holds the whole body, or only its beginning. */
export const holdsWhole = (text: string, body: string): boolean => text.includes(oneLine(body));

const oneLine = (text: string): string => text.replace(/\s+/g, ' ').trim();
