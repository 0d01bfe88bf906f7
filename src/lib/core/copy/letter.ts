import type { Letterhead } from './letterhead';
import { asksText, pageAsks, type Asks } from './asks';
import { pictureCid } from './picture-cid';
import type { ClockStyle } from './clock-style';
import { languageDirection, type Direction } from './direction';
import type { Note } from './note';
import { pageNote } from './page-note';
import { picturesIn } from './doc';
import { bodyHtml } from './html';
import { bodyText } from './plain';
import { phrasesFor, type Phrases } from './phrases';
import { markedLink, placeLinks, wordLinks } from './word-links';
import { emailPage, type Page } from './email-page';
import type { Signature } from './signature';
import { textWriter, type TextWriter } from './text-writer';
import { readTemplate, type Template, type Values } from './template';
import { sizeWords } from './size-words';
import { copyValues, listIn, sectionsOf, valuesByZone, type CopyFacts } from './values';
import { letterWords, wordsFor, type Words, type Wording } from './words';

/** A file that goes with a dispatch: in the letter, or kept here and reached by a private link. */
export interface LetterFile {
	readonly fileId: number;
	readonly name: string;
	readonly bytes: number;
	readonly mode: 'attach' | 'link';
}

/** What every copy of a dispatch has in common. */
export interface LetterFrame {
	readonly signature: Signature;
	readonly zone: string;
	/** How a time of day is written. */
	readonly style?: ClockStyle;
	/** Instant at which it leaves, ms. */
	readonly leavesAt: number;
	/** Whether the section's name stands before the subject of an email. */
	readonly sectionBefore: boolean;
	/** Whether a line with section, period and teacher stands below the words. */
	readonly sectionLine: boolean;
	readonly files: readonly LetterFile[];
	/** What was recorded for it; null where nothing was. */
	readonly note?: Note | null;
	/** What it asks its readers; null where it asks nothing. */
	readonly asks?: Asks | null;
	readonly letterhead: Letterhead;
	/** By which it is learned what becomes of a copy; null for a proof, of which nothing is learned. */
	readonly trace: {
		/** Numbers the links of its words below the copy's own link. */
		readonly dispatchId: number;
		/** Whether emails hold a picture of one dot, whose loading is weak evidence. */
		readonly picture: boolean;
	} | null;
}

/** One copy to be written out. */
export interface LetterCopy {
	readonly facts: CopyFacts;
	/** BCP 47 tag of the language its reader wants. */
	readonly language: string;
	/** Private link of this one copy, without a slash at the end. */
	readonly link: string;
	/** Whether the reader may stop this kind of message; nobody stops a copy for information. */
	readonly mayStop: boolean;
}

/** An email as it is handed to the mail server. */
export interface EmailLetter {
	readonly subject: string;
	readonly html: string;
	/** Paragraphs on one line each; see `flowed`. */
	readonly text: string;
	readonly language: string;
	/** Pictures inside the HTML, as `cid:` parts. */
	readonly pictureIds: readonly number[];
	readonly stopLink: string | null;
}

/** What an email is put together from. */
export interface EmailParts extends Omit<EmailLetter, 'html' | 'text'> {
	readonly page: Page;
	/** Paragraphs of the plain text, without the line by which its reader gets less. */
	readonly plain: readonly string[];
}

/** A letter as it stands in the inbox. */
export interface InboxLetter {
	readonly subject: string;
	readonly html: string;
	readonly language: string;
	readonly direction: Direction;
	/** Section, period and teacher, a line each; empty where not wanted. */
	readonly sectionLines: readonly string[];
}

/** Writes the copies of one dispatch. Templates are read once for each language, not for each copy. */
export interface Letters {
	email(copy: LetterCopy): EmailLetter;
	/** The same, to be put together with others. */
	parts(copy: LetterCopy): EmailParts;
	text(copy: LetterCopy): string;
	inbox(copy: LetterCopy): InboxLetter;
}

