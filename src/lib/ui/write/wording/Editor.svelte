<script lang="ts">
	import { Editor, Extension, type JSONContent } from '@tiptap/core';
	import { Plugin } from '@tiptap/pm/state';
	import StarterKit from '@tiptap/starter-kit';
	import { Color, FontSize, TextStyle } from '@tiptap/extension-text-style';
	import { TableKit } from '@tiptap/extension-table';
	import { onMount } from 'svelte';
	import { isLinkAddress, type Doc } from '$lib/core/copy/doc';
	import EditorBar from './EditorBar.svelte';
	import { FieldNode, PictureNode, Subscript, Superscript } from './editor-nodes';
	import { cleanPasted, mostPasted } from './pasted';
	import { upload } from '../../parts/upload';

	/** The words of one letter: large, and nothing in it but what a letter can hold. */
	let {
		doc,
		language,
		direction,
		onchange,
		onundo,
		onredo,
		fileLimit
	}: {
		doc: Doc;
		language: string;
		direction: 'ltr' | 'rtl';
		onchange: (doc: Doc) => void;
		/** Undo belongs to the whole sheet. */
		onundo: () => void;
		onredo: () => void;
		/** Biggest picture taken, bytes. */
		fileLimit: number;
	} = $props();

	let place: HTMLElement;
	let tools: HTMLElement | undefined;
	let editor = $state.raw<Editor | null>(null);
	/** Counts what happened in the editor, so that the bar looks again. */
	let turn = $state(0);
	let said = $state('');
	/** The doc as it left the editor: one that comes from elsewhere is another. */
	let own: Doc | null = null;

	async function putPictures(files: readonly File[]) {
		for (const file of files) {
			said = `Putting in ${file.name || 'the picture'}…`;
			const answer = await upload(file, 'picture', fileLimit);
			said = answer.ok ? '' : answer.why;
			if (!answer.ok) continue;
			const { id, width } = answer.file;
			editor
				?.chain()
				.focus()
				.insertContent({
					type: 'picture',
					attrs: { fileId: id, alt: '', width: Math.min(560, width ?? 560) }
				})
				.run();
		}
	}

	/** Undo and redo go to the sheet; pasted and dropped things are looked at first. */
	const sheetKeys = Extension.create({
		name: 'sheet',
		addKeyboardShortcuts: () => ({
			'Mod-z': () => (onundo(), true),
			'Mod-y': () => (onredo(), true),
			'Shift-Mod-z': () => (onredo(), true),
			// In a table the Tab key goes from cell to cell: this is the way out (WCAG 2.2, 2.1.2).
			Escape: () => (tools?.querySelector<HTMLElement>('[tabindex="0"]')?.focus(), true)
		}),
		addProseMirrorPlugins: () => [
			new Plugin({
				props: {
					handlePaste(_view, event) {
						const data = event.clipboardData;
						const size = Math.max(
							data?.getData('text/plain').length ?? 0,
							data?.getData('text/html').length ?? 0
						);
						if (size > mostPasted * 5 || (data?.getData('text/plain').length ?? 0) > mostPasted) {
							said = `That is ${size.toLocaleString('en-US')} characters, and a wording holds 20,000. Nothing was pasted; put it in as a file instead.`;
							return true;
						}
						const pictures = [...(data?.files ?? [])].filter((f) => f.type.startsWith('image/'));
						if (pictures.length === 0 || data?.getData('text/html')) return false;
						void putPictures(pictures);
						return true;
					},
					handleDrop(_view, event) {
						const pictures = [...((event as DragEvent).dataTransfer?.files ?? [])].filter((f) =>
							f.type.startsWith('image/')
						);
						if (pictures.length === 0) return false;
						event.preventDefault();
						void putPictures(pictures);
						return true;
					},
					transformPastedHTML(html) {
						const { html: clean, pictures } = cleanPasted(html);
						said =
							pictures > 0
								? `${pictures} ${pictures === 1 ? 'picture was' : 'pictures were'} left out: put ${pictures === 1 ? 'it' : 'them'} in from a file.`
								: '';
						return clean;
					}
				}
			})
		]
	});

	onMount(() => {
		const made = new Editor({
			element: place,
			content: doc as unknown as JSONContent,
			injectCSS: false,
			extensions: [
				StarterKit.configure({
					blockquote: false,
					code: false,
					codeBlock: false,
					undoRedo: false,
					heading: { levels: [1, 2, 3] },
					link: {
						openOnClick: false,
						defaultProtocol: 'https',
						isAllowedUri: (href) => isLinkAddress(href ?? ''),
						HTMLAttributes: { target: null, rel: null }
					}
				}),
				TextStyle,
				Color,
				FontSize,
				TableKit.configure({ table: { resizable: false } }),
				FieldNode,
				PictureNode,
				Superscript,
				Subscript,
				sheetKeys
			],
			editorProps: {
				attributes: { role: 'textbox', 'aria-multiline': 'true', 'aria-label': 'Wording' }
			},
			onTransaction: () => (turn += 1),
			onUpdate: ({ editor: e }) => {
				own = e.getJSON() as unknown as Doc;
				onchange(own);
			}
		});
		editor = made;
		own = doc;
		return () => made.destroy();
	});

	// Another language, another way, an undo: the words come from outside. Only what differs is exchanged, so that the cursor stays.
	$effect(() => {
		const next = doc;
		if (!editor || next === own) return;
		own = next;
		const { state, view } = editor;
		const node = state.schema.nodeFromJSON(next);
		const from = state.doc.content.findDiffStart(node.content);
		if (from === null) return;
		const end = state.doc.content.findDiffEnd(node.content)!;
		const overlap = from - Math.min(end.a, end.b);
		const to = overlap > 0 ? { a: end.a + overlap, b: end.b + overlap } : end;
		view.dispatch(
			state.tr.replace(from, to.a, node.slice(from, to.b)).setMeta('preventUpdate', true)
		);
	});
	$effect(() => {
		const element = editor?.view.dom;
		if (!element) return;
		element.setAttribute('lang', language);
		element.setAttribute('dir', direction);
	});
