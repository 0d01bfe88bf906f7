<script lang="ts">
	import { invalidate } from '$app/navigation';
	import { page } from '$app/state';
	import { languageDirection } from '$lib/core/copy/direction';
	import { joinPhrases } from '$lib/core/copy/join-phrases';

	/** Fills a screen in a room with how a group is joined, in its families' languages; the number of those who are in grows while they join. */
	let { data } = $props();
	const ways = $derived(data.ways);
	const languages = $derived(ways.languages.slice(0, 5).map((tag) => joinPhrases(tag)));
	const everyMs = 5_000;
	$effect(() => {
		const timer = setInterval(() => void invalidate('app:joined'), everyMs);
		return () => clearInterval(timer);
	});
</script>

<svelte:head><title>{ways.group}</title></svelte:head>

{#snippet way(value: string, phrase: 'byText' | 'byMail' | 'byLink')}
	<section>
		<b class="value" dir="ltr">{value}</b>
		{#each languages as words (words.tag)}
			<p lang={words.tag} dir={languageDirection(words.tag)}>{words[phrase]}</p>
		{/each}
	</section>
{/snippet}

<main>
	<header>
		<div>
			<p class="district">{ways.district}</p>
			<h1 dir="auto">{ways.group}</h1>
		</div>
		<p class="in" aria-live="polite"><b>{data.within}</b> joined</p>
	</header>
	<div class="middle">
		<p class="code" style:--signs={ways.code.length}>{ways.code}</p>
		<svg viewBox="0 0 {data.square.side} {data.square.side}" role="img" aria-label={ways.link}>
			<rect width="100%" height="100%" fill="#fff" />
			<path d={data.square.path} fill="#000" />
		</svg>
	</div>
	<div class="ways">
		{#if ways.number !== null}{@render way(ways.number, 'byText')}{/if}
		{@render way(ways.mail, 'byMail')}
		{@render way(ways.link, 'byLink')}
	</div>
	<footer><a href="/people/groups/{page.params.id}/joining">Close</a></footer>
</main>

<style>
	main {
		min-height: 100vh;
		box-sizing: border-box;
		padding: 2.5vh 3vw 1.5vh;
		display: grid;
		grid-template-rows: auto minmax(0, 1fr) auto auto;
		gap: 2vh;
		background: var(--sheet);
	}
	header {
		display: flex;
		justify-content: space-between;
		gap: 3vw;
		align-items: start;
	}
	.district {
		font-size: max(14px, 1.3vw);
		color: var(--quiet);
	}
	h1 {
		font-size: max(24px, 3.2vw);
		line-height: 1.15;
		overflow-wrap: anywhere;
	}
	.in {
		font-size: max(16px, 1.6vw);
		white-space: nowrap;
	}
	.in b {
		font-size: max(24px, 3.2vw);
	}
	.middle {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		justify-content: space-between;
		gap: 3vw;
	}
	.code {
		/* Two thirds of the width, whatever the code's length: a capital is about two thirds of its height wide. */
		font-size: min(calc(58vw / (var(--signs) * 0.66)), 36vh);
		font-weight: 700;
		line-height: 1;
		letter-spacing: 0.02em;
	}
	svg {
		height: min(38vh, 34vw);
		min-height: 160px;
	}
	.ways {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(260px, 1fr));
		gap: 2vw;
	}
	section {
		border-top: 2px solid var(--line-strong);
		padding-top: 1vh;
		font-size: max(13px, 1.05vw);
		min-width: 0;
	}
	.value {
		display: block;
		font-size: max(16px, 1.55vw);
		overflow-wrap: anywhere;
		margin-bottom: 0.6vh;
	}
	footer {
		font-size: 13px;
		text-align: right;
	}
</style>
