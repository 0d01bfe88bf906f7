import type { Block, Doc, Inline, Mark } from './doc';
import { isLinkAddress } from './doc';
import { directionOf, type Direction } from './direction';
import { escapeHtml, fieldTag, templateAddress, templateHtml } from './template';

/** Where the pictures of a doc are: an address on a page, or a part of the same letter (`cid:`, RFC 2392). */
export type PictureAddress = (fileId: number) => string;

/** What stands behind a link of the words: the address itself, or one that leads there. */
export type LinkAddress = (href: string) => string;

interface Frame {
	readonly direction: Direction;
	readonly picture: PictureAddress;
	readonly link: LinkAddress;
}

/** Styles stand in the tags, since mail programs drop style sheets. */
const styles = {
	paragraph: 'margin:0 0 12px',
	heading: {
		1: 'margin:18px 0 8px;font-size:24px;line-height:1.25',
		2: 'margin:16px 0 8px;font-size:20px;line-height:1.3',
		3: 'margin:14px 0 6px;font-size:17px;line-height:1.3'
	} as Readonly<Record<number, string>>,
	bulletList: 'margin:0 0 12px;padding-inline-start:24px;list-style:disc',
	orderedList: 'margin:0 0 12px;padding-inline-start:24px;list-style:decimal',
	item: 'margin:0 0 4px',
	table: 'border-collapse:collapse;margin:0 0 12px',
	cell: 'border:1px solid #b9b1a2;padding:5px 9px;text-align:start;vertical-align:top',
	picture: 'max-width:100%;height:auto;border:0',
	rule: 'border:0;border-top:1px solid #b9b1a2;margin:14px 0'
} as const;

/** The words of a run, for direction: what a field will say is not known yet. */
const lettersOf = (content: readonly Inline[] = []): string =>
	content.map((i) => (i.type === 'text' ? i.text : ' ')).join('');

function markOpen(mark: Mark, frame: Frame): [open: string, close: string] {
	switch (mark.type) {
		case 'bold':
			return ['<strong>', '</strong>'];
		case 'italic':
			return ['<em>', '</em>'];
		case 'underline':
			return ['<u>', '</u>'];
		case 'strike':
			return ['<s>', '</s>'];
		case 'superscript':
			return ['<sup>', '</sup>'];
		case 'subscript':
			return ['<sub>', '</sub>'];
		case 'link':
			// What is no address of a kind that can be trusted stays as words.
			return isLinkAddress(mark.attrs.href)
				? [
						`<a href="${templateAddress(frame.link(mark.attrs.href))}" rel="noopener noreferrer">`,
						'</a>'
					]
				: ['', ''];
		case 'textStyle': {
			const style = [
				mark.attrs.color ? `color:${mark.attrs.color}` : '',
				mark.attrs.fontSize ? `font-size:${mark.attrs.fontSize}` : ''
			].filter(Boolean);
			return style.length > 0
				? [`<span style="${escapeHtml(style.join(';'))}">`, '</span>']
				: ['', ''];
		}
	}
}

function inlineHtml(inline: Inline, frame: Frame): string {
	const inner =
		inline.type === 'text'
			? templateHtml(inline.text).replace(/\n/g, '<br>')
			: inline.type === 'hardBreak'
				? '<br>'
				: fieldTag(inline.attrs.name, escapeHtml(inline.attrs.fallback));
	return (inline.marks ?? []).reduceRight((html, mark) => {
		const [open, close] = markOpen(mark, frame);
		return open + html + close;
	}, inner);
}

const inlinesHtml = (content: readonly Inline[] = [], frame: Frame): string =>
	content.map((i) => inlineHtml(i, frame)).join('');

/** `dir` where a block runs another way than what it stands in. */
function dirOf(content: readonly Inline[] | undefined, frame: Frame): string {
	const direction = directionOf(lettersOf(content), frame.direction);
	return direction === frame.direction ? '' : ` dir="${direction}"`;
}

/** A list or table item of one plain paragraph needs no paragraph around its words. */
function innerHtml(blocks: readonly Block[], frame: Frame): string {
	const [only] = blocks;
	return only?.type === 'paragraph' && blocks.length === 1
		? inlinesHtml(only.content, frame)
		: blocks.map((b) => blockHtml(b, frame)).join('');
}

const span = (name: string, n: number | undefined) => (n && n > 1 ? ` ${name}="${n}"` : '');

function blockHtml(block: Block, frame: Frame): string {
	switch (block.type) {
		case 'paragraph':
			return `<p${dirOf(block.content, frame)} style="${styles.paragraph}">${inlinesHtml(block.content, frame) || '<br>'}</p>`;
		case 'heading': {
			const level = Math.min(3, Math.max(1, block.attrs.level));
			// The subject is the letter's first heading.
			return `<h${level + 1}${dirOf(block.content, frame)} style="${styles.heading[level]}">${inlinesHtml(block.content, frame)}</h${level + 1}>`;
		}
		case 'picture': {
			const { fileId, alt, width } = block.attrs;
			return `<p style="${styles.paragraph}"><img src="${escapeHtml(frame.picture(fileId))}" alt="${escapeHtml(alt).replace(/\{/g, '&#123;')}"${width ? ` width="${width}"` : ''} style="${styles.picture}"></p>`;
		}
		case 'horizontalRule':
			return `<hr style="${styles.rule}">`;
		case 'bulletList':
		case 'orderedList': {
			const tag = block.type === 'bulletList' ? 'ul' : 'ol';
			const items = block.content.map(
				(item) => `<li style="${styles.item}">${innerHtml(item.content, frame)}</li>`
			);
			return `<${tag} style="${styles[block.type]}">${items.join('')}</${tag}>`;
		}
		case 'table': {
			const rows = block.content.map((row) => {
				const cells = row.content.map((cell) => {
					const tag = cell.type === 'tableHeader' ? 'th' : 'td';
					const at = span('colspan', cell.attrs?.colspan) + span('rowspan', cell.attrs?.rowspan);
					return `<${tag}${at} style="${styles.cell}">${innerHtml(cell.content, frame)}</${tag}>`;
				});
				return `<tr>${cells.join('')}</tr>`;
			});
			return `<table style="${styles.table}"><tbody>${rows.join('')}</tbody></table>`;
		}
	}
}

/** A doc as an HTML template: words escaped, fields as tags, every style inside its tag. */
export const bodyHtml = (
	doc: Doc,
	direction: Direction,
	picture: PictureAddress,
	link: LinkAddress = (href) => href
): string =>
	withoutEnd(doc.content)
		.map((b) => blockHtml(b, { direction, picture, link }))
		.join('');

/** An editor leaves an empty paragraph at the end to type on in; it says nothing. */
function withoutEnd(blocks: readonly Block[]): readonly Block[] {
	let end = blocks.length;
	while (end > 0) {
		const last = blocks[end - 1]!;
		if (last.type !== 'paragraph' || (last.content?.length ?? 0) > 0) break;
		end -= 1;
	}
	return blocks.slice(0, end);
}
