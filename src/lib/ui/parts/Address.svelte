<script lang="ts">
	import type { Way } from '$lib/core/roster/way';

	/** A mail address or a number, given as people read it; a long address breaks before its @. */
	let { way, value }: { way: Way; value: string } = $props();
	const at = $derived(way === 'email' ? value.lastIndexOf('@') : -1);
</script>

<span class="mono quiet"
	>{#if at > 0}{value.slice(0, at)}<wbr />{value.slice(at)}{:else}{value}{/if}</span
>

<style>
	span {
		overflow-wrap: anywhere;
		margin-inline-start: 4px;
	}
</style>
