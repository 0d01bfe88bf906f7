<script lang="ts">
	import { ways } from '$lib/core/roster/way';
	import WayMark from '$lib/ui/parts/WayMark.svelte';

	/** The head of a column: a way by its mark, anything else by its words. */
	let { key, value }: { key: string; value: string } = $props();
	const way = $derived(ways.find((w) => w === key));
</script>

{#if way}<WayMark {way} word />{:else}{value}{/if}
