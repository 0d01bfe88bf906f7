import { linksIn } from './doc';
import { letterWords, type Wording } from './words';

/** Whether what is behind a link can be passed through a copy's own link: a page, with no field in its address. */
const passes = (href: string): boolean => /^https?:\/\//i.test(href) && !href.includes('{{');

/** The pages that the words of a dispatch link to, each once, over all languages and ways. The place in this list names a link in each copy. */
export function wordLinks(wording: Wording): string[] {
	const all = [wording.words, ...wording.variants.map((v) => v.words)];
	const hrefs = all.flatMap((words) =>
		(['email', 'inbox'] as const).flatMap((way) => linksIn(letterWords(words, way).body))
	);
	return [...new Set(hrefs.filter(passes))];
}

/** How links stand in a template while the copy they are for is not known. */
const mark = 'copy-link:';

/** The address of a link in a template; `index` tells those that pass through the copy. */
export const markedLink =
	(index: ReadonlyMap<string, number>) =>
	(href: string): string =>
		index.has(href) ? mark + index.get(href) : href;

/** Puts a copy's own link in: words cannot forge a marked one, since what they say is escaped. */
export const placeLinks = (html: string, base: string): string =>
	html.replaceAll(`href="${mark}`, `href="${base}/`);
