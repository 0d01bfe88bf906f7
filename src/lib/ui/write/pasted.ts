/** The most characters that are pasted at once; a wording holds a tenth of it. */
export const mostPasted = 200_000;

/** Pasted HTML made ready for the editor, and how many pictures from elsewhere were left out. */
export interface Cleaned {
	readonly html: string;
	readonly pictures: number;
}

/**
 * Takes from pasted HTML what belongs to the program it comes from: sizes, colours, fonts, classes
 * and comments. Bold, italic and underline that stand in styles stay. What could be run is dropped
 * by the editor, which knows only what a doc holds; it is dropped here as well.
 */
export function cleanPasted(html: string): Cleaned {
	const page = new DOMParser().parseFromString(html, 'text/html');
	page
		.querySelectorAll('script,style,meta,link,title,iframe,object,embed,svg,math,form')
		.forEach((e) => e.remove());
	let pictures = 0;
	for (const image of page.querySelectorAll('img')) {
		if (image.hasAttribute('data-picture')) continue;
		pictures += 1;
		image.remove();
	}
	for (const element of page.body.querySelectorAll<HTMLElement>('*')) {
		// A word processor's own tags ("o:p") hold nothing or words; the words stay.
		const { fontWeight, fontStyle, textDecorationLine } = element.style;
		for (const { name } of [...element.attributes]) {
			const kept = ['href', 'colspan', 'rowspan', 'alt', 'width'].includes(name);
			if (!kept && !name.startsWith('data-')) element.removeAttribute(name);
		}
		if (fontWeight) element.style.fontWeight = fontWeight;
		if (fontStyle) element.style.fontStyle = fontStyle;
		if (textDecorationLine) element.style.textDecoration = textDecorationLine;
	}
	const walker = page.createTreeWalker(page.body, NodeFilter.SHOW_COMMENT);
	const comments: Node[] = [];
	while (walker.nextNode()) comments.push(walker.currentNode);
	comments.forEach((c) => c.parentNode?.removeChild(c));
	return { html: page.body.innerHTML, pictures };
}