interface Compiled {
	readonly language: string;
	readonly phrases: Phrases;
	readonly direction: Direction;
	/** The values that are the same for every copy, by its reader's own zone. */
	readonly commonOf: (readerZone: string | null | undefined) => Values;
	readonly email: { subject: Template; html: Template; text: Template };
	/** Pictures that the email holds, each once: of its words, of what was recorded, the logo. */
	readonly pictureIds: readonly number[];
	/** What stands around the names in "For Ana and Rui". */
	readonly aboutAround: readonly string[];
	readonly inbox: { subject: Template; html: (link: string) => Template };
	/** Puts a copy's own link into the links of the words. */
	readonly placed: (html: string, link: string) => string;
	readonly text: TextWriter;
}

function compile(
	words: Words,
	language: string,
	frame: LetterFrame,
	links: ReadonlyMap<string, number>
): Compiled {
	const linked = markedLink(links);
	const phrases = phrasesFor(language);
	const direction = languageDirection(language);
	const email = letterWords(words, 'email');
	const inbox = letterWords(words, 'inbox');
	const parts = {
		email: {
			subject: readTemplate(email.subject.trim()),
			html: readTemplate(
				bodyHtml(email.body, direction, (id) => `cid:${pictureCid(id)}`, linked),
				'html'
			),
			text: readTemplate(bodyText(email.body))
		},
		pictureIds: [
			...new Set([
				...picturesIn(email.body).map((p) => p.fileId),
				...(frame.note?.picture ? [frame.note.picture.fileId] : []),
				...(frame.letterhead.logo ? [frame.letterhead.logo.fileId] : [])
			])
		],
		text: textWriter(words, language, frame)
	};
	const inboxSubject = readTemplate(inbox.subject.trim());
	const inboxHtml = (link: string) =>
		readTemplate(
			bodyHtml(inbox.body, direction, (id) => `${link}/file/${id}`, linked),
			'html'
		);
	const used = [parts.email.subject, parts.email.html, inboxSubject, inboxHtml('')].flatMap(
		(t) => t.fields
	);
	return {
		...{ language, direction, phrases, aboutAround: phrases.about.split('{names}') },
		commonOf: valuesByZone(
			{
				...{ language, zone: frame.zone, style: frame.style },
				...{ leavesAt: frame.leavesAt, sender: frame.signature.name }
			},
			[...new Set(used)]
		),
		...parts,
		inbox: { subject: inboxSubject, html: inboxHtml },
		placed: (html, link) =>
			links.size === 0 ? html : placeLinks(html, `${link}/to/${frame.trace?.dispatchId ?? 0}`)
	};
}

/** "Homeroom 2-A, period 1, Maren Quill". */
const sectionLine = (language: string, s: ReturnType<typeof sectionsOf>[number]): string =>
	[s.name, s.period, listIn(language, s.teachers)].filter(Boolean).join(', ');

const onOneLine = (text: string): string => text.replace(/[\r\n]+/g, ' ').trim();

