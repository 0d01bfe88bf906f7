import { basicFilter, lookup } from 'bcp-47-match';
import { nameList } from './names';

/**
 * The best fit among language tags for a list of wanted ones, most wanted first: the lookup of RFC
 * 4647 section 3.4. "*" is passed over. Returns the tag as it stands in `available`, or `fallback`.
 */
export function lookupLanguage(
	wanted: readonly string[],
	available: readonly string[],
	fallback: string
): string {
	return lookup([...available], [...wanted]) ?? fallback;
}

/** Fixed words in the nearest language there is to the wanted ones (RFC 4647 section 3.4), and its tag; English where there is none. */
export function inLanguage<T>(
	phrases: Readonly<Record<string, T>>,
	wanted: readonly string[]
): { readonly tag: string; readonly words: T } {
	const tag = lookupLanguage(wanted, Object.keys(phrases), 'en');
	return { tag, words: phrases[tag]! };
}

/** Whether a person's language falls under a range: basic filtering, RFC 4647 section 3.3.1 ("pt" takes in "pt-BR"). */
export function fallsUnder(language: string, range: string): boolean {
	return basicFilter(language, range).length > 0;
}

const names = new Intl.DisplayNames(['en'], { type: 'language' });

let tags: Map<string, string> | undefined;

/** The tag of a language by its English name or by the tag itself, also where nobody here reads it; undefined for what is none. */
export function tagOfLanguage(name: string): string | undefined {
	if (!tags) {
		tags = new Map();
		const letters = 'abcdefghijklmnopqrstuvwxyz';
		const codes = [...letters].flatMap((a) => [...letters].map((b) => a + b));
		// Two letters before three (RFC 5646 section 2.2.1): "es", never "spa".
		for (const code of [...codes, ...codes.flatMap((two) => [...letters].map((c) => two + c))]) {
			const known = names.of(code);
			if (known && known !== code && !tags.has(known.toLowerCase())) {
				tags.set(known.toLowerCase(), code);
			}
		}
	}
	const known = tags.get(name.trim().toLowerCase());
	if (known) return known;
	return /^[a-z]{2,3}(-[a-z0-9]{2,8})*$/i.test(name) ? name : undefined;
}

/** The names of several languages, their tags with a comma between: "English and Spanish". */
export const languagesWords = (tags: string): string =>
	nameList(tags.split(',').map(nameOfLanguage).sort());

/** The English name of a language by its tag; the tag itself where it has none. */
export function nameOfLanguage(tag: string): string {
	try {
		return names.of(tag) ?? tag;
	} catch {
		return tag;
	}
}

/** Whether a tag is well formed (RFC 5646 section 2.1) and of a language that has a name. */
export function isLanguageTag(tag: string): boolean {
	try {
		return Intl.getCanonicalLocales(tag).length === 1 && names.of(tag) !== tag;
	} catch {
		return false;
	}
}

/** Every language with a name and a tag of two letters (ISO 639-1), by name. */
export function everyLanguage(): readonly { readonly tag: string; readonly name: string }[] {
	tagOfLanguage('en');
	return [...tags!.values()]
		.filter((tag) => tag.length === 2)
		.map((tag) => ({ tag, name: nameOfLanguage(tag) }))
		.sort((a, b) => a.name.localeCompare(b.name, 'en'));
}
