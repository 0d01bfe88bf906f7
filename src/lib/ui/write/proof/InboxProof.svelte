<script lang="ts">
	import { Button } from 'carbon-components-svelte';
	import { sizeWords } from '$lib/core/copy/size-words';
	import { noteLinkWords } from '$lib/core/copy/note-phrases';
	import type { Proof } from '$lib/server/desk/plan/types';
	import WayMark from '../../parts/WayMark.svelte';

	/** One reader's letter as it stands in their inbox. */
	let {
		inbox,
		sent,
		link,
		onsend
	}: {
		inbox: Proof['inbox'];
		/** What became of a proof that was sent. */
		sent: string;
		/** To one's own inbox, once a proof lies there; empty before. */
		link: string;
		onsend: () => void;
	} = $props();
</script>

<h2><WayMark way="inbox" word /></h2>
{#if inbox?.ok}
	{@const letter = inbox.copy}
	<Button size="small" kind="tertiary" on:click={onsend}>Put this into my inbox</Button>
	<p class="small" role="status">
		{sent}
		{#if link}<a href={link} target="_blank" rel="noopener">Open it</a>{/if}
	</p>
	<article>
		<div class="addr" dir="auto">{letter.about || 'For you'}</div>
		<div class="body" lang={letter.language} dir={letter.direction}>
			<h3 dir={letter.direction === 'rtl' ? 'rtl' : 'auto'}>
				{letter.subject || 'No subject yet'}
			</h3>
			<!-- Made by us from a wording that holds nothing that could be run; see core/copy/html. -->
			<!-- eslint-disable-next-line svelte/no-at-html-tags -->
			<div class="on-paper">{@html letter.html}</div>
			{#if letter.note}
				<p class="small">{noteLinkWords(letter.note, letter.language)}</p>
				<p class="small" dir="auto">{letter.note.words}</p>
			{/if}
			{#if letter.asks}
				<p><b>{letter.asks.question}</b></p>
				<p class="small quiet">{letter.asks.until}</p>
			{/if}
			{#each letter.files as file (file.fileId)}
				<p class="small">{file.name} ({sizeWords(file.bytes)})</p>
			{/each}
			{#each letter.sectionLines as line (line)}<p class="small quiet">{line}</p>{/each}
		</div>
	</article>
{:else}
	<p class="quiet">{inbox?.why ?? 'Not by inbox.'}</p>
{/if}

<style>
	article {
		background: var(--sheet);
		border: 1px solid var(--line);
		font-size: 16px;
		flex: none;
	}
	.addr {
		padding: 8px 14px;
		border-bottom: 1px dashed var(--dash);
		font-size: 14px;
	}
	.body {
		padding: 10px 14px;
		overflow-wrap: anywhere;
		overflow-x: auto;
	}
	h3 {
		font-size: 18px;
	}
</style>
