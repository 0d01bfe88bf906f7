import EmailReplyParser from 'email-reply-parser';
import { convert, type FormatCallback } from 'html-to-text';

/** What somebody wrote in an answer, and whether there was more that they only quote. */
export interface NewWords {
	readonly words: string;
	readonly quotes: boolean;
}

/** Before everything that follows it and is quoted, where HTML says so and plain text could not. */
const cut = '\u2063quoted from here\u2063';

const cutHere: FormatCallback = (_element, _walk, builder) => {
	builder.openBlock({ leadingLineBreaks: 1 });
	builder.addInline(cut);
	builder.closeBlock({ trailingLineBreaks: 1 });
};

/** What mail programs put around what they quote, and around signatures (seen in their letters; no standard says it). */
const quotedParts = [
	...[
		'blockquote',
		'.gmail_quote',
		'.gmail_quote_container',
		'.gmail_extra',
		'.yahoo_quoted',
		'.moz-cite-prefix'
	],
	...[
		'.protonmail_quote',
		'.zmail_extra',
		'.tutanota_quote',
		'.OutlookMessageHeader',
		'.WordSection1Quoted',
		'.cite'
	]
];
const signatures = [
	'.gmail_signature',
	'.moz-signature',
	'.protonmail_signature_block',
	'#Signature',
	'#ms-outlook-mobile-signature',
	'#AppleMailSignature'
];
/** From one of these on all is quoted. */
const beginnings = [
	'#divRplyFwdMsg',
	'#appendonsend',
	'#x_divRplyFwdMsg',
	'#mail-editor-reference-message-container'
];

const quotedMark = '\u2063quoted\u2063';
const quotedHere: FormatCallback = (_element, _walk, builder) => {
	builder.openBlock({ leadingLineBreaks: 1 });
	builder.addInline(quotedMark);
	builder.closeBlock({ trailingLineBreaks: 1 });
};

/** HTML as the words a reader would see, quoted parts and signatures left out; what no reader sees is left out by the package. */
export const plainOf = (html: string): string =>
	convert(html, {
		wordwrap: false,
		preserveNewlines: false,
		limits: { maxInputLength: 500_000, maxDepth: 200, maxChildNodes: 20_000, ellipsis: '' },
		formatters: { cutHere, quotedHere },
		selectors: [
			...quotedParts.map((selector) => ({ selector, format: 'quotedHere' })),
			...signatures.map((selector) => ({ selector, format: 'skip' })),
			...beginnings.map((selector) => ({ selector, format: 'cutHere' })),
			{ selector: 'img', format: 'skip' },
			{ selector: 'style', format: 'skip' },
			{ selector: 'title', format: 'skip' },
			{ selector: 'a', options: { ignoreHref: true } },
			{ selector: 'table', format: 'block' },
			...['h1', 'h2', 'h3', 'h4', 'h5', 'h6'].map((selector) => ({
				selector,
				options: { uppercase: false }
			}))
		]
	});

