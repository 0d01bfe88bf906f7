import { asksByText, type Asks } from './asks';
import type { ClockStyle } from './clock-style';
import { bodyText } from './plain';
import { ownText, shortText } from './short-text';
import type { Signature } from './signature';
import { readTemplate } from './template';
import { copyValues, valuesByZone, type CopyFacts } from './values';
import type { Words } from './words';

/** Writes texts in one language. */
export interface TextWriter {
	/** Fields that the text uses. */
	readonly fields: readonly string[];
	write(facts: CopyFacts, link: string): string;
}

/** What every text of a dispatch has in common. */
interface TextFrame {
	readonly signature: Signature;
	readonly zone: string;
	/** How a time of day is written. */
	readonly style?: ClockStyle;
	/** Instant at which it leaves, ms. */
	readonly leavesAt: number;
	/** What it asks; null where it asks nothing. */
	readonly asks?: Asks | null;
}

/** Makes the writer of texts from words in a language: their own wording, or the short form of the rest. */
export function textWriter(words: Words, language: string, frame: TextFrame): TextWriter {
	const sender = frame.signature.name;
	const own = words.own.text;
	const subject = readTemplate(own ? '' : words.subject.trim());
	const body = readTemplate(own ? own.text : bodyText(words.body));
	const fields = [...new Set([...subject.fields, ...body.fields])];
	const asks = asksByText(frame.asks, language);
	const commonOf = valuesByZone(
		{ language, zone: frame.zone, style: frame.style, leavesAt: frame.leavesAt, sender },
		fields
	);
	return {
		fields,
		write(facts, link) {
			const common = commonOf(facts.zone);
			const values = fields.length === 0 ? common : copyValues(facts, common, language);
			const parts = { body: body.render(values), sender, link, asks };
			return own
				? ownText(parts, own.link)
				: shortText({ ...parts, subject: subject.render(values) });
		}
	};
}
