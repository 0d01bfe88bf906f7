import { isBlank } from '../copy/blank';
import { datesIn } from '../copy/dates';
import { inlinesIn, isEmptyDoc, isLinkAddress, linksIn, picturesIn } from '../copy/doc';
import { fieldLabel } from '../copy/fields';
import type { LetterFile } from '../copy/letter';
import { bodyText } from '../copy/plain';
import { hardGrade, readingGrade } from '../copy/reading-level';
import { isOutOfDate } from '../copy/stale';
import { isWhole, readTemplate } from '../copy/template';
import { letterWords, type LetterWords, type Words, type Wording } from '../copy/words';
import { checkMailAddress } from '../format/mail-address';
import type { DispatchKind } from '../roster/types';
import { someNames, type Check } from './check';
import type { Way } from '../roster/way';

/** What the check of the wording looks at. */
export interface WordingInput {
	readonly wording: Wording;
	readonly ways: readonly Way[];
	readonly kind: DispatchKind;
	readonly replyTo: string;
	/** Instants, ms. */
	readonly now: number;
	readonly leavesAt: number;
	readonly zone: string;
	/** How many people want to read each language. */
	readonly languages: readonly LanguageCount[];
	/** Fields without a fallback that have no value for some. */
	readonly emptyFields: readonly EmptyField[];
	readonly files: readonly LetterFile[];
	/** Files that the sheet names and that are not there. */
	readonly filesMissing: number;
	readonly emails: number;
	readonly texts: number;
	/** Size of the pictures inside each email, bytes. */
	readonly pictureBytes: number;
	/** The volume at which mail systems refuse a letter, bytes. */
	readonly mailLimitBytes: number;
	/** "Portuguese" for "pt". */
	readonly nameOfLanguage: (tag: string) => string;
}

export interface LanguageCount {
	readonly language: string;
	/** "Portuguese". */
	readonly name: string;
	readonly people: number;
	/** The language of the wording they get. */
	readonly gets: string;
}

export interface EmptyField {
	readonly field: string;
	readonly people: number;
	/** Their names, the first five hundred. */
	readonly names: readonly string[];
}

/** Longest subject and body taken. A mail header line is 998 characters at most (RFC 5322 section 2.1.1); a subject that long is read by nobody. */
const longest = { subject: 200, body: 20_000 } as const;
/** Parts above which a text should be short and link to the whole. */
export const manyParts = 3;

/** The size of files inside a letter: base64 makes four octets of three, and breaks its lines (RFC 2045 section 6.8). */
export const encodedBytes = (bytes: number): number => Math.ceil(bytes / 3) * 4 * (78 / 76);

const wayWords: Readonly<Record<Way, string>> = { email: 'email', text: 'text', inbox: 'inbox' };

/** Parts of kept wording that are to be filled in stand in square brackets. */
const unfilled = (text: string): string[] => [...new Set(text.match(/\[[^[\]\n]{2,60}\]/g) ?? [])];

/** The letters of words, each with what it is called: the common one, and those that a chosen way has for its own. */
function lettersIn(words: Words, ways: readonly Way[]): { name: string; letter: LetterWords }[] {
	const own = (['email', 'inbox'] as const).filter((w) => ways.includes(w) && words.own[w]);
	const common = ways.some((w) => words.own[w] === undefined) || ways.length === 0;
	return [
		...(common ? [{ name: '', letter: words }] : []),
		...own.map((w) => ({ name: `, for ${wayWords[w]}`, letter: letterWords(words, w) }))
	];
}

