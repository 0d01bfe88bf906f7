import { asksHtml, type PageAsks } from './asks';
import type { Direction } from './direction';
import { logoSize, type Letterhead } from './letterhead';
import { pictureCid } from './picture-cid';
import { noteHtml, type PageNote } from './page-note';
import type { Signature } from './signature';
import { quietStyle } from './quiet-style';
import { escapeHtml } from './template';

/** What stands on an email's page. */
export interface Page {
	readonly language: string;
	readonly direction: Direction;
	readonly subject: string;
	/** Which school and who writes, for a glance. */
	readonly head: string;
	readonly about: string;
	/** HTML. */
	readonly body: string;
	/** What was recorded for it; null where nothing was. */
	readonly note?: PageNote | null;
	/** What its reader is asked; null where it asks nothing. */
	readonly asks?: PageAsks | null;
	readonly lines: readonly string[];
	readonly signature: Signature;
	readonly files: readonly { readonly words: string; readonly href: string }[];
	readonly filesWords: string;
	readonly read: { readonly words: string; readonly href: string };
	readonly stop: { readonly words: string; readonly href: string } | null;
	/** Address of a picture of one dot. */
	readonly dot: string | null;
	readonly letterhead: Letterhead;
}

/** The logo above a letter. */
function logoHtml({ logo, alt }: Letterhead): string {
	if (!logo) return '';
	const { width, height } = logoSize(logo);
	return `<p style="margin:0 0 16px"><img src="cid:${pictureCid(logo.fileId)}" width="${width}" height="${height}" alt="${escapeHtml(alt)}" style="max-width:100%;height:auto"></p>`;
}

const footerHtml = ({ footer }: Letterhead): string =>
	footer.length === 0
		? ''
		: `<p style="max-width:640px;margin:12px auto 0;padding:0 24px;color:#5a6870;font-size:13px" dir="auto">${footer.map(escapeHtml).join('<br>')}</p>`;

/** The document around one column, that needs no picture and no style sheet. */
export const emailDocument = (
	{ language, direction, subject }: Pick<Page, 'language' | 'direction' | 'subject'>,
	column: string,
	letterhead: Letterhead
): string =>
	`<!doctype html><html lang="${escapeHtml(language)}" dir="${direction}"><head><meta charset="utf-8">` +
	`<meta name="viewport" content="width=device-width"><title>${escapeHtml(subject)}</title></head>` +
	`<body style="margin:0;padding:16px;background:#faf7f0;color:#1d2b33;font-family:sans-serif;font-size:16px;line-height:1.5">` +
	`<div style="max-width:640px;margin:0 auto;padding:20px 24px;background:#ffffff;border:1px solid #ddd5c6;border-top:4px solid ${letterhead.colour}">${logoHtml(letterhead)}${column}</div>${footerHtml(letterhead)}</body></html>`;

/** One letter: who writes and of whom, its words, whose they are, its files, and its own page. */
export function letterHtml(p: Page): string {
	const h = escapeHtml;
	return (
		`<p style="${quietStyle}">${[p.head, p.about].filter(Boolean).map(h).join('<br>')}</p>` +
		`<div>${p.body}</div>` +
		(p.note ? noteHtml(p.note, p.letterhead.colour) : '') +
		(p.asks ? asksHtml(p.asks, p.letterhead.colour) : '') +
		`<p style="margin:18px 0 12px">${h(p.signature.name)}${p.signature.line ? `<br><span style="color:#5a6870">${h(p.signature.line)}</span>` : ''}` +
		`${p.lines.map((l) => `<br><span style="color:#5a6870">${h(l)}</span>`).join('')}</p>` +
		(p.files.length > 0
			? `<p style="margin:0 0 12px">${h(p.filesWords)}:${p.files.map((f) => `<br><a href="${h(f.href)}">${h(f.words)}</a>`).join('')}</p>`
			: '') +
		`<p style="margin:18px 0 0;padding-top:12px;border-top:1px dashed #bfb49f"><a href="${h(p.read.href)}" style="color:${p.letterhead.colour};font-weight:bold">${h(p.read.words)}</a></p>`
	);
}

/** A picture of one dot. */
export const dotHtml = (href: string | null): string =>
	href ? `<img src="${escapeHtml(href)}" width="1" height="1" alt="">` : '';

/** A line by which its reader gets less. */
export const lessHtml = (words: string, href: string): string =>
	`<p style="margin:8px 0 0;font-size:13px"><a href="${escapeHtml(href)}" style="color:#5a6870">${escapeHtml(words)}</a></p>`;

/** An email of one letter. */
export const emailPage = (p: Page): string =>
	emailDocument(
		p,
		letterHtml(p) + (p.stop ? lessHtml(p.stop.words, p.stop.href) : '') + dotHtml(p.dot),
		p.letterhead
	);
