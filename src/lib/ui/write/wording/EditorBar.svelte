<script lang="ts">
	import type { Editor } from '@tiptap/core';
	import Image from 'carbon-icons-svelte/lib/Image.svelte';
	import Link from 'carbon-icons-svelte/lib/Link.svelte';
	import ListBulleted from 'carbon-icons-svelte/lib/ListBulleted.svelte';
	import ListNumbered from 'carbon-icons-svelte/lib/ListNumbered.svelte';
	import Redo from 'carbon-icons-svelte/lib/Redo.svelte';
	import Table from 'carbon-icons-svelte/lib/Table.svelte';
	import TextBold from 'carbon-icons-svelte/lib/TextBold.svelte';
	import TextItalic from 'carbon-icons-svelte/lib/TextItalic.svelte';
	import TextUnderline from 'carbon-icons-svelte/lib/TextUnderline.svelte';
	import Undo from 'carbon-icons-svelte/lib/Undo.svelte';
	import { onMount, type Component } from 'svelte';
	import { fields } from '$lib/core/copy/fields';
	import DateDialog from './DateDialog.svelte';
	import EditorPart from './EditorPart.svelte';
	import LinkDialog from './LinkDialog.svelte';
	import { offeredFields } from './offered-fields';

	/** What can be done to the words that are marked, and to the thing the cursor stands in. */
	let {
		editor,
		turn,
		language,
		onpictures,
		onundo,
		onredo
	}: {
		editor: Editor;
		/** Changes whenever something happened in the editor. */
		turn: number;
		language: string;
		onpictures: (files: readonly File[]) => Promise<void>;
		onundo: () => void;
		onredo: () => void;
	} = $props();

	const offered = offeredFields();
	const at = $derived.by(() => {
		void turn;
		const style = editor.getAttributes('textStyle') as { color?: string; fontSize?: string };
		return {
			bold: editor.isActive('bold'),
			italic: editor.isActive('italic'),
			underline: editor.isActive('underline'),
			bullets: editor.isActive('bulletList'),
			numbers: editor.isActive('orderedList'),
			table: editor.isActive('table'),
			link: editor.isActive('link'),
			block: ([1, 2, 3] as const).find((level) => editor.isActive('heading', { level })) ?? 0,
			colour: style.color ?? '',
			size: style.fontSize ?? ''
		};
	});
	const run = () => editor.chain().focus();

	const blocks = ['Text', 'Large heading', 'Heading', 'Small heading'] as const;
	/** Each is at least 4.5:1 on white (WCAG 2.2, 1.4.3). */
	const colours = [
		{ value: '', name: 'Ink' },
		{ value: '#a3243b', name: 'Red' },
		{ value: '#a8410d', name: 'Orange' },
		{ value: '#3d6b35', name: 'Green' },
		{ value: '#0f5c63', name: 'Sea' },
		{ value: '#3f4e8c', name: 'Blue' },
		{ value: '#7a3e78', name: 'Plum' }
	] as const;
	const sizes = [
		{ value: '13px', name: 'Small' },
		{ value: '', name: 'Usual' },
		{ value: '20px', name: 'Large' },
		{ value: '26px', name: 'Very large' }
	] as const;

	function setBlock(level: number) {
		if (level === 0) run().setParagraph().run();
		else
			run()
				.setHeading({ level: level as 1 | 2 | 3 })
				.run();
	}

	let link: LinkDialog;
	let date: DateDialog;
	function putField(name: string) {
		run()
			.insertContent({ type: 'field', attrs: { name, fallback: '' } })
			.run();
	}
	let fileInput: HTMLInputElement;

	let bar: HTMLElement;
	const controls = () => [...bar.querySelectorAll<HTMLElement>('button, select')];
	function setStop(stop: HTMLElement) {
		if (!controls().includes(stop)) return;
		for (const c of controls()) c.tabIndex = c === stop ? 0 : -1;
	}
	function arrows(event: KeyboardEvent) {
		const step = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
		if (step === 0) return;
		event.preventDefault();
		const list = controls();
		const at = list.indexOf(document.activeElement as HTMLElement);
		list[(at + step + list.length) % list.length]?.focus();
	}
	onMount(() => setStop(controls()[0]!));
</script>

