<script lang="ts">
	import type { Editor } from '@tiptap/core';
	import { fieldLabel, mayBeEmpty } from '$lib/core/copy/fields';

	/** What can be changed about the one thing that is marked: a picture, a field, a table, a link. */
	let {
		editor,
		turn,
		language,
		onlink
	}: { editor: Editor; turn: number; language: string; onlink: () => void } = $props();

	const part = $derived.by(() => {
		void turn;
		const { selection } = editor.state;
		const node =
			'node' in selection
				? (selection.node as { type: { name: string }; attrs: Record<string, unknown> })
				: null;
		if (node?.type.name === 'picture') {
			return {
				kind: 'picture' as const,
				alt: String(node.attrs.alt),
				width: (node.attrs.width as number | null) ?? 0
			};
		}
		if (node?.type.name === 'field') {
			return {
				kind: 'field' as const,
				name: String(node.attrs.name),
				fallback: String(node.attrs.fallback)
			};
		}
		if (editor.isActive('table')) return { kind: 'table' as const };
		if (editor.isActive('link')) {
			return { kind: 'link' as const, href: String(editor.getAttributes('link').href) };
		}
		return null;
	});
	const run = () => editor.chain();
	const tableActs = [
		['Row below', () => run().focus().addRowAfter().run()],
		['Column after', () => run().focus().addColumnAfter().run()],
		['Take row out', () => run().focus().deleteRow().run()],
		['Take column out', () => run().focus().deleteColumn().run()],
		['Heading row', () => run().focus().toggleHeaderRow().run()],
		['Join or part cells', () => run().focus().mergeOrSplit().run()],
		['Take table out', () => run().focus().deleteTable().run()]
	] as const;
	const widths = [
		[200, 'small'],
		[380, 'middle'],
		[560, 'full width']
	] as const;
</script>

{#if part}
	<div class="part small">
		{#if part.kind === 'picture'}
			<label class="wide">
				What is on it
				<input
					value={part.alt}
					dir="auto"
					lang={language}
					placeholder="for those who do not see it"
					oninput={(e) => run().updateAttributes('picture', { alt: e.currentTarget.value }).run()}
				/>
			</label>
			<label>
				Width
				<select
					value={String(part.width)}
					onchange={(e) =>
						run()
							.updateAttributes('picture', { width: Number(e.currentTarget.value) || null })
							.run()}
				>
					{#if !widths.some(([w]) => w === part.width)}<option value={String(part.width)}
							>{part.width || 'its own'}</option
						>{/if}
					{#each widths as [width, name] (width)}<option value={String(width)}>{name}</option
						>{/each}
				</select>
			</label>
		{:else if part.kind === 'field'}
			<span><b>{fieldLabel(part.name)}</b></span>
			{#if mayBeEmpty(part.name)}
				<label class="wide">
					for those who have none
					<input
						value={part.fallback}
						dir="auto"
						lang={language}
						placeholder="nothing yet"
						oninput={(e) =>
							run().updateAttributes('field', { fallback: e.currentTarget.value }).run()}
					/>
				</label>
			{:else}
				<span class="quiet">every recipient has one</span>
			{/if}
		{:else if part.kind === 'table'}
			{#each tableActs as [name, act] (name)}
				<button type="button" class="plain" onmousedown={(e) => e.preventDefault()} onclick={act}
					>{name}</button
				>
			{/each}
		{:else}
			<span class="href" dir="ltr">{part.href}</span>
			<button type="button" class="plain" onclick={onlink}>Change</button>
		{/if}
	</div>
{/if}

<style>
	.part {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 4px 14px;
		padding: 5px 12px;
		border-bottom: 1px solid var(--line);
		background: var(--wash);
	}
	label {
		display: inline-flex;
		align-items: center;
		gap: 6px;
	}
	.wide {
		flex: 1;
	}
	.wide input {
		flex: 1;
		min-width: 120px;
	}
	input,
	select {
		font: inherit;
		padding: 3px 6px;
		border: 1px solid var(--line-strong);
		background: var(--sheet);
		color: var(--ink);
	}
	.href {
		overflow-wrap: anywhere;
		font-family: var(--mono);
	}
</style>
