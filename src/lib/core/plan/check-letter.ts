import { isBlank } from '../copy/blank';
import { inlinesIn, isEmptyDoc, isLinkAddress, linksIn, picturesIn } from '../copy/doc';
import { bodyText } from '../copy/plain';
import { isWhole, readTemplate } from '../copy/template';
import type { LetterWords, OwnText } from '../copy/words';
import { block, caution, type Check } from './check';

/** The words of one letter, in one language and for one way or for all that have none of their own. */
export interface LookedOver {
	readonly letter: LetterWords;
	/** What it is called where it is not the only one: ", for email in Portuguese". */
	readonly which: string;
}

/** Longest subject and body taken. A mail header line is 998 characters at most (RFC 5322 section 2.1.1); a subject that long is read by nobody. */
const longest = { subject: 200, body: 20_000 } as const;

/** Parts of kept wording that are to be filled in stand in square brackets. */
const unfilled = (text: string): string[] => [...new Set(text.match(/\[[^[\]\n]{2,60}\]/g) ?? [])];

function subjectLength({ letter: { subject }, which }: LookedOver): Check[] {
	if (isBlank(subject)) return [block('subject', `The subject${which} is empty. Write one.`)];
	return [...subject].length > longest.subject
		? [block('subject', `The subject${which} is over ${longest.subject} characters. Shorten it.`)]
		: [];
}

const subjectOnOneLine = ({ letter: { subject }, which }: LookedOver): Check[] =>
	/[\r\n]/.test(subject.trim())
		? [block('subject', `The subject${which} holds a line break. Put it on one line.`)]
		: [];

function bodyLength({ letter: { body }, which }: LookedOver): Check[] {
	if (isEmptyDoc(body)) return [block('body', `There is no wording${which} yet. Write it.`)];
	return [...bodyText(body)].length > longest.body
		? [block('body', `The wording${which} is over ${longest.body} characters. Shorten it.`)]
		: [];
}

function fieldsWhole({ letter: { subject, body }, which }: LookedOver): Check[] {
	const problems = [...readTemplate(subject).problems, ...readTemplate(bodyText(body)).problems];
	// Written half in bold, a field is whole in the plain text and in pieces in the HTML.
	const runs = [...inlinesIn(body)].flatMap((i) => (i.type === 'text' ? [i.text] : []));
	if (problems.length === 0 && !runs.every(isWhole)) {
		problems.push(
			'A field is written in pieces of different form: over several looks, lines or links. Keep it, and all from {{#…}} to its end, in one stretch of words, or take it from the list of fields.'
		);
	}
	const of = which ? ` (${which.replace(/^, /, '').trim()})` : '';
	return problems.map((problem) => block('body', `${problem}${of}`));
}

const linksLead = ({ letter: { body } }: LookedOver): Check[] =>
	[...linksIn(body)]
		.filter((href) => !isLinkAddress(href))
		.map((href) =>
			block(
				'body',
				`The link “${href.slice(0, 60)}” leads nowhere: it must begin with https://, http:// or mailto:.`
			)
		);

function allFilledIn({ letter: { subject, body } }: LookedOver): Check[] {
	const typed = [...inlinesIn(body)].map((i) => (i.type === 'text' ? i.text : '\n'));
	return unfilled(`${subject}\n${typed.join('')}`).map((part) =>
		caution('body', `“${part}” is still to be filled in.`)
	);
}

function picturesDescribed({ letter: { body } }: LookedOver): Check[] {
	const n = picturesIn(body).filter((p) => isBlank(p.alt)).length;
	if (n === 0) return [];
	const [have, them] = n === 1 ? ['picture has', 'it'] : ['pictures have', 'them'];
	return [caution('body', `${n} ${have} no description for those who do not see ${them}.`)];
}

/** What is asked of each letter, in the order of the sheet. */
const asked = [
	subjectLength,
	subjectOnOneLine,
	bodyLength,
	fieldsWhole,
	linksLead,
	allFilledIn,
	picturesDescribed
];

/** What is to be said of one letter. */
export const letterChecks = (letter: LookedOver): Check[] => asked.flatMap((ask) => ask(letter));

/** What is to be said of the own wording of a text; `of` names the language where there are several. */
export const ownTextChecks = (own: OwnText, of: string): Check[] => [
	...(isBlank(own.text)
		? [block('body', `The text has its own wording${of}, and it is empty.`)]
		: []),
	...readTemplate(own.text).problems.map((problem) => block('body', `${problem} (text)`))
];
