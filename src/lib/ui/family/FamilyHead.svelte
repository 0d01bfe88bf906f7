<script lang="ts">
	import type { Snippet } from 'svelte';

	interface Props {
		district: string;
		/** To the other pages of the family. */
		links: readonly { readonly href: string; readonly text: string }[];
		/** What the page is. */
		children: Snippet;
	}
	/** The head of a family’s page: what it is, whose district, and the way to its other pages. */
	let { district, links, children }: Props = $props();
</script>

<header>
	{@render children()}
	<span class="quiet">{district}</span>
	{#each links as { href, text } (href)}<a {href}>{text}</a>{/each}
</header>

<style>
	header {
		padding: 14px 20px;
		display: flex;
		flex-wrap: wrap;
		gap: 2px 16px;
		justify-content: space-between;
		align-items: baseline;
		background: var(--wash);
		border-bottom: 1px solid var(--line);
		font-size: 15px;
	}
</style>
