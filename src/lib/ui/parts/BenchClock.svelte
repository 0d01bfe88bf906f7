<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { Button } from 'carbon-components-svelte';
	import { dayName } from '$lib/core/time/zone';
	import { clockTime } from './clock';
	import { bench } from './bench.svelte';

	/** The bench clock of the demo: shows the time of the job, and moves it on. */
	let { zone }: { zone: string } = $props();
	let open = $state(false);
	let trouble = $state('');
	const steps = [
		{ by: 'minute', label: '1 minute on' },
		{ by: 'hour', label: '1 hour on' },
		{ by: 'next', label: 'To the next thing due' }
	] as const;

	async function move(by: (typeof steps)[number]['by']) {
		trouble = '';
		const response = await fetch('/bench/move', {
			method: 'POST',
			headers: { 'content-type': 'application/json' },
			body: JSON.stringify({ by })
		});
		const answer = await response.json();
		if (!response.ok || answer.why) trouble = answer.why ?? answer.message;
		await invalidateAll();
	}
</script>

<div class="clock">
	<button
		class="mono"
		aria-expanded={open}
		aria-controls="bench"
		onclick={() => (open = !open)}
		aria-label="Bench clock, {dayName(bench.now, zone)} {clockTime(bench.now, zone)}"
	>
		{dayName(bench.now, zone)}, {clockTime(bench.now, zone)}
	</button>
	{#if open}
		<div id="bench" class="panel">
			<p class="small quiet">Bench clock: the time of the demo. It runs on, and can be moved.</p>
			{#each steps as step (step.by)}
				<Button kind="tertiary" size="small" on:click={() => move(step.by)}>{step.label}</Button>
			{/each}
			<p class="small heed" role="status">{trouble}</p>
		</div>
	{/if}
</div>

<style>
	.clock {
		position: relative;
	}
	button {
		background: none;
		border: 1px dashed var(--line-strong);
		border-radius: var(--corner);
		color: var(--ink);
		padding: 5px 8px;
		cursor: pointer;
		white-space: nowrap;
	}
	.panel {
		width: 240px;
	}
</style>
