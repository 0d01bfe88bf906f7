import type { ClockStyle } from './clock-style';
import { comingPhrases } from './coming-phrases';
import { momentIn } from './moment-in';
import { fillPhrase } from './phrases';
import { quietStyle } from './quiet-style';
import { escapeHtml } from './template';

/** What a dispatch asks of its readers, as its copies say it. */
export interface Asks {
	/** Until when it can be answered (instant, ms), and by which clock that is said. */
	readonly until: number;
	readonly zone: string;
	readonly style?: ClockStyle;
	/** Whether an answer by text can say all of it: not where there are times to choose from. */
	readonly byText: boolean;
}

/** A question as it stands in an email: each answer leads to the page where it is given. */
export interface PageAsks {
	readonly question: string;
	readonly until: string;
	readonly answers: readonly { readonly words: string; readonly href: string }[];
}

/** What an email asks, in a language; null where it asks nothing. A link that a machine opens answers nothing: only the page does. */
export function pageAsks(
	asks: Asks | null | undefined,
	language: string,
	link: string
): PageAsks | null {
	if (!asks) return null;
	const words = comingPhrases(language);
	return {
		question: words.question,
		until: fillPhrase(words.until, {
			time: momentIn({ ...asks, language: words.tag }, asks.until)
		}),
		answers: [
			{ words: words.yes, href: `${link}?coming=yes` },
			{ words: words.noLink, href: `${link}?coming=no` }
		]
	};
}

/** The question, until when, and a link for each answer. */
export const asksHtml = ({ question, until, answers }: PageAsks, colour: string): string =>
	`<div style="margin:18px 0 12px;padding:10px 14px;border:1px solid #bfb49f"><p style="margin:0 0 6px"><b>${escapeHtml(question)}</b></p>` +
	`<p style="margin:0 0 8px">${answers
		.map(
			({ words, href }) =>
				`<a href="${escapeHtml(href)}" style="color:${colour};font-weight:bold;margin-inline-end:24px">${escapeHtml(words)}</a>`
		)
		.join(' ')}</p><p style="${quietStyle}">${escapeHtml(until)}</p></div>`;

/** The same in plain text. */
export const asksText = ({ question, until, answers }: PageAsks): string =>
	[`${question} ${until}`, ...answers.map(({ words, href }) => `${words}:\n${href}`)].join('\n');

/** How a text asks to be answered; empty where it does not ask, or an answer by text could not say all of it. */
export const asksByText = (asks: Asks | null | undefined, language: string): string =>
	asks?.byText ? comingPhrases(language).byText : '';
