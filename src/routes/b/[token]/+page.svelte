<script lang="ts">
	import { page } from '$app/state';
	import { boardPhrases } from '$lib/core/copy/board-phrases';
	import { languageDirection } from '$lib/core/copy/direction';
	import { fillPhrase, pageLanguage } from '$lib/core/copy/phrases';
	import Board from '$lib/ui/boards/Board.svelte';
	import { readerTimes } from '$lib/ui/parts/reader-when';

	/** A board as anybody reads it who has its link. */
	let { data } = $props();
	const o = $derived(data.open);
	const language = $derived(pageLanguage(o.language));
	const words = $derived(boardPhrases(language));
	const when = $derived(readerTimes(o).when);
	const own = $derived(`/b/${page.params.token}`);
</script>

<svelte:head>
	<title>{fillPhrase(words.boardOf, { name: o.board.name })} · {o.district}</title>
	<meta name="robots" content="noindex" />
	<link rel="alternate" type="application/atom+xml" href="{own}/news.atom" />
</svelte:head>

<main class="own-page" lang={language} dir={languageDirection(language)}>
	<p class="quiet">{o.district}</p>
	<Board
		board={o.board}
		{words}
		{when}
		asks={data.asks}
		level={1}
		file={(id) => `${own}/file/${id}`}
		whole={(id) => `?language=${o.language}&post=${id}`}
	/>
	<p class="small">
		<a href="{own}/news.atom">{words.feed} (Atom)</a> ·
		<a href="{own}/calendar.ics">{words.calendar} (iCalendar)</a>
	</p>
	{#if o.languages.length > 1}
		<nav class="small">
			{#each o.languages as { tag, name } (tag)}
				{#if tag === o.language}<b lang={tag}>{name}</b>
				{:else}<a lang={tag} href="?language={tag}">{name}</a>{/if}
			{/each}
		</nav>
	{/if}
</main>
