<script lang="ts">
	import { InlineNotification } from 'carbon-components-svelte';
	import type { Snippet } from 'svelte';
	import Brand from '$lib/ui/parts/Brand.svelte';

	/** The small page before somebody is in: one sheet with one form on it. */
	let {
		title,
		why = '',
		action,
		form = true,
		children,
		after
	}: {
		title: string;
		why?: string | undefined;
		/** The action of the form. */
		action?: string;
		/** Whether it is a form, and not only something to read. */
		form?: boolean;
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
		<svelte:element
			this={form ? 'form' : 'div'}
			class="card"
			{...form ? { method: 'post', action } : {}}
		>
			{#if why}<InlineNotification kind="error" lowContrast hideCloseButton title={why} />{/if}
			{@render children()}
		</svelte:element>
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
	.card {
		display: grid;
		gap: 16px;
		justify-items: start;
		background: var(--sheet);
		border: 1px solid var(--line);
		padding: 20px;
	}
	.card > :global(.bx--form-item) {
		width: 100%;
	}
</style>
