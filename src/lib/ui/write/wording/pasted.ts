import { makeLists } from './word-lists';

/** The most characters that are pasted at once; a wording holds a tenth of it. */
export const mostPasted = 200_000;

/** Pasted HTML made ready for the editor, and how many pictures from elsewhere were left out. */
export interface Cleaned {
	readonly html: string;
	readonly pictures: number;
}

const tag = /<[a-z][^<>]*>/gi;
const handler = /\son[a-z]+\s*=\s*(?:"[^"]*"|'[^']*'|[^\s"'>]+)/gi;
/** Without what would run at an event: nothing of it ever could, but a browser complains of each as soon as it reads it. */
const unhandled = (html: string): string => html.replace(tag, (one) => one.replace(handler, ' '));

/**
 * Takes from pasted HTML what belongs to the program it comes from: sizes, colours, fonts, classes
 * and comments, and what was deleted there and is only shown as such. Bold, italic, underline, struck
 * and raised words that stand in styles stay, and lists that are written as paragraphs become lists. What could be run is dropped
 * by the editor, which knows only what a doc holds; it is dropped here as well.
 */
export function cleanPasted(html: string): Cleaned {
	const page = new DOMParser().parseFromString(unhandled(html), 'text/html');
	page
		.querySelectorAll('script,style,meta,link,title,iframe,object,embed,svg,math,form')
		.forEach((e) => e.remove());
	// Struck through is something a writer says; deleted is what they took out (HTML, the elements s and del).
	page.querySelectorAll('del, .msoDel, .MsoDel').forEach((e) => e.remove());
	makeLists(page);
	let pictures = 0;
	for (const image of page.querySelectorAll('img')) {
		if (image.hasAttribute('data-picture')) continue;
		pictures += 1;
		image.remove();
	}
	for (const element of page.body.querySelectorAll<HTMLElement>('*')) {
		// A word processor's own tags ("o:p") hold nothing or words; the words stay.
		const { fontWeight, fontStyle, textDecorationLine, verticalAlign } = element.style;
		for (const { name } of [...element.attributes]) {
			const kept = ['href', 'colspan', 'rowspan', 'alt', 'width'].includes(name);
			if (!kept && !name.startsWith('data-')) element.removeAttribute(name);
		}
		if (fontWeight) element.style.fontWeight = fontWeight;
		if (fontStyle) element.style.fontStyle = fontStyle;
		if (textDecorationLine) element.style.textDecoration = textDecorationLine;
		if (/^(super|sub)$/.test(verticalAlign)) element.style.verticalAlign = verticalAlign;
	}
	const walker = page.createTreeWalker(page.body, NodeFilter.SHOW_COMMENT);
	const comments: Node[] = [];
	while (walker.nextNode()) comments.push(walker.currentNode);
	comments.forEach((c) => c.parentNode?.removeChild(c));
	return { html: page.body.innerHTML, pictures };
}
