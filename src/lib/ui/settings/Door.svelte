<script lang="ts">
	import { InlineNotification } from 'carbon-components-svelte';
	import type { Snippet } from 'svelte';
	import Brand from '$lib/ui/parts/Brand.svelte';

	/** The small page before somebody is in: one sheet with one form on it. */
	let {
		title,
		why = '',
		action,
		children,
		after
	}: {
		title: string;
		why?: string | undefined;
		/** The action of the form. */
		action?: string;
		/** What stands in the form; none where there is nothing to say. */
		children?: Snippet;
		after?: Snippet;
	} = $props();
</script>

<svelte:head><title>{title} · Idle Courier</title></svelte:head>

<main class="door-page">
	<Brand />
	<h1>{title}</h1>
	{#if children}
		<form method="post" {action}>
			{#if why}<InlineNotification kind="error" lowContrast hideCloseButton title={why} />{/if}
			{@render children()}
		</form>
	{/if}
	{@render after?.()}
</main>

<style>
	.door-page {
		max-width: 440px;
		margin: 8vh auto;
		padding: 0 20px;
		display: grid;
		gap: 20px;
	}
	form {
		display: grid;
		gap: 16px;
		justify-items: start;
		background: var(--sheet);
		border: 1px solid var(--line);
		padding: 20px;
	}
	form > :global(.bx--form-item) {
		width: 100%;
	}
</style>
