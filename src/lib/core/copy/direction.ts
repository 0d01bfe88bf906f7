/** Letters of scripts that run from right to left (Unicode scripts; Bidi classes R and AL, UAX #9). */
const rightToLeft =
	/[\p{Script=Arabic}\p{Script=Hebrew}\p{Script=Syriac}\p{Script=Thaana}\p{Script=Nko}\p{Script=Adlam}]/u;

export type Direction = 'ltr' | 'rtl';

/** The direction of a run of words, by its first letter (UAX #9, rules P2 and P3); `otherwise` where it has no letter. */
export function directionOf(text: string, otherwise: Direction = 'ltr'): Direction {
	const first = /\p{L}/u.exec(text);
	if (!first) return otherwise;
	return rightToLeft.test(first[0]) ? 'rtl' : 'ltr';
}

/** The direction of a language by the script it is written in: its own subtag (RFC 5646 section 2.2.3), else the usual one. */
export function languageDirection(tag: string): Direction {
	const [language = '', ...rest] = tag.toLowerCase().split('-');
	const script = rest.find((part) => /^[a-z]{4}$/.test(part));
	if (script)
		return ['arab', 'hebr', 'syrc', 'thaa', 'nkoo', 'adlm'].includes(script) ? 'rtl' : 'ltr';
	return ['ar', 'he', 'fa', 'ur', 'ps', 'sd', 'ug', 'yi', 'dv', 'ckb', 'syr'].includes(language)
		? 'rtl'
		: 'ltr';
}
