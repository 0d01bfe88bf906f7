<script lang="ts">
	import { Button } from 'carbon-components-svelte';

	/** What there is to be done before the first letter can leave. */
	let { data } = $props();
	const next = $derived(data.steps.find((step) => !step.done));
</script>

<svelte:head><title>First steps · Idle Courier</title></svelte:head>

<h1>{next ? 'Before the first letter leaves' : 'Everything is there'}</h1>
<p class="quiet">
	{next
		? `${data.frame!.district} is set up, and you are in. What is still open can be done in any order, and changed later.`
		: 'Write can be used. What was set here can be changed at any time.'}
</p>
<ol>
	{#each data.steps as step (step.path)}
		<li class:done={step.done}>
			<span class="mark" aria-hidden="true">{step.done ? '✓' : ''}</span>
			<div>
				<h2>
					<a href={step.path}>{step.name}</a>
					<span class="small quiet">{step.done ? 'done' : 'open'}</span>
				</h2>
				<p>{step.said}</p>
			</div>
		</li>
	{/each}
</ol>
{#if next}
	<Button href={next.path}>{next.name}</Button>
{:else}
	<Button href="/write">Write</Button>
{/if}

<style>
	ol {
		list-style: none;
		max-width: 640px;
		margin: 18px 0;
	}
	li {
		display: grid;
		grid-template-columns: 28px minmax(0, 1fr);
		gap: 14px;
		padding: 14px 0;
		border-top: 1px solid var(--line);
	}
	li:last-child {
		border-bottom: 1px solid var(--line);
	}
	h2 {
		margin: 0;
	}
	.mark {
		display: grid;
		place-items: center;
		width: 26px;
		height: 26px;
		border: 1px dashed var(--line-strong);
		border-radius: 50%;
	}
	.done .mark {
		border-style: solid;
		color: var(--good);
		font-weight: 700;
	}
</style>
