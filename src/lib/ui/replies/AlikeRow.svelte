<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { page } from '$app/state';
	import { Button, TextArea } from 'carbon-components-svelte';
	import type { AlikeLine } from '$lib/server/desk/replies/types';
	import { postJson } from '../parts/post-json';
	import { alikeHref } from './look';

	/** Several that say the same, as one line: look at them, answer each the same, or settle them together. */
	let { line, dispatchId, mayAnswer }: { line: AlikeLine; dispatchId: number; mayAnswer: boolean } =
		$props();
	const n = $derived(line.ids.length);
	let open = $state(false);
	let words = $state('');
	let why = $state('');
	let busy = $state(false);
	let key = crypto.randomUUID();
	const href = $derived(alikeHref(page.url.searchParams, line.likeness, dispatchId));
	async function settle() {
		busy = true;
		why = (await postJson('/replies/settle', { ids: line.ids })).why;
		busy = false;
		await invalidateAll();
	}
	async function answer() {
		busy = true;
		const answered = await postJson('/replies/answer', { key, conversations: line.ids, words });
		busy = false;
		why = answered.why;
		if (!answered.ok) return;
		open = false;
		words = '';
		key = crypto.randomUUID();
		await invalidateAll();
	}
</script>

<div class="alike">
	<span
		><b>{n.toLocaleString('en')} alike:</b>
		{#each line.samples as sample, i (sample)}{i > 0 ? ', ' : ''}“<span dir="auto">{sample}</span
			>”{/each}</span
	>
	<span class="do">
		<a {href}>Look at them</a>
		{#if mayAnswer}
			<button class="plain" aria-expanded={open} onclick={() => (open = !open)}
				>Answer each the same</button
			>
			<button class="plain" disabled={busy} onclick={settle}>Settle {n.toLocaleString('en')}</button
			>
		{/if}
	</span>
	{#if open}
		<div class="box">
			<TextArea labelText="The same to each, in a copy of its own" rows={2} bind:value={words} />
			<Button size="small" disabled={busy || !words.trim()} on:click={answer}>
				Answer {n.toLocaleString('en')}, each by the way they wrote
			</Button>
		</div>
	{/if}
	{#if why}<p class="fail" role="alert">{why}</p>{/if}
</div>

<style>
	.alike {
		background: var(--wash);
		border-top: 1px solid var(--line);
		padding: 8px 14px;
		font-size: 13px;
		display: flex;
		flex-wrap: wrap;
		gap: 4px 16px;
		justify-content: space-between;
		overflow-wrap: anywhere;
	}
	.do {
		display: flex;
		flex-wrap: wrap;
		align-items: baseline;
		gap: 4px 14px;
	}
	.do a {
		font-size: 12.5px;
		min-height: 24px;
	}
	.box {
		flex: 1 1 100%;
		display: grid;
		gap: 6px;
		max-width: 900px;
		justify-items: start;
	}
	.box > :global(.bx--form-item) {
		width: 100%;
	}
</style>
