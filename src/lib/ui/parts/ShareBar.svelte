<script lang="ts">
	/** Where a share lies between none and `most`, and how far chance alone could move it; what was said of it before, where something was. */
	let {
		low,
		high,
		at,
		said = null,
		most = 1
	}: {
		/** All from 0 to 1. */
		low: number;
		high: number;
		at: number;
		said?: number | null;
		most?: number;
	} = $props();
	const place = (share: number) => (100 * Math.min(share, most)) / most;
</script>

<span class="track" aria-hidden="true">
	<span class="bounds" style="inset-inline-start: {place(low)}%; width: {place(high) - place(low)}%"
	></span>
	{#if said !== null}<span class="said" style="inset-inline-start: {place(said)}%"></span>{/if}
	<span class="mark" style="inset-inline-start: {place(at)}%"></span>
</span>

<style>
	.track {
		position: relative;
		display: block;
		width: 100%;
		min-width: 70px;
		height: 10px;
		background: linear-gradient(var(--line-strong), var(--line-strong)) center / 100% 1px no-repeat;
	}
	.bounds {
		position: absolute;
		top: 3px;
		height: 4px;
		min-width: 2px;
		background: var(--share);
	}
	.mark {
		position: absolute;
		top: 0;
		width: 2px;
		height: 10px;
		margin-inline-start: -1px;
		background: var(--action);
	}
	.said {
		position: absolute;
		top: 1px;
		width: 1px;
		height: 8px;
		background: var(--heed);
	}
</style>
