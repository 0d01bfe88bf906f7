<script lang="ts">
	import { count } from '$lib/core/copy/count';
	import type { Way } from '$lib/core/roster/way';
	import { stateWords } from '$lib/core/track/evidence-words';
	import { deliveryStates, type DeliveryState } from '$lib/core/track/evidence';
	import WayMark from '../parts/WayMark.svelte';

	/** By way: copies, and in which state they are. The parts add up to the copies. */
	let {
		byWay
	}: {
		byWay: readonly {
			way: Way;
			copies: number;
			states: Readonly<Partial<Record<DeliveryState, number>>>;
		}[];
	} = $props();
</script>

<section>
	<h2>By way</h2>
	<ul>
		{#each byWay as { way, copies, states } (way)}
			<li>
				<WayMark {way} word />
				<b>{count(copies)}</b>
				<span class="small">
					{#each deliveryStates.filter((s) => states[s]) as state, i (state)}
						{i > 0 ? ', ' : ''}<span class:fail={state === 'failed'}
							>{count(states[state] ?? 0)} {stateWords[state]}</span
						>
					{/each}
				</span>
			</li>
		{/each}
	</ul>
</section>

<style>
	ul {
		display: grid;
		gap: 10px;
		margin-top: 8px;
	}
	li {
		display: grid;
		grid-template-columns: 76px minmax(44px, max-content) 1fr;
		column-gap: 8px;
		align-items: baseline;
		border-top: 1px solid var(--line);
		padding-top: 8px;
	}
	b {
		font-size: 19px;
		line-height: 1;
	}
</style>
