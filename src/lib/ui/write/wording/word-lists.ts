/** A paragraph that a word processor pastes as an entry of a list: how deep it stands, and whether it is numbered. */
interface Entry {
	readonly level: number;
	readonly numbered: boolean;
}

/** How deep a list may be nested; what stands deeper is taken for this. */
const deepest = 4;

/** What a paragraph says of the list it belongs to; null where it belongs to none. Asked before styles are taken off. */
function entryOf(element: Element): Entry | null {
	const style = element.getAttribute('style') ?? '';
	const level = /mso-list:\s*\S+\s+level(\d+)/i.exec(style);
	if (!level) return null;
	const sign = markerOf(element)?.textContent?.trim() ?? '';
	return {
		level: Math.min(deepest, Math.max(1, Number(level[1]))),
		numbered: /^\(?([0-9]{1,3}|[a-z]{1,4})[.)]/i.test(sign)
	};
}

/** The bullet or number that is written out before the words of an entry. */
const markerOf = (element: Element): Element | undefined =>
	[...element.querySelectorAll('span')].find((s) =>
		/mso-list:\s*ignore/i.test(s.getAttribute('style') ?? '')
	);

/**
 * Makes lists of the paragraphs that a word processor pastes in their place, nested as they were;
 * the signs written out before them go.
 */
export function makeLists(page: Document): void {
	let stack: { list: Element; numbered: boolean }[] = [];
	let before: Element | null = null;
	for (const paragraph of [...page.body.querySelectorAll('p, h1, h2, h3, h4, h5, h6')]) {
		const entry = entryOf(paragraph);
		if (!entry) continue;
		// Something else stood between: another list begins.
		if (!before || paragraph.previousElementSibling !== before) stack = [];
		while (stack.length > entry.level) stack.pop();
		const top = stack[entry.level - 1];
		if (top && top.numbered !== entry.numbered) stack.length = entry.level - 1;
		while (stack.length < entry.level) {
			const list = page.createElement(entry.numbered ? 'ol' : 'ul');
			const around = stack.at(-1)?.list.lastElementChild;
			if (around) around.append(list);
			else if (stack.length === 0) paragraph.before(list);
			else {
				// A level was skipped: it needs an entry to hang on.
				const item = page.createElement('li');
				item.append(list);
				stack.at(-1)!.list.append(item);
			}
			stack.push({ list, numbered: entry.numbered });
		}
		markerOf(paragraph)?.remove();
		const item = page.createElement('li');
		const words = page.createElement('p');
		words.append(...paragraph.childNodes);
		item.append(words);
		stack.at(-1)!.list.append(item);
		before = stack[0]!.list;
		paragraph.remove();
	}
}