/** Lines that say who wrote what follows, in the languages that families here write (seen in mail programs; from memory). Such a line may be broken into several. */
const attributions = [
	/^on\s.*\d.*\bwrote:$/i,
	/^el\s.*\d.*escribi[oó]:$/i,
	/^(em|no dia)\s.*\d.*escreveu:$/i,
	/^(vào|ngày|lúc)\s.*\d.*viết:$/iu,
	/^(في|بتاريخ)\s?.*[\d٠-٩].*كتب(ت)?.*:$/u,
	/^le\s.*\d.*[eé]crit\s?:$/i,
	/^am\s.*\d.*schrieb.*:$/i
];
/** The same where it begins with a name or a date: believed on a line of its own only. */
const shortAttributions = [
	/^.{1,200}\d.*\bwrote:$/i,
	/^.{1,200}\bwrote on .*\d.*:$/i,
	/^.{1,200}<[^<>\s]+@[^<>\s]+>.*:$/,
	/^.{1,200}\d.*(escribi[oó]|escreveu|viết):$/iu,
	/^.{0,200}[\d٠-٩].*كتب(ت)?\s*.{0,80}:$/u
];
/** Over a quoted letter. */
const original =
	/^[-_\s]*(original message|mensaje original|mensagem original|thư gốc|tin nhắn gốc|الرسالة الأصلية|message d'origine|ursprüngliche nachricht|forwarded message|mensaje reenviado|mensagem (encaminhada|reencaminhada)|thư được chuyển tiếp)[-_\s]*:?$/iu;
/** The fields of a quoted letter's head, in these languages: who, when, to whom, about what. */
const fieldsOfHead: readonly (readonly RegExp[])[] = [
	[
		/^\*?(from|de|từ|người gửi|من|von)\s?:/iu,
		/^\*?(sent|date|enviado( el| em)?|fecha|data|đã gửi|gửi|ngày|تاريخ( الإرسال)?|التاريخ|أرسلت|gesendet|envoyé)\s?:/iu
	],
	[
		/^\*?(to|para|đến|tới|إلى|an|à)\s?:/iu,
		/^\*?(subject|asunto|assunto|chủ đề|tiêu đề|الموضوع|betreff|objet)\s?:/iu
	]
];
/** What phones and mail programs add below by themselves. */
const sentFrom =
	/^(sent (from|via|with) |get \S+ for |enviado (desde|do|a partir|con|com) |obtener |obter |đã gửi từ |được gửi từ |gửi từ |tải |أ?رسلت? من |مرسل(ة)? من |تم الإرسال من |أُرسلت من |envoyé (de|depuis) |gesendet (von|mit) )/iu;

const withoutMarks = (line: string) =>
	line.trim().replace(/[\u200e\u200f\u202a-\u202e\u2066-\u2069]/g, '');

/** How many lines from one on say who wrote what follows; 0 where they do not. */
function attributionAt(lines: readonly string[], from: number): number {
	const first = withoutMarks(lines[from]!);
	if (first === '') return 0;
	if (first.length <= 400 && shortAttributions.some((a) => a.test(first))) return 1;
	let said = '';
	for (let n = 1; n <= 3; n += 1) {
		const line = withoutMarks(lines[from + n - 1] ?? '');
		if (line === '') return 0;
		said = `${said} ${line}`.trim();
		if (said.length > 400) return 0;
		if (attributions.some((a) => a.test(said))) return n;
	}
	return 0;
}

/** Whether the head of a quoted letter begins at a line: two of its fields at least, within the next lines. */
function isHead(lines: readonly string[], from: number): boolean {
	const near = lines.slice(from, from + 8).map((l) => l.trim().replace(/^[*\u200e\u200f]+/, ''));
	if (!fieldsOfHead[0]![0]!.test(near[0] ?? '')) return false;
	const found = fieldsOfHead.flat().filter((field) => near.some((line) => field.test(line)));
	return found.length >= 3;
}

const isQuotedLine = (line: string): boolean => /^\s{0,3}[>|＞]/.test(line);

/** Leaves out what is quoted, wherever it stands, and what says who wrote it. */
function withoutQuotes(text: string): NewWords {
	const lines = text
		.replace(/\r\n?/g, '\n')
		.replace(/\u00a0/g, ' ')
		.split('\n');
	const kept: string[] = [];
	let quotes = false;
	const nextWords = (from: number) => lines.slice(from).findIndex((l) => l.trim() !== '');
	for (let i = 0; i < lines.length; i += 1) {
		const line = lines[i]!;
		const bare = line.trim();
		if (isQuotedLine(line) || bare === quotedMark) {
			quotes = true;
			continue;
		}
		if (bare === cut || original.test(bare) || isHead(lines, i)) {
			quotes = true;
			// A rule above it belongs to it.
			while (kept.length > 0 && /^[\s_\-=*]*$/.test(kept.at(-1)!)) kept.pop();
			break;
		}
		const attribution = attributionAt(lines, i);
		if (attribution > 0) {
			quotes = true;
			const after = nextWords(i + attribution);
			const next = after < 0 ? undefined : lines[i + attribution + after]!;
			if (next === undefined) break;
			// Where nothing marks what is quoted, all that follows is.
			if (!isQuotedLine(next) && next.trim() !== quotedMark) break;
			i += attribution - 1;
			continue;
		}
		kept.push(line.replace(/\s+$/, ''));
	}
	return { words: kept.join('\n'), quotes };
}

/** Leaves out what stands below the words: a signature after its separator (RFC 3676 section 4.3), and what a phone adds. */
function withoutSignature(text: string): string {
	const lines = text.split('\n');
	const separator = lines.findIndex((line, i) => i > 0 && /^-- ?$/.test(line));
	const above = separator < 0 ? lines : lines.slice(0, separator);
	while (above.length > 0) {
		const last = above.at(-1)!.trim();
		if (last !== '' && !sentFrom.test(last)) break;
		above.pop();
	}
	return above.join('\n');
}

const reader = new EmailReplyParser();

function newWordsIn(text: string): NewWords {
	const { words, quotes } = withoutQuotes(text);
	const own = withoutSignature(words)
		.replace(/\n{3,}/g, '\n\n')
		.trim();
	// The package knows how programs in other languages quote; where it leaves nothing, it was wrong.
	const seen = reader.read(own).getVisibleText().trim();
	const shorter = seen !== '' && seen.length < own.length;
	return { words: shorter ? seen : own, quotes: quotes || shorter };
}

/**
 * What somebody wrote in an answer by mail, without what they quote: above, below or between. From the plain
 * text where it tells, else from the HTML; from the whole where nothing else is left and nothing is quoted.
 */
export function newWords(text: string, html: string): NewWords {
	const plain = text.trim() === '' ? null : newWordsIn(text);
	if (plain?.quotes && plain.words !== '') return plain;
	if (html.trim() === '') return plain ?? { words: '', quotes: false };
	const rich = newWordsIn(plainOf(html));
	if (plain === null) return rich;
	return rich.quotes ? rich : plain;
}
