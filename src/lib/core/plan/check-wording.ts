import { isBlank } from '../copy/blank';
import { datesIn } from '../copy/dates';
import { fieldLabel } from '../copy/fields';
import type { LetterFile } from '../copy/letter';
import { bodyText } from '../copy/plain';
import { hardGrade, readingGrade } from '../copy/reading-level';
import { isOutOfDate } from '../copy/stale';
import type { Note } from '../copy/note';
import { letterWords, type LetterWords, type Words, type Wording } from '../copy/words';
import { checkMailAddress } from '../format/mail-address';
import type { DispatchKind } from '../roster/types';
import type { Way } from '../roster/way';
import { block, caution, someNames, type Check } from './check';
import { letterChecks, ownTextChecks } from './check-letter';

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
	/** What was recorded for it, as far as it is looked at. */
	readonly note?: Pick<Note, 'kind' | 'words'> | null;
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

/** Parts above which a text should be short and link to the whole. */
export const manyParts = 3;

/** The size of files inside a letter: base64 makes four octets of three, and breaks its lines (RFC 2045 section 6.8). */
export const encodedBytes = (bytes: number): number => Math.ceil(bytes / 3) * 4 * (78 / 76);

/** The letters of words, each with what it is called: the common one, and those that a chosen way has for its own. */
function lettersIn(words: Words, ways: readonly Way[]): { name: string; letter: LetterWords }[] {
	const own = (['email', 'inbox'] as const).filter((w) => ways.includes(w) && words.own[w]);
	const common = ways.some((w) => words.own[w] === undefined) || ways.length === 0;
	return [
		...(common ? [{ name: '', letter: words }] : []),
		...own.map((w) => ({ name: `, for ${w}`, letter: letterWords(words, w) }))
	];
}

function everyLetter({ wording, ways, nameOfLanguage }: WordingInput): Check[] {
	const inUse = [
		{ words: wording.words, of: '' },
		...wording.variants
			.filter((v) => !v.off)
			.map((v) => ({ words: v.words, of: ` in ${nameOfLanguage(v.language)}` }))
	];
	return inUse.flatMap(({ words, of }) => [
		...lettersIn(words, ways).flatMap(({ name, letter }) =>
			letterChecks({ letter, which: `${name}${of}` })
		),
		...(words.own.text && ways.includes('text') ? ownTextChecks(words.own.text, of) : [])
	]);
}

const fieldsFilled = ({ emptyFields }: WordingInput): Check[] =>
	emptyFields.map(({ field, people, names }) => ({
		...block(
			'body',
			`“${fieldLabel(field)}” has no value for ${people} ${people === 1 ? 'person' : 'people'}: ${someNames(names, 3, people)}. Give it a fallback, or take it out.`
		),
		...(people > 3 ? { names } : {})
	}));

function replyAddress({ replyTo, kind }: WordingInput): Check[] {
	const address = replyTo.trim();
	if (address === '' || kind !== 'message') return [];
	const mail = checkMailAddress(address);
	return mail.ok ? [] : [block('letter', `“${address}” is no reply address: ${mail.why}.`)];
}

function filesThere({ filesMissing: n }: WordingInput): Check[] {
	if (n === 0) return [];
	const [are, them] = n === 1 ? ['file is', 'it'] : ['files are', 'them'];
	return [
		block(
			'files',
			`${n} ${are} no longer there, or not yours. Take ${them} out and put ${them} in again.`
		)
	];
}

const languagesLookedOver = ({ wording, nameOfLanguage }: WordingInput): Check[] =>
	wording.variants
		.filter((variant) => !variant.off)
		.flatMap((variant) => {
			const name = nameOfLanguage(variant.language);
			return [
				...(isOutOfDate(wording, variant)
					? [
							caution(
								'languages',
								`The wording in ${name} is out of date: the original has changed since.`
							)
						]
					: []),
				...(variant.checked
					? []
					: [
							caution('languages', `The wording in ${name} is a draft that nobody has looked over.`)
						])
			];
		});

