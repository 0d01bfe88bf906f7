import type { Block, Doc, Inline } from './doc';
import { fieldTag } from './template';

/** The words of a run; a link says where it leads where its words do not. */
function inlineText(content: readonly Inline[] = []): string {
	let text = '';
	for (const [i, inline] of content.entries()) {
		text +=
			inline.type === 'text'
				? isStruck(inline)
					? `~${inline.text}~`
					: inline.text
				: inline.type === 'hardBreak'
					? '\n'
					: fieldTag(inline.attrs.name, inline.attrs.fallback);
		const href = hrefOf(inline);
		if (href === null || hrefOf(content[i + 1]) === href) continue;
		const words = linkWords(content, i);
		const plain = href.replace(/^mailto:/i, '');
		if (words.trim() !== plain && words.trim() !== href) text += ` (${plain})`;
	}
	return text;
}

/** What is struck through holds no more: plain text says so by a sign on either side (common practice). */
const isStruck = (inline: Inline): boolean =>
	inline.marks?.some((m) => m.type === 'strike') ?? false;

const hrefOf = (inline: Inline | undefined): string | null => {
	const mark = inline?.marks?.find((m) => m.type === 'link');
	return mark?.type === 'link' ? mark.attrs.href : null;
};

/** The words of the link that ends at a place: it may run over several differently marked runs. */
function linkWords(content: readonly Inline[], end: number): string {
	const href = hrefOf(content[end]);
	let words = '';
	for (let i = end; i >= 0 && hrefOf(content[i]) === href; i -= 1) {
		const inline = content[i]!;
		words = (inline.type === 'text' ? inline.text : '') + words;
	}
	return words;
}

const indent = (text: string, first: string): string =>
	text
		.split('\n')
		.map((line, i) => (i === 0 ? first + line : line === '' ? '' : ' '.repeat(first.length) + line))
		.join('\n');

/** A block of plain text with no empty line around it. Paragraphs stay on one line, however long. */
function blockText(block: Block): string {
	switch (block.type) {
		case 'paragraph':
		case 'heading':
			return inlineText(block.content);
		case 'picture':
			return block.attrs.alt === '' ? '' : `[${block.attrs.alt}]`;
		case 'horizontalRule':
			return '----------';
		case 'bulletList':
			return block.content.map((item) => indent(blocksText(item.content, '\n'), '- ')).join('\n');
		case 'orderedList':
			return block.content
				.map((item, i) => indent(blocksText(item.content, '\n'), `${i + 1}. `))
				.join('\n');
		case 'table':
			return block.content
				.map((row) =>
					row.content.map((c) => blocksText(c.content, ' ').replace(/\n/g, ' ')).join(' | ')
				)
				.join('\n');
	}
}

const blocksText = (blocks: readonly Block[], between: string): string =>
	blocks
		.map(blockText)
		.filter((text) => text !== '')
		.join(between);

/** A doc as a plain-text template: paragraphs parted by an empty line, lists by their signs, table rows by their cells. */
export const bodyText = (doc: Doc): string => blocksText(doc.content, '\n\n');
