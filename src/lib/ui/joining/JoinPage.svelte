<script lang="ts">
	import type { Snippet } from 'svelte';
	import { page } from '$app/state';
	import { languageDirection } from '$lib/core/copy/direction';

	interface Props {
		/** BCP 47 tag of the page's words. */
		language: string;
		title: string;
		district: string;
		/** Tags of the languages that are offered. */
		offered: readonly string[];
		children: Snippet;
	}
	/** The page on which whoever has a code or a letter joins an open group: one column, in their language, for a phone. */
	let { language, title, district, offered, children }: Props = $props();
	const nameOf = (tag: string) => new Intl.DisplayNames([tag], { type: 'language' }).of(tag) ?? tag;
	const others = $derived(
		[...new Set([language, ...offered])].sort().map((tag) => ({ tag, name: nameOf(tag) }))
	);
</script>

<svelte:head><title>{title}</title></svelte:head>

<main class="own-page" lang={language} dir={languageDirection(language)}>
	<p class="quiet">{district}</p>
	<h1 dir="auto">{title}</h1>
	{@render children()}
	<nav class="small">
		{#each others as other (other.tag)}
			{#if other.tag === language}<b lang={other.tag}>{other.name}</b>
			{:else}
				<a lang={other.tag} href="{page.url.pathname}?language={other.tag}">{other.name}</a>
			{/if}
		{/each}
	</nav>
</main>

<style>
	h1 {
		font-size: 24px;
		overflow-wrap: anywhere;
	}
	nav {
		border-top: 1px solid var(--line);
		padding-top: 14px;
		margin-top: 10px;
	}
	main :global(form) {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 14px;
	}
	main :global(form .bx--btn) {
		justify-self: start;
	}
</style>