function readersOfOthers({ wording, languages }: WordingInput): Check[] {
	const others = languages.filter(
		(l) => l.gets === wording.language && !sameLanguage(l.language, wording.language)
	);
	const n = others.reduce((sum, l) => sum + l.people, 0);
	if (n === 0) return [];
	const [read, get] = n === 1 ? ['person reads', 'gets'] : ['people read', 'get'];
	return [
		caution(
			'languages',
			`${n} ${read} another language and ${get} the original: ${others.map((l) => `${l.name} ${l.people}`).join(', ')}.`
		)
	];
}

function letterSize({ files, pictureBytes, mailLimitBytes }: WordingInput): Check[] {
	const attached = files.filter((f) => f.mode === 'attach');
	const letterBytes = encodedBytes(attached.reduce((sum, f) => sum + f.bytes, pictureBytes));
	return letterBytes > mailLimitBytes
		? [
				caution(
					'files',
					`With its files and pictures each email has ${megabytes(letterBytes)}; many mail systems refuse more than ${megabytes(mailLimitBytes)}. Send a link instead.`
				)
			]
		: [];
}

/** Not everybody hears, or can play it where they read. */
const noteSaid = ({ note }: WordingInput): Check[] =>
	note && isBlank(note.words)
		? [
				block(
					'note',
					`Write what is said in the ${note.kind === 'voice' ? 'voice' : 'video'} note: not everybody can hear it.`
				)
			]
		: [];

function textLinks({ wording, files, note, texts }: WordingInput): Check[] {
	const own = wording.words.own.text;
	return own && !own.link && (files.length > 0 || note) && texts > 0
		? [
				caution(
					'body',
					'A text cannot carry files or notes, and this one has no link to them. Add the link.'
				)
			]
		: [];
}

const ownWordingUsed = ({ wording, ways }: WordingInput): Check[] =>
	(['email', 'inbox', 'text'] as const)
		.filter((way) => wording.words.own[way] && !ways.includes(way))
		.map((way) =>
			caution('ways', `There is a wording of its own for ${way}, and ${way} is not chosen.`)
		);

function datesFit({ wording, now, zone }: WordingInput): Check[] {
	if (!isEnglish(wording)) return [];
	const text = `${wording.words.subject}\n${bodyText(wording.words.body)}`;
	return datesIn(text, now, zone).flatMap((date) => {
		if (date.rightWeekday) {
			return [caution('body', `“${date.text}” does not fit: that day is a ${date.rightWeekday}.`)];
		}
		return date.past ? [caution('body', `“${date.text}” is past.`)] : [];
	});
}

function easyToRead({ wording }: WordingInput): Check[] {
	const grade = isEnglish(wording) ? readingGrade(bodyText(wording.words.body)) : null;
	if (grade === null) return [];
	const said = `It reads at about grade ${Math.round(grade)}.`;
	return grade > hardGrade
		? [caution('body', `${said} Shorter sentences and words are read by more families.`)]
		: [{ level: 'fine', where: 'body', text: said }];
}

/** Everything that is asked of a wording, in the order of the sheet. */
const asked: readonly ((input: WordingInput) => Check[])[] = [
	everyLetter,
	fieldsFilled,
	replyAddress,
	filesThere,
	noteSaid,
	languagesLookedOver,
	readersOfOthers,
	letterSize,
	textLinks,
	ownWordingUsed,
	datesFit,
	easyToRead
];

/** What is to be said of the wording, in the order of the sheet; the same thing once. */
export function wordingChecks(input: WordingInput): Check[] {
	const said = new Map<string, Check>();
	for (const check of asked.flatMap((ask) => ask(input))) {
		if (!said.has(check.text)) said.set(check.text, check);
	}
	return [...said.values()];
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

const isEnglish = (wording: Wording): boolean => /^en\b/i.test(wording.language);

/** Whether two tags are of one language, whatever the region. */
const sameLanguage = (a: string, b: string): boolean =>
	a.toLowerCase().split('-')[0] === b.toLowerCase().split('-')[0];
