import { z } from 'zod';
import { isBlank } from './blank';
import { docOf, docSchema, emptyDoc, isEmptyDoc, type Doc } from './doc';
import { lookupLanguage } from './language';

/** What a dispatch says in one language: one wording for all ways, and those ways that have their own. */
const letterSchema: z.ZodType<LetterWords> = z.object({
	/** A template on one line. */
	subject: z.string().max(10_000),
	body: docSchema
});
/** A text of its own: what it says, and whether the link to the whole stands below. */
const ownTextSchema = z.object({ text: z.string().max(20_000), link: z.boolean() });
export const wordsSchema: z.ZodType<Words> = z.object({
	subject: z.string().max(10_000),
	body: docSchema,
	own: z
		.object({
			email: letterSchema.optional(),
			inbox: letterSchema.optional(),
			text: ownTextSchema.optional()
		})
		.default({})
});
export interface LetterWords {
	readonly subject: string;
	readonly body: Doc;
}
export type OwnText = z.infer<typeof ownTextSchema>;
export interface Words extends LetterWords {
	readonly own: {
		readonly email?: LetterWords;
		readonly inbox?: LetterWords;
		readonly text?: OwnText;
	};
}

/** A BCP 47 tag (RFC 5646 section 2.1): language, and script, region and variants where they matter. */
export const languageTagSchema = z
	.string()
	.regex(
		/^[a-z]{2,3}(-[a-z]{4})?(-([a-z]{2}|\d{3}))?(-([a-z0-9]{5,8}|\d[a-z0-9]{3}))*$/i,
		'This is no language tag.'
	);

/** The wording in another language. */
const variantSchema: z.ZodType<Variant> = z.object({
	language: languageTagSchema,
	words: wordsSchema,
	/** Whether a person has looked it over since it was drafted by the translator. */
	checked: z.boolean(),
	/** The original's words it was made from, so that it can be told what has changed since. */
	basis: wordsSchema,
	/** Switched off: its readers get the original. */
	off: z.boolean().default(false)
});
export interface Variant {
	readonly language: string;
	readonly words: Words;
	readonly checked: boolean;
	readonly basis: Words;
	readonly off: boolean;
}

export const wordingSchema: z.ZodType<Wording> = z
	.object({
		/** Language of the original. */
		language: languageTagSchema.default('en'),
		words: wordsSchema,
		variants: z.array(variantSchema).max(40).default([])
	})
	.refine(
		(w) =>
			new Set([w.language, ...w.variants.map((v) => v.language)]).size === w.variants.length + 1,
		'Each language has one wording.'
	);

/** All that a dispatch says: the original and its variants. */
export interface Wording {
	readonly language: string;
	readonly words: Words;
	readonly variants: readonly Variant[];
}

export const emptyWords: Words = { subject: '', body: emptyDoc, own: {} };

/** A wording of plain words in one language. */
export const wordingOf = (subject: string, body: string, language = 'en'): Wording => ({
	language,
	words: { subject, body: docOf(body), own: {} },
	variants: []
});

/** The words a reader of a language gets, and their language: the best fitting variant that is not switched off (RFC 4647, lookup), else the original. */
export function wordsFor(
	wording: Wording,
	language: string
): { readonly language: string; readonly words: Words; readonly variant: Variant | null } {
	const there = wording.variants.filter((v) => !v.off);
	const tag = lookupLanguage(
		[language],
		[wording.language, ...there.map((v) => v.language)],
		wording.language
	);
	const variant = there.find((v) => v.language === tag) ?? null;
	return { language: tag, words: variant?.words ?? wording.words, variant };
}

/** The languages a wording is in: the original's first, then those of variants that are not switched off. */
export const writtenIn = ({ language, variants }: Wording): string[] => [
	language,
	...variants.filter((v) => !v.off).map((v) => v.language)
];

/** The words of a letter by one way. */
export const letterWords = (words: Words, way: 'email' | 'inbox'): LetterWords =>
	words.own[way] ?? words;

export const isEmptyWords = (words: LetterWords): boolean =>
	isBlank(words.subject) && isEmptyDoc(words.body);

/** The words in a language that has its own: the original's or a variant's, switched off or not. */
export const wordsIn = (wording: Wording, language: string): Words =>
	wording.variants.find((v) => v.language === language)?.words ?? wording.words;

/** The same wording with other words in one of its languages. */
export const withWords = (wording: Wording, language: string, words: Words): Wording =>
	language === wording.language
		? { ...wording, words }
		: withVariant(wording, language, (v) => ({ ...v, words }));

/** The same wording with one variant changed. */
export const withVariant = (
	wording: Wording,
	language: string,
	change: (variant: Variant) => Variant
): Wording => ({
	...wording,
	variants: wording.variants.map((v) => (v.language === language ? change(v) : v))
});

/** The same wording with a variant put in, or in the place of the one in that language; in the order of the tags. */
export const putVariant = (wording: Wording, variant: Variant): Wording => ({
	...wording,
	variants: [...wording.variants.filter((v) => v.language !== variant.language), variant].sort(
		(a, b) => a.language.localeCompare(b.language)
	)
});

/** The same words with those of one way changed; undefined gives up a wording of its own. */
export const withOwn = <W extends keyof Words['own']>(
	words: Words,
	way: W,
	own: Words['own'][W]
): Words => {
	const rest = { ...words.own };
	delete rest[way];
	return { ...words, own: own === undefined ? rest : { ...rest, [way]: own } };
};
