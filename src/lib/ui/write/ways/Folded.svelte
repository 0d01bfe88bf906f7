<script lang="ts">
	import type { Snippet } from 'svelte';

	/** A setting of the sheet as one line that says how it stands; opened, its fields. */
	let {
		label,
		says,
		fields,
		before,
		after
	}: {
		label: string;
		says: string;
		/** Side by side as far as there is room. */
		fields?: Snippet;
		/** Above and below them, over the whole width. */
		before?: Snippet;
		after?: Snippet;
	} = $props();
</script>

<details>
	<summary class="small"><span class="quiet">{label}</span> {says}</summary>
	{@render before?.()}
	{#if fields}<div class="grid">{@render fields()}</div>{/if}
	{@render after?.()}
</details>

<style>
	summary {
		cursor: pointer;
		overflow-wrap: anywhere;
	}
	.grid {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(240px, 1fr));
		gap: 8px 20px;
		margin: 8px 0;
		align-items: start;
	}
</style>
