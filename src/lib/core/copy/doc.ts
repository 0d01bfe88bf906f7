import { z } from 'zod';
import { isBlank } from './blank';
import { isField } from './fields';

/**
 * The body of a dispatch in the one form in which it is stored: a tree of a few kinds of blocks and
 * marks, and nothing else. Nothing that a browser or a mail program could run has a place in it, so
 * what is pasted is clean once it is a doc, and what is made from a doc is clean too. The form is
 * that of ProseMirror's JSON, so that an editor takes it as it is.
 */

/** #rrggbb, the only form of a colour. */
const colourSchema = z.string().regex(/^#[0-9a-f]{6}$/i, 'A colour is #rrggbb.');

/** Whether an address may stand behind a link: http, https, mailto, or a merge field of its own. */
export function isLinkAddress(href: string): boolean {
	if (/^mailto:[^\s@]+@[^\s@]+$/i.test(href)) return true;
	if (!/^https?:\/\//i.test(href)) return false;
	try {
		return new URL(href).hostname !== '';
	} catch {
		return false;
	}
}

const markSchema = z.discriminatedUnion('type', [
	z.object({ type: z.literal('bold') }),
	z.object({ type: z.literal('italic') }),
	z.object({ type: z.literal('underline') }),
	/** Struck through: said to hold no more. */
	z.object({ type: z.literal('strike') }),
	z.object({ type: z.literal('superscript') }),
	z.object({ type: z.literal('subscript') }),
	z.object({ type: z.literal('link'), attrs: z.object({ href: z.string().max(2000) }) }),
	z.object({
		type: z.literal('textStyle'),
		attrs: z.object({
			color: colourSchema.nullish().catch(null),
			// The sizes of the editor; a text of any other size is of the usual one.
			fontSize: z
				.string()
				.regex(/^(13|16|20|26)px$/)
				.nullish()
				.catch(null)
		})
	})
]);
export type Mark = z.infer<typeof markSchema>;
const markTypes = new Set([
	'bold',
	'italic',
	'underline',
	'strike',
	'superscript',
	'subscript',
	'link',
	'textStyle'
]);
/** Marks that are not ours are taken off; the words under them stay. */
const marksSchema = z.preprocess(
	(marks) =>
		Array.isArray(marks)
			? marks.filter((m: unknown) => markTypes.has((m as { type?: string })?.type ?? ''))
			: marks,
	z.array(markSchema).max(10).optional()
);

const textSchema = z.object({
	type: z.literal('text'),
	text: z.string().min(1),
	marks: marksSchema
});
const breakSchema = z.object({ type: z.literal('hardBreak'), marks: marksSchema });
/** A merge field, with what stands where a recipient has no value; an empty fallback is none. */
const fieldSchema = z.object({
	type: z.literal('field'),
	attrs: z.object({ name: z.string().max(60), fallback: z.string().max(200).default('') }),
	marks: marksSchema
});
/** A field that is none of ours is words, as they would be typed; the standing check then says that there is no such field. */
const onlyKnown = (value: unknown): unknown => {
	const field = fieldSchema.safeParse(value);
	if (!field.success || isField(field.data.attrs.name)) return value;
	const { attrs, marks } = field.data;
	return { type: 'text', text: `{{${attrs.name}}}`, ...(marks ? { marks } : {}) };
};
const inlineSchema = z.preprocess(
	onlyKnown,
	z.discriminatedUnion('type', [textSchema, breakSchema, fieldSchema])
);
export type Inline = z.infer<typeof inlineSchema>;

interface Paragraph {
	readonly type: 'paragraph';
	readonly content?: readonly Inline[];
}
interface Heading {
	readonly type: 'heading';
	readonly attrs: { readonly level: number };
	readonly content?: readonly Inline[];
}
/** A picture that lies with us; `alt` says what is on it to those who do not see it. */
export interface Picture {
	readonly type: 'picture';
	readonly attrs: {
		readonly fileId: number;
		readonly alt: string;
		/** Width as shown, px; null for its own. */
		readonly width?: number | null;
	};
}
interface List {
	readonly type: 'bulletList' | 'orderedList';
	readonly content: readonly { readonly type: 'listItem'; readonly content: readonly Block[] }[];
}
interface Table {
	readonly type: 'table';
	readonly content: readonly {
		readonly type: 'tableRow';
		readonly content: readonly {
			readonly type: 'tableCell' | 'tableHeader';
			readonly attrs?: { readonly colspan?: number; readonly rowspan?: number };
			readonly content: readonly Block[];
		}[];
	}[];
}
interface Rule {
	readonly type: 'horizontalRule';
}
export type Block = Paragraph | Heading | Picture | List | Table | Rule;

/** Blocks may stand in lists and tables, and these in each other, this deep. */
const deepest = 8;

function blockSchema(depth: number): z.ZodType<Block> {
	const inner: z.ZodType<Block> =
		depth > 1
			? z.lazy(() => blocks(depth - 1))
			: z.object({
					type: z.literal('paragraph'),
					content: z.array(inlineSchema).max(5000).optional()
				});
	const span = z.number().int().min(1).max(50).optional().catch(1);
	return z.discriminatedUnion('type', [
		z.object({
			type: z.literal('paragraph'),
			content: z.array(inlineSchema).max(5000).optional()
		}),
		z.object({
			type: z.literal('heading'),
			attrs: z.object({ level: z.number().int().min(1).max(3) }),
			content: z.array(inlineSchema).max(5000).optional()
		}),
		z.object({
			type: z.literal('picture'),
			attrs: z.object({
				fileId: z.number().int().positive(),
				alt: z.string().max(500).default(''),
				width: z.number().int().min(16).max(2000).nullish().catch(null)
			})
		}),
		z.object({ type: z.literal('horizontalRule') }),
		z.object({
			type: z.enum(['bulletList', 'orderedList']),
			content: z
				.array(z.object({ type: z.literal('listItem'), content: z.array(inner).max(200) }))
				.max(2000)
		}),
		z.object({
			type: z.literal('table'),
			content: z
				.array(
					z.object({
						type: z.literal('tableRow'),
						content: z
							.array(
								z.object({
									type: z.enum(['tableCell', 'tableHeader']),
									attrs: z.object({ colspan: span, rowspan: span }).optional(),
									content: z.array(inner).max(200)
								})
							)
							.max(50)
					})
				)
				.max(1000)
		})
	]) as z.ZodType<Block>;
}
const made = new Map<number, z.ZodType<Block>>();
function blocks(depth: number): z.ZodType<Block> {
	let schema = made.get(depth);
	if (!schema) made.set(depth, (schema = blockSchema(depth)));
	return schema;
}

/** Checks a doc from outside. What has no place in it is refused with its path; attributes that are not ours are dropped. */
export const docSchema: z.ZodType<Doc> = z.object({
	type: z.literal('doc'),
	content: z.array(blocks(deepest)).max(5000, 'The wording has over 5,000 paragraphs.')
});
export interface Doc {
	readonly type: 'doc';
	readonly content: readonly Block[];
}

export const emptyDoc: Doc = { type: 'doc', content: [{ type: 'paragraph' }] };

/** Plain words as a doc: an empty line parts paragraphs, a line break stays one. */
export function docOf(text: string): Doc {
	const paragraphs = text.replace(/\r\n?/g, '\n').split(/\n{2,}/);
	return {
		type: 'doc',
		content: paragraphs.map((p): Paragraph => {
			const content = p
				.split('\n')
				.flatMap((line, i): Inline[] => [
					...(i > 0 ? [{ type: 'hardBreak' as const }] : []),
					...(line === '' ? [] : [{ type: 'text' as const, text: line }])
				]);
			return content.length > 0 ? { type: 'paragraph', content } : { type: 'paragraph' };
		})
	};
}

/** Every block of a doc, also those inside lists and tables, in reading order. */
function* blocksIn(list: readonly Block[]): Generator<Block> {
	for (const block of list) {
		yield block;
		if (block.type === 'bulletList' || block.type === 'orderedList') {
			for (const item of block.content) yield* blocksIn(item.content);
		} else if (block.type === 'table') {
			for (const row of block.content)
				for (const cell of row.content) yield* blocksIn(cell.content);
		}
	}
}

/** The same doc with other runs in its paragraphs and headings, and other descriptions of its pictures, in reading order. */
export function mapDoc(
	doc: Doc,
	content: (runs: readonly Inline[]) => readonly Inline[],
	description: (alt: string) => string = (alt) => alt
): Doc {
	const list = (blocks: readonly Block[]): Block[] => blocks.map(block);
	const block = (b: Block): Block => {
		switch (b.type) {
			case 'paragraph':
			case 'heading':
				return b.content ? { ...b, content: content(b.content) } : b;
			case 'picture':
				return { ...b, attrs: { ...b.attrs, alt: description(b.attrs.alt) } };
			case 'bulletList':
			case 'orderedList':
				return { ...b, content: b.content.map((i) => ({ ...i, content: list(i.content) })) };
			case 'table':
				return {
					...b,
					content: b.content.map((row) => ({
						...row,
						content: row.content.map((cell) => ({ ...cell, content: list(cell.content) }))
					}))
				};
			case 'horizontalRule':
				return b;
		}
	};
	return { ...doc, content: list(doc.content) };
}

/** Every run of words, break and field of a doc, in reading order. */
export function* inlinesIn(doc: Doc): Generator<Inline> {
	for (const block of blocksIn(doc.content)) {
		if (block.type === 'paragraph' || block.type === 'heading') yield* block.content ?? [];
	}
}

/** The pictures of a doc, each once. */
export const picturesIn = (doc: Doc): Picture['attrs'][] => {
	const pictures = new Map<number, Picture['attrs']>();
	for (const block of blocksIn(doc.content)) {
		if (block.type === 'picture') pictures.set(block.attrs.fileId, block.attrs);
	}
	return [...pictures.values()];
};

/** The addresses behind the links of a doc, in reading order. */
export const linksIn = (doc: Doc): string[] =>
	[...inlinesIn(doc)].flatMap((i) =>
		(i.marks ?? []).flatMap((m) => (m.type === 'link' ? [m.attrs.href] : []))
	);

/** Whether a doc says and shows nothing. */
export const isEmptyDoc = (doc: Doc): boolean =>
	picturesIn(doc).length === 0 &&
	![...inlinesIn(doc)].some((i) => i.type === 'field' || (i.type === 'text' && !isBlank(i.text)));
