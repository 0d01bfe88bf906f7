import { digestPhrases } from './digest-phrases';
import { languageDirection } from './direction';
import { dotHtml, emailDocument, lessHtml, letterHtml } from './email-page';
import { quietStyle } from './quiet-style';
import type { Letterhead } from './letterhead';
import type { EmailLetter, EmailParts } from './letter';
import { fillPhrase } from './phrases';
import { escapeHtml } from './template';

/** What a digest says around its letters. */
export interface DigestFrame {
	/** BCP 47 tag of the language its reader wants. */
	readonly language: string;
	readonly district: string;
	/** The page on which its reader chooses what they get. */
	readonly choicesLink: string;
	readonly letterhead: Letterhead;
}

/** Between two letters of the plain text. */
const rule = '* * *';

/**
 * One email of several letters, each whole, under its own subject, in its own language and with its own link; what they
 * are stands first. Its List-Unsubscribe is that of the first letter that can be stopped.
 */
export function digestLetter(
	letters: readonly EmailParts[],
	{ language, district, choicesLink, letterhead }: DigestFrame
): EmailLetter {
	const h = escapeHtml;
	const words = digestPhrases(language);
	const direction = languageDirection(words.tag);
	const subject = fillPhrase(words.subject, { district });
	const listed = letters.map(({ subject: s, page }) => (page.about ? `${s} (${page.about})` : s));
	const column =
		`<p style="${quietStyle}">${h(words.intro)}</p>` +
		`<ol style="margin:0 0 12px;padding-inline-start:24px">${listed.map((s) => `<li><bdi>${h(s)}</bdi></li>`).join('')}</ol>` +
		`<p style="${quietStyle}">${h(words.answer)}</p>` +
		letters
			.map(
				({ page, subject: s, language: tag }) =>
					`<div lang="${h(tag)}" dir="${page.direction}" style="margin:24px 0 0;padding:16px 0 0;border-top:2px solid #bfb49f">` +
					`<h2 style="margin:0 0 8px;font-size:19px;line-height:1.3">${h(s)}</h2>${letterHtml(page)}${dotHtml(page.dot)}</div>`
			)
			.join('') +
		lessHtml(words.change, choicesLink);
	const plain = [
		[words.intro, ...listed.map((s, n) => `${n + 1}. ${s}`)].join('\n'),
		words.answer,
		...letters.flatMap((letter) => [rule, letter.subject, ...letter.plain]),
		rule,
		`${words.change}:\n${choicesLink}`,
		...(letterhead.footer.length === 0 ? [] : [letterhead.footer.join('\n')])
	];
	return {
		...{ subject, language: words.tag },
		html: emailDocument({ language: words.tag, direction, subject }, column, letterhead),
		text: plain.join('\n\n').concat('\n'),
		pictureIds: [...new Set(letters.flatMap((l) => l.pictureIds))],
		stopLink: letters.find((l) => l.stopLink !== null)?.stopLink ?? null
	};
}
