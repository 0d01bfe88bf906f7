<script lang="ts">
	import { count } from '$lib/core/copy/count';
	import type { ExpectLine } from '$lib/server/desk/expect/types';
	import { dayTime } from '../../parts/clock';
	import { bench } from '../../parts/bench.svelte';

	/** What is to be expected by the time that is wanted, in one line; its door leads to the ways compared. */
	let { line, zone }: { line: ExpectLine; zone: string } = $props();
	const by = $derived(dayTime(line.by, zone, bench.now));
</script>

<p class="small" role="status">
	{#if 'unknown' in line}
		<span class="quiet"
			>How many will know by {by}: too little has been read by {line.unknown.length > 0
				? line.unknown.join(' and ')
				: 'these ways'} yet to say.</span
		>
	{:else}
		about <b>{count(line.expected)} of {count(line.students)} {line.of}</b> by {by}
		<span class="quiet">({count(line.low)} to {count(line.high)})</span>
	{/if}
	<a href="/write/expect">What to expect</a>
</p>

<style>
	p {
		margin-bottom: 10px;
	}
</style>
