<script lang="ts">
	import { InlineNotification } from 'carbon-components-svelte';
	import type { TriedOut } from '$lib/server/desk/district/types';

	/** What came of trying a provider, step by step. */
	let { tried }: { tried: TriedOut } = $props();
	const failed = $derived(tried.steps.find((step) => !step.ok));
</script>

<section aria-label="What came of trying it" role="status">
	{#if tried.works}
		<InlineNotification
			kind={failed ? 'warning' : 'success'}
			lowContrast
			hideCloseButton
			title={failed ? 'It works, with one thing missing. It is kept.' : 'It works, and is kept.'}
		/>
	{:else}
		<InlineNotification
			kind="error"
			lowContrast
			hideCloseButton
			title="It stopped at: {failed?.name ?? 'nothing was tried'}."
			subtitle={tried.kept
				? 'It is kept all the same.'
				: 'Nothing was changed; what you typed stands below.'}
		/>
	{/if}
	<ol>
		{#each tried.steps as step (step.name)}
			<li class:failed={!step.ok}>
				<b>{step.ok ? '✓' : '✗'} {step.name}</b>
				<span>{step.said}</span>
			</li>
		{/each}
	</ol>
	{#if tried.kept}<p><a href="/settings/start">What is still to be done</a></p>{/if}
</section>

<style>
	section {
		max-width: 760px;
		margin: 12px 0 18px;
	}
	ol {
		list-style: none;
		border-left: 3px solid var(--line);
		padding-left: 14px;
	}
	li {
		display: grid;
		grid-template-columns: 220px minmax(0, 1fr);
		gap: 4px 14px;
		padding: 4px 0;
	}
	li span {
		overflow-wrap: anywhere;
	}
	.failed b {
		color: var(--fail);
	}
	@media (max-width: 700px) {
		li {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
