<script lang="ts">
	import { nearTime } from '../parts/clock';
	import type { LogLine } from '$lib/server/desk/log/types';
	import { bench } from '$lib/ui/parts/bench.svelte';

	/** What was done, a line for each: when, who and what. */
	let { lines, zone }: { lines: readonly LogLine[]; zone: string } = $props();
</script>

<ol>
	{#each lines as line (line.id)}
		<li>
			<span class="mono small quiet">{nearTime(line.at, bench.now, zone)}</span>
			<span dir="auto"
				><b>{line.by ?? 'By itself'}:</b>
				{line.words}
				{#if line.href}<a class="small" href={line.href}>open</a>{/if}</span
			>
			<span class="small quiet number"
				>line {line.id.toLocaleString('en')}{line.session === null
					? ''
					: `, session ${line.session}`}</span
			>
		</li>
	{/each}
</ol>

<style>
	ol {
		border-top: 1px solid var(--line);
	}
	li {
		display: grid;
		grid-template-columns: 170px minmax(0, 1fr) auto;
		gap: 14px;
		align-items: baseline;
		padding: 7px 2px;
		border-bottom: 1px solid var(--line);
		overflow-wrap: anywhere;
	}
	@media (max-width: 700px) {
		li {
			grid-template-columns: minmax(0, 1fr);
			gap: 2px;
		}
	}
</style>
