<script lang="ts">
	import type { Snippet } from 'svelte';
	import type { BoardPhrases } from '$lib/core/copy/board-phrases';
	import { comingPhrases } from '$lib/core/copy/coming-phrases';
	import { fillPhrase } from '$lib/core/copy/phrases';
	import type { BoardView, Post } from '$lib/server/desk/boards/types';

	interface Props {
		board: BoardView;
		words: BoardPhrases;
		/** An instant (ms) in the reader’s words. */
		when: (at: number) => string;
		/** Where a file of it is opened. */
		file: (id: number) => string;
		/** Where one that lies behind is read whole. */
		whole: (dispatchId: number) => string;
		/** Hears of each announcement that stands here whole, and of its leaving. */
		shown?: (node: HTMLElement, dispatchId: number) => () => void;
		/** Below one. */
		deeds?: Snippet<[Post]>;
		/** Where those that ask who comes are answered, by their numbers. */
		asks?: Readonly<Record<number, string>>;
		/** How deep its heading stands; 0 where the page itself is headed by it. */
		level?: 0 | 1 | 2;
	}
	/** One board: what is pinned, the newest, and what lies behind them. */
	let { board, words, when, file, whole, shown, deeds, asks = {}, level = 2 }: Props = $props();
	const empty = $derived(board.pinned.length + board.front.length + board.earlier.length === 0);
</script>

{#snippet post(p: Post)}
	<article
		data-post={p.dispatchId}
		class:pinned={p.pinned}
		{@attach (node) => shown?.(node as HTMLElement, p.dispatchId)}
	>
		<p class="quiet small when">
			{#if p.pinned}<b class="pin">{words.pinned}</b>{/if}
			<span>{when(p.from)}</span>
			{#if p.until !== null}<span>{fillPhrase(words.until, { time: when(p.until) })}</span>{/if}
			{#if p.changedAt !== null}<span class="heed"
					>{fillPhrase(words.changedAt, { time: when(p.changedAt) })}</span
				>{/if}
		</p>
		<div lang={p.language} dir={p.direction}>
			<svelte:element
				this={level === 2 ? 'h3' : 'h2'}
				class="subject"
				dir={p.direction === 'rtl' ? 'rtl' : 'auto'}>{p.subject}</svelte:element
			>
			<!-- Made by us from a wording that holds nothing that could be run; see core/copy/html. -->
			<!-- eslint-disable-next-line svelte/no-at-html-tags -->
			<div class="words on-paper">{@html p.html}</div>
		</div>
		{#if p.files.length > 0}
			<ul class="files">
				{#each p.files as one (one.id)}
					<li><a href={file(one.id)} download dir="auto">{one.words}</a></li>
				{/each}
			</ul>
		{/if}
		{#if asks[p.dispatchId]}
			<p lang={p.language} dir={p.direction}>
				<a href={asks[p.dispatchId]}>{comingPhrases(p.language).question}</a>
			</p>
		{/if}
		{#if p.sender}<p class="quiet small"><bdi>{p.sender}</bdi></p>{/if}
		{#if p.also.length > 0}
			<p class="quiet small">{fillPhrase(words.also, { names: p.also.join(', ') })}</p>
		{/if}
		{#if p.before.length > 0}
			<details class="small">
				<summary>{words.before}</summary>
				{#each p.before as old (old.at)}
					<div class="old" lang={p.language} dir={p.direction}>
						<p class="quiet">{when(old.at)}</p>
						<p class="subject" dir="auto"><b>{old.subject}</b></p>
						<!-- eslint-disable-next-line svelte/no-at-html-tags -->
						<div class="words on-paper">{@html old.html}</div>
					</div>
				{/each}
			</details>
		{/if}
		{@render deeds?.(p)}
	</article>
{/snippet}

<section class="board" aria-label={board.name}>
	{#if level > 0}
		<header>
			<svelte:element this={`h${level}`} class="name"><bdi>{board.name}</bdi></svelte:element>
			{#if board.of}<p class="quiet small"><bdi>{board.of}</bdi></p>{/if}
		</header>
	{/if}
	{#if empty}<p class="quiet">{words.empty}</p>{/if}
	{#each [...board.pinned, ...board.front] as p (p.dispatchId)}{@render post(p)}{/each}
	{#if board.earlier.length > 0}
		<details class="earlier" open={board.earlier.some((p) => p.html !== '')}>
			<summary>{words.earlier} ({board.earlier.length})</summary>
			<ul>
				{#each board.earlier as p (p.dispatchId)}
					<li>
						{#if p.html !== ''}{@render post(p)}
						{:else}
							<a href={whole(p.dispatchId)} data-sveltekit-noscroll dir="auto">{p.subject}</a>
							<span class="quiet small">{when(p.from)}</span>
						{/if}
					</li>
				{/each}
			</ul>
		</details>
	{/if}
</section>

<style>
	.board {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 12px;
	}
	.name {
		font-size: 20px;
		line-height: 1.25;
		overflow-wrap: anywhere;
	}
	h1.name {
		font-size: 27px;
	}
	article {
		background: var(--sheet);
		border: 1px solid var(--line);
		border-radius: 3px;
		padding: 12px 16px;
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 8px;
	}
	.when {
		display: flex;
		flex-wrap: wrap;
		gap: 2px 12px;
	}
	.pin {
		color: var(--action);
	}
	.subject {
		font-size: 18px;
		line-height: 1.3;
		overflow-wrap: anywhere;
	}
	.old .subject {
		font-size: inherit;
	}
	/* A sheet of its own in the dark, with its words where those around it begin. */
	.words {
		margin: 4px -10px 0;
		padding: 4px 10px;
		overflow-wrap: anywhere;
		overflow-x: auto;
	}
	/* Mail programs need each paragraph’s own room below; here the box has it. */
	.words > :global(:last-child) {
		margin-bottom: 0 !important;
	}
	.files {
		padding: 8px 12px;
		border: 1px solid var(--line);
		overflow-wrap: anywhere;
	}
	.old {
		border-top: 1px dashed var(--dash);
		padding-top: 8px;
		margin-top: 8px;
	}
	summary {
		cursor: pointer;
	}
	.earlier ul {
		display: grid;
		gap: 8px;
		margin-top: 8px;
	}
	.earlier li > a {
		overflow-wrap: anywhere;
	}
	.earlier li > .small {
		margin-inline-start: 10px;
	}
</style>
