import { InputRule, Mark, mergeAttributes, Node } from '@tiptap/core';
import { fieldLabel, isField } from '$lib/core/copy/fields';

/** A merge field inside the words: one piece, with its label on it. */
export const FieldNode = Node.create({
	name: 'field',
	group: 'inline',
	inline: true,
	atom: true,
	addAttributes: () => ({
		name: { default: '', parseHTML: (e: HTMLElement) => e.getAttribute('data-field') ?? '' },
		fallback: { default: '', parseHTML: (e: HTMLElement) => e.getAttribute('data-fallback') ?? '' }
	}),
	parseHTML: () => [{ tag: 'span[data-field]' }],
	renderHTML({ node }) {
		const { name, fallback } = node.attrs as { name: string; fallback: string };
		return [
			'span',
			{
				'data-field': name,
				'data-fallback': fallback,
				class: isField(name) ? 'field' : 'field unknown',
				title: fallback ? `or else “${fallback}”` : ''
			},
			fieldLabel(name)
		];
	},
	renderText: ({ node }) => `{{${(node.attrs as { name: string }).name}}}`,
	addInputRules() {
		// Typed by hand it becomes a field as well; what is no field stays as it was typed, and the check says so.
		return [
			new InputRule({
				find: /\{\{([a-z_]+|date:[0-9T:-]+)\}\}$/,
				handler: ({ range, match, chain }) => {
					if (!isField(match[1]!)) return null;
					chain()
						.insertContentAt(range, { type: 'field', attrs: { name: match[1], fallback: '' } })
						.run();
				}
			})
		];
	}
});

/** Words raised or lowered: "1st" with its letters up, a chemist's figures down. */
const raised = (name: 'superscript' | 'subscript', tag: 'sup' | 'sub', align: string) =>
	Mark.create({
		name,
		parseHTML: () => [
			{ tag },
			{ style: 'vertical-align', getAttrs: (value) => (value === align ? null : false) }
		],
		renderHTML: ({ HTMLAttributes }) => [tag, mergeAttributes(HTMLAttributes), 0]
	});
export const Superscript = raised('superscript', 'sup', 'super');
export const Subscript = raised('subscript', 'sub', 'sub');

/** A picture that lies with us. Pictures from elsewhere have no place here: they would be fetched from another host. */
export const PictureNode = Node.create({
	name: 'picture',
	group: 'block',
	atom: true,
	draggable: true,
	addAttributes: () => ({
		fileId: {
			default: 0,
			parseHTML: (e: HTMLElement) => Number(e.getAttribute('data-picture') ?? 0)
		},
		alt: { default: '', parseHTML: (e: HTMLElement) => e.getAttribute('alt') ?? '' },
		width: {
			default: null,
			parseHTML: (e: HTMLElement) => Number(e.getAttribute('width')) || null
		}
	}),
	parseHTML: () => [{ tag: 'img[data-picture]' }],
	renderHTML({ node }) {
		const { fileId, alt, width } = node.attrs as {
			fileId: number;
			alt: string;
			width: number | null;
		};
		return [
			'img',
			mergeAttributes({
				'data-picture': fileId,
				src: `/write/file/${fileId}`,
				alt,
				...(width ? { width } : {})
			})
		];
	}
});
