<script lang="ts">
	import { dayTime } from '../parts/clock';
	import type { SuggestedMove } from '$lib/server/desk/load/types';
	import type { Moving } from './moving.svelte';

	/** What brings the load of a week down most; there is at least one. */
	let {
		moves,
		moving,
		limit,
		zone
	}: {
		moves: readonly SuggestedMove[];
		moving: Moving;
		/** Messages a family may get on a day before it is said. */
		limit: number;
		zone: string;
	} = $props();
	const others = $derived(moves.slice(1));
</script>

{#snippet offer(m: SuggestedMove)}
	{@const line = moving.find(m.dispatchId)}
	<span>
		<b dir="auto">{m.subject}</b> to {dayTime(m.to, zone)}, {m.relief}
		{m.relief === 1 ? 'message' : 'messages'} fewer over {limit} a day.
		{#if line}<button class="plain" onclick={() => moving.move(line, m.toLocal, m.base)}
				>Move it</button
			>{/if}
	</span>
{/snippet}
<section aria-label="What to move">
	<span>What brings the load down most:</span>
	{@render offer(moves[0]!)}
	{#if others.length > 0}
		<details>
			<summary>or else</summary>
			{#each others as m (m.dispatchId)}<div>{@render offer(m)}</div>{/each}
		</details>
	{/if}
</section>

<style>
	section {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 16px;
		padding: 0 18px 10px;
		font-size: 13px;
	}
</style>