/** What is to be said of the wording, in the order of the sheet. */
export function wordingChecks(input: WordingInput): Check[] {
	const checks: Check[] = [];
	const say = (level: Check['level'], where: Check['where'], text: string) => {
		if (!checks.some((c) => c.text === text)) checks.push({ level, where, text });
	};
	const { wording, ways } = input;
	const inUse = [
		{ words: wording.words, of: '' },
		...wording.variants
			.filter((v) => !v.off)
			.map((v) => ({ words: v.words, of: ` in ${input.nameOfLanguage(v.language)}` }))
	];

	for (const { words, of } of inUse) {
		for (const { name, letter } of lettersIn(words, ways)) {
			const which = `${name}${of}`;
			if (isBlank(letter.subject)) {
				say('block', 'subject', `The subject${which} is empty. Write one.`);
			} else if ([...letter.subject].length > longest.subject) {
				say(
					'block',
					'subject',
					`The subject${which} is over ${longest.subject} characters. Shorten it.`
				);
			}
			if (/[\r\n]/.test(letter.subject.trim())) {
				say('block', 'subject', `The subject${which} holds a line break. Put it on one line.`);
			}
			const text = bodyText(letter.body);
			if (isEmptyDoc(letter.body)) {
				say('block', 'body', `There is no wording${which} yet. Write it.`);
			} else if ([...text].length > longest.body) {
				say('block', 'body', `The wording${which} is over ${longest.body} characters. Shorten it.`);
			}
			const problems = [...readTemplate(letter.subject).problems, ...readTemplate(text).problems];
			// Written half in bold, a field is whole in the plain text and in pieces in the HTML.
			const runs = [...inlinesIn(letter.body)].flatMap((i) => (i.type === 'text' ? [i.text] : []));
			if (problems.length === 0 && !runs.every(isWhole)) {
				problems.push(
					'A field is written in pieces of different form: over several looks, lines or links. Keep it, and all from {{#…}} to its end, in one stretch of words, or take it from the list of fields.'
				);
			}
			for (const problem of problems) {
				say('block', 'body', `${problem}${which ? ` (${which.replace(/^, /, '').trim()})` : ''}`);
			}
			for (const href of linksIn(letter.body)) {
				if (!isLinkAddress(href)) {
					say(
						'block',
						'body',
						`The link “${href.slice(0, 60)}” leads nowhere: it must begin with https://, http:// or mailto:.`
					);
				}
			}
			const typed = [...inlinesIn(letter.body)].map((i) => (i.type === 'text' ? i.text : '\n'));
			for (const part of unfilled(`${letter.subject}\n${typed.join('')}`)) {
				say('caution', 'body', `“${part}” is still to be filled in.`);
			}
			const undescribed = picturesIn(letter.body).filter((p) => isBlank(p.alt)).length;
			if (undescribed > 0) {
				say(
					'caution',
					'body',
					`${undescribed} ${undescribed === 1 ? 'picture has' : 'pictures have'} no description for those who do not see ${undescribed === 1 ? 'it' : 'them'}.`
				);
			}
		}
		const own = words.own.text;
		if (own && ways.includes('text')) {
			if (isBlank(own.text))
				say('block', 'body', `The text has its own wording${of}, and it is empty.`);
			for (const problem of readTemplate(own.text).problems)
				say('block', 'body', `${problem} (text)`);
		}
	}

	for (const { field, people, names } of input.emptyFields) {
		checks.push({
			level: 'block',
			where: 'body',
			text: `“${fieldLabel(field)}” has no value for ${people} ${people === 1 ? 'person' : 'people'}: ${someNames(names, 3, people)}. Give it a fallback, or take it out.`,
			...(people > 3 ? { names } : {})
		});
	}

	const replyTo = input.replyTo.trim();
	if (replyTo !== '' && input.kind === 'message') {
		const mail = checkMailAddress(replyTo);
		if (!mail.ok) say('block', 'letter', `“${replyTo}” is no reply address: ${mail.why}.`);
	}
	if (input.filesMissing > 0) {
		say(
			'block',
			'files',
			`${input.filesMissing} ${input.filesMissing === 1 ? 'file is' : 'files are'} no longer there, or not yours. Take ${input.filesMissing === 1 ? 'it' : 'them'} out and put ${input.filesMissing === 1 ? 'it' : 'them'} in again.`
		);
	}

	for (const variant of wording.variants) {
		if (variant.off) continue;
		const name = input.nameOfLanguage(variant.language);
		if (isOutOfDate(wording, variant)) {
			say(
				'caution',
				'languages',
				`The wording in ${name} is out of date: the original has changed since.`
			);
		}
		if (!variant.checked) {
			say('caution', 'languages', `The wording in ${name} is a draft that nobody has looked over.`);
		}
	}
	const others = input.languages.filter(
		(l) => l.gets === wording.language && !sameLanguage(l.language, wording.language)
	);
	const otherPeople = others.reduce((sum, l) => sum + l.people, 0);
	if (otherPeople > 0) {
		say(
			'caution',
			'languages',
			`${otherPeople} ${otherPeople === 1 ? 'person reads' : 'people read'} another language and ${otherPeople === 1 ? 'gets' : 'get'} the original: ${others.map((l) => `${l.name} ${l.people}`).join(', ')}.`
		);
	}

	const attached = input.files.filter((f) => f.mode === 'attach');
	const letterBytes = encodedBytes(attached.reduce((sum, f) => sum + f.bytes, input.pictureBytes));
	if (letterBytes > input.mailLimitBytes) {
		say(
			'caution',
			'files',
			`With its files and pictures each email has ${megabytes(letterBytes)}; many mail systems refuse more than ${megabytes(input.mailLimitBytes)}. Send a link instead.`
		);
	}
	const ownText = wording.words.own.text;
	if (ownText && !ownText.link && input.files.length > 0 && input.texts > 0) {
		say(
			'caution',
			'body',
			'A text cannot carry files, and this one has no link to them. Add the link.'
		);
	}
	for (const way of ['email', 'inbox', 'text'] as const) {
		if (wording.words.own[way] && !ways.includes(way)) {
			say(
				'caution',
				'ways',
				`There is a wording of its own for ${wayWords[way]}, and ${wayWords[way]} is not chosen.`
			);
		}
	}

	if (/^en\b/i.test(wording.language)) {
		const text = `${wording.words.subject}\n${bodyText(wording.words.body)}`;
		for (const date of datesIn(text, input.now, input.zone)) {
			if (date.rightWeekday) {
				say('caution', 'body', `“${date.text}” does not fit: that day is a ${date.rightWeekday}.`);
			} else if (date.past) say('caution', 'body', `“${date.text}” is past.`);
		}
		const grade = readingGrade(bodyText(wording.words.body));
		if (grade !== null && grade > hardGrade) {
			say(
				'caution',
				'body',
				`It reads at about grade ${Math.round(grade)}. Shorter sentences and words are read by more families.`
			);
		} else if (grade !== null) {
			say('fine', 'body', `It reads at about grade ${Math.round(grade)}.`);
		}
	}
	return checks;
}

/** What is to be said of texts of which the longest takes so many parts; null where nothing is. Known only when every text has been measured. */
export const longTextCheck = (parts: number): Check | null =>
	parts > manyParts
		? {
				level: 'caution',
				where: 'body',
				text: `The longest text takes ${parts} parts. Shorten it, or send its beginning with a link to the whole.`
			}
		: null;

const megabytes = (bytes: number): string => `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;

/** Whether two tags are of one language, whatever the region. */
const sameLanguage = (a: string, b: string): boolean =>
	a.toLowerCase().split('-')[0] === b.toLowerCase().split('-')[0];
