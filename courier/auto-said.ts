import { languageDirection } from '../src/lib/core/copy/direction';
import { escapeHtml } from '../src/lib/core/copy/template';

/** Words for one note: what a text says, and a letter with its subject. */
export interface Said {
	readonly tag: string;
	readonly text: string;
	readonly subject: string;
	readonly letter: string;
	/** The page that is its reader's own, and the words on its link; null where there is none. */
	readonly page: { readonly words: string; readonly href: string } | null;
}

/** A letter of a few lines: its words, and the page that is its reader's own. */
export function letterOf({ tag, letter, page }: Said) {
	const h = escapeHtml;
	return {
		language: tag,
		text: [letter, ...(page === null ? [] : [`${page.words}:\n${page.href}`])].join('\n\n'),
		html:
			`<!doctype html><html lang="${tag}" dir="${languageDirection(tag)}"><head><meta charset="utf-8"></head>` +
			`<body style="font-family:sans-serif;font-size:16px;line-height:1.5;color:#1d2b33">` +
			`<p>${h(letter).replace(/\n/g, '<br>')}</p>` +
			(page === null
				? ''
				: `<p><a href="${h(page.href)}" style="color:#0f5c63;font-weight:bold">${h(page.words)}</a><br><span dir="ltr">${h(page.href)}</span></p>`) +
			`</body></html>`
	};
}
