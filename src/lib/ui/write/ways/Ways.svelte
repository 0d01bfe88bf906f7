<script lang="ts">
	import { ways, type Way } from '$lib/core/roster/way';
	import WayMark from '../../parts/WayMark.svelte';
	import type { Sheet } from '../sheet/sheet.svelte';

	/** By which ways it goes. */
	let { sheet }: { sheet: Sheet } = $props();
	function setWay(way: Way, on: boolean) {
		sheet.ways = ways.filter((w) => (w === way ? on : sheet.ways.includes(w)));
	}
</script>

<fieldset class="ways">
	<legend class="spoken">Ways</legend>
	{#each ways as way (way)}
		<label class:on={sheet.ways.includes(way)}>
			<input
				type="checkbox"
				checked={sheet.ways.includes(way)}
				onchange={(e) => setWay(way, e.currentTarget.checked)}
			/>
			<WayMark {way} word />
		</label>
	{/each}
</fieldset>

<style>
	fieldset {
		border: 0;
		padding: 0;
		margin: 0;
	}
	.ways {
		display: flex;
		flex-wrap: wrap;
	}
	.ways label {
		display: inline-flex;
		gap: 7px;
		align-items: center;
		border: 1px solid var(--line);
		padding: 5px 12px;
		margin-left: -1px;
		cursor: pointer;
		background: var(--paper);
	}
	.ways label.on {
		background: var(--sheet);
		box-shadow: inset 0 -2px 0 var(--action);
		font-weight: 600;
	}
	.ways input {
		accent-color: var(--action);
		margin: 0;
	}
</style>