</script>

<div class="editor">
	<div bind:this={tools}>
		{#if editor}
			<EditorBar {editor} {turn} {language} onpictures={putPictures} {onundo} {onredo} />
		{/if}
	</div>
	{#if said}<p class="said small" role="status">{said}</p>{/if}
	<div class="words on-paper" bind:this={place}></div>
</div>

<style>
	.editor {
		flex: 1;
		display: flex;
		flex-direction: column;
		min-height: 0;
		border: 1px solid var(--line);
	}
	.said {
		padding: 6px 12px;
		color: var(--heed);
		border-bottom: 1px solid var(--line);
	}
	.words {
		flex: 1;
		min-height: 140px;
		overflow: auto;
		display: flex;
	}
	.words > :global(.ProseMirror) {
		flex: 1;
		min-width: 0;
		padding: 12px 16px;
		font-size: 16px;
		line-height: 1.5;
		outline: none;
		white-space: pre-wrap;
		overflow-wrap: anywhere;
	}
	.words > :global(.ProseMirror:focus-visible) {
		box-shadow: inset 0 0 0 2px var(--action);
	}
	.words :global(p) {
		margin: 0 0 12px;
		unicode-bidi: plaintext;
		text-align: start;
	}
	.words :global(h1) {
		font-size: 24px;
		margin: 14px 0 8px;
	}
	.words :global(h2) {
		font-size: 20px;
		margin: 12px 0 8px;
	}
	.words :global(h3) {
		font-size: 17px;
		margin: 10px 0 6px;
	}
	.words :global(ul) {
		list-style: disc;
		padding-inline-start: 24px;
		margin: 0 0 12px;
		display: block;
	}
	.words :global(ol) {
		list-style: decimal;
		padding-inline-start: 24px;
		margin: 0 0 12px;
	}
	.words :global(li) {
		display: list-item;
		font-size: inherit;
	}
	.words :global(li > p) {
		margin: 0 0 4px;
	}
	.words :global(table) {
		border-collapse: collapse;
		margin: 0 0 12px;
		font-size: inherit;
	}
	.words :global(td),
	.words :global(th) {
		border: 1px solid var(--dash);
		padding: 5px 9px;
		min-width: 60px;
		text-align: start;
		vertical-align: top;
	}
	.words :global(td > p),
	.words :global(th > p) {
		margin: 0;
	}
	.words :global(th) {
		background: var(--wash);
	}
	.words :global(.selectedCell) {
		background: var(--tint-action);
	}
	.words :global(img) {
		display: block;
		max-width: 100%;
		height: auto;
		margin: 0 0 12px;
	}
	.words :global(.ProseMirror-selectednode) {
		outline: 2px solid var(--action);
	}
	.words :global(.field) {
		background: var(--wash);
		border: 1px dashed var(--line-strong);
		border-radius: 2px;
		padding: 0 4px;
		white-space: nowrap;
	}
	.words :global(.field.unknown) {
		border-color: var(--fail);
		color: var(--fail);
	}
	.words :global(a) {
		color: var(--action);
		text-decoration: underline;
	}
	.words :global(hr) {
		border: 0;
		border-top: 1px solid var(--dash);
		margin: 14px 0;
	}
	.words :global(.ProseMirror-gapcursor) {
		border-top: 2px solid var(--ink);
		width: 24px;
	}
</style>