/** Writes the parts of one email out. */
function emailParts(copy: LetterCopy, c: Compiled, frame: LetterFrame): EmailParts {
	const { signature } = frame;
	const values = copyValues(copy.facts, c.commonOf(copy.facts.zone), c.language);
	const { phrases } = c;
	const section = frame.sectionBefore ? values('section') : '';
	const before = section === '' ? '' : `[${section}] `;
	const subject = onOneLine(before + c.email.subject.render(values));
	const about = aboutIn(c.aboutAround, copy.facts, c.language);
	const head = [values('school'), signature.name].filter(Boolean).join(' · ');
	const lines = frame.sectionLine
		? sectionsOf(copy.facts).map((s) => sectionLine(c.language, s))
		: [];
	const stopLink = copy.mayStop ? `${copy.link}/stop` : null;
	const files = frame.files
		.filter((f) => f.mode === 'link')
		.map((f) => ({
			words: `${f.name} (${sizeWords(f.bytes)})`,
			href: `${copy.link}/file/${f.fileId}`
		}));
	const note = pageNote(frame.note, c.language, copy.link);
	const asks = pageAsks(frame.asks, c.language, copy.link);
	return {
		subject,
		language: c.language,
		pictureIds: c.pictureIds,
		stopLink,
		page: {
			language: c.language,
			direction: c.direction,
			subject,
			head,
			about,
			body: c.placed(c.email.html.render(values), copy.link),
			note,
			asks,
			lines,
			signature,
			files,
			filesWords: phrases.files,
			read: { words: phrases.read, href: copy.link },
			stop: stopLink ? { words: phrases.stop, href: stopLink } : null,
			dot: frame.trace?.picture ? `${copy.link}/dot.gif` : null,
			letterhead: frame.letterhead
		},
		plain: [
			[head, about].filter(Boolean).join('\n'),
			c.email.text.render(values).trim(),
			note ? `${note.words}:\n${note.href}\n\n${note.saidWords}:\n${note.said}` : '',
			asks ? asksText(asks) : '',
			[signature.name, signature.line, ...lines].filter(Boolean).join('\n'),
			files.length > 0
				? `${phrases.files}:\n${files.map((f) => `${f.words}\n${f.href}`).join('\n')}`
				: '',
			`${phrases.read}:\n${copy.link}`
		].filter((part) => part !== '')
	};
}

/** An email of one letter, as HTML and as plain text. */
function emailLetter({ page, plain, ...letter }: EmailParts): EmailLetter {
	const stop = page.stop ? [`${page.stop.words}:\n${page.stop.href}`] : [];
	const footer = page.letterhead.footer.join('\n');
	return {
		...letter,
		html: emailPage(page),
		text: [...plain, ...stop, ...(footer === '' ? [] : [footer])].join('\n\n').concat('\n')
	};
}

/** Makes the writer of a dispatch's copies. */
export function lettersOf(wording: Wording, frame: LetterFrame): Letters {
	const byLanguage = new Map<string, Compiled>();
	const links = new Map(frame.trace ? wordLinks(wording).map((href, i) => [href, i]) : []);
	const compiledFor = (wanted: string): Compiled => {
		let compiled = byLanguage.get(wanted);
		if (!compiled) {
			const { language, words } = wordsFor(wording, wanted);
			compiled = compile(words, language, frame, links);
			byLanguage.set(wanted, compiled);
		}
		return compiled;
	};
	const parts = (copy: LetterCopy) => emailParts(copy, compiledFor(copy.language), frame);
	return {
		email: (copy) => emailLetter(parts(copy)),
		parts,
		text(copy) {
			return compiledFor(copy.language).text.write(copy.facts, copy.link);
		},
		inbox(copy) {
			const c = compiledFor(copy.language);
			const values = copyValues(copy.facts, c.commonOf(copy.facts.zone), c.language);
			return {
				subject: onOneLine(c.inbox.subject.render(values)),
				html: c.placed(c.inbox.html(copy.link).render(values), copy.link),
				language: c.language,
				direction: c.direction,
				sectionLines: frame.sectionLine
					? sectionsOf(copy.facts).map((s) => sectionLine(c.language, s))
					: []
			};
		}
	};
}

/** Names between what stands around them; empty where the letter is about nobody but its reader. */
function aboutIn(around: readonly string[], { students }: CopyFacts, language: string): string {
	const names = students.filter((s) => !s.own).map((s) => s.given);
	return names.length === 0 ? '' : around.join(listIn(language, names));
}

/** "For Ana and Rui"; empty where the letter is about nobody but its reader. */
export const aboutLine = (facts: CopyFacts, language: string): string =>
	aboutIn(phrasesFor(language).about.split('{names}'), facts, language);