{#snippet tool(name: string, Icon: Component, on: boolean | null, act: () => void, keys = '')}
	<button
		type="button"
		class="tool"
		class:on={on === true}
		aria-pressed={on ?? undefined}
		aria-label={name}
		title={keys ? `${name} (${keys})` : name}
		onmousedown={(e) => e.preventDefault()}
		onclick={act}><Icon /></button
	>
{/snippet}

<!-- One stop for the Tab key, arrows inside: the toolbar of the ARIA Authoring Practices. -->
<div
	class="bar"
	role="toolbar"
	tabindex="-1"
	aria-label="Form of the words"
	bind:this={bar}
	onkeydown={arrows}
	onfocusin={(e) => setStop(e.target as HTMLElement)}
>
	<select
		aria-label="Heading or text"
		style:--w="78px"
		value={String(at.block)}
		onchange={(e) => setBlock(Number(e.currentTarget.value))}
	>
		{#each blocks as name, level (name)}<option value={String(level)}>{name}</option>{/each}
	</select>
	{@render tool('Bold', TextBold, at.bold, () => run().toggleBold().run(), 'Ctrl+B')}
	{@render tool('Italic', TextItalic, at.italic, () => run().toggleItalic().run(), 'Ctrl+I')}
	{@render tool(
		'Underline',
		TextUnderline,
		at.underline,
		() => run().toggleUnderline().run(),
		'Ctrl+U'
	)}
	<select
		aria-label="Colour"
		style:--w="62px"
		value={at.colour}
		style:color={at.colour || null}
		onchange={(e) =>
			e.currentTarget.value
				? run().setColor(e.currentTarget.value).run()
				: run().unsetColor().run()}
	>
		{#each colours as c (c.name)}<option value={c.value} style:color={c.value || null}
				>{c.name}</option
			>{/each}
	</select>
	<select
		aria-label="Size"
		style:--w="74px"
		value={at.size}
		onchange={(e) =>
			e.currentTarget.value
				? run().setFontSize(e.currentTarget.value).run()
				: run().unsetFontSize().run()}
	>
		{#each sizes as s (s.name)}<option value={s.value}>{s.name}</option>{/each}
	</select>
	{@render tool('List', ListBulleted, at.bullets, () => run().toggleBulletList().run())}
	{@render tool('Numbered list', ListNumbered, at.numbers, () => run().toggleOrderedList().run())}
	{@render tool('Link', Link, at.link, () => link.open())}
	{@render tool('Picture', Image, null, () => fileInput.click())}
	{@render tool('Table', Table, at.table, () =>
		at.table ? run().run() : run().insertTable({ rows: 3, cols: 3, withHeaderRow: true }).run()
	)}
	<select
		aria-label="Put in a field"
		value=""
		onchange={(e) => {
			const name = e.currentTarget.value;
			e.currentTarget.value = '';
			if (name === 'date') date.open();
			else if (name) putField(name);
		}}
	>
		<option value="">Field…</option>
		{#each fields as f (f.name)}<option value={f.name}>{f.label}</option>{/each}
		{#each offered() as f (f.name)}<option value={f.name}>{f.label}</option>{/each}
		<option value="date">a date, in the reader’s language…</option>
	</select>
	<span class="end">
		{@render tool('Undo', Undo, null, onundo, 'Ctrl+Z')}
		{@render tool('Redo', Redo, null, onredo, 'Ctrl+Y')}
	</span>
	<input
		bind:this={fileInput}
		type="file"
		accept="image/png,image/jpeg,image/gif,image/webp"
		multiple
		hidden
		aria-label="Picture from a file"
		onchange={(e) => {
			const files = [...(e.currentTarget.files ?? [])];
			e.currentTarget.value = '';
			void onpictures(files);
		}}
	/>
</div>
<EditorPart {editor} {turn} {language} onlink={() => link.open()} />
<LinkDialog {editor} marked={at.link} bind:this={link} />
<DateDialog onput={putField} bind:this={date} />

<style>
	.bar {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 1px;
		padding: 4px 6px;
		border-bottom: 1px solid var(--line);
		background: var(--paper);
	}
	.tool {
		display: inline-flex;
		align-items: center;
		justify-content: center;
		width: 27px;
		height: 28px;
		border: 1px solid transparent;
		background: none;
		color: var(--ink);
		cursor: pointer;
	}
	.tool:hover {
		background: var(--wash);
	}
	.tool.on {
		border-color: var(--line);
		background: var(--sheet);
		box-shadow: inset 0 -2px 0 var(--action);
	}
	select {
		height: 28px;
		width: var(--w, 80px);
		border: 1px solid transparent;
		background: none;
		color: var(--ink);
		font: inherit;
		font-size: 13.5px;
		cursor: pointer;
	}
	select:hover {
		background: var(--wash);
	}
	.end {
		margin-inline-start: auto;
		display: inline-flex;
	}
</style>
