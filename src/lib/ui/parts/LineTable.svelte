<script lang="ts" generics="T, K extends string">
	import type { Snippet } from 'svelte';
	import { DataTable } from 'carbon-components-svelte';

	/** Carbon's table over lines of any kind: columns by key, each cell drawn by whoever uses it. Where it is too wide it scrolls by itself. */
	let {
		columns,
		lines,
		idOf,
		cell,
		head
	}: {
		columns: readonly { readonly key: K; readonly value: string }[];
		lines: readonly T[];
		idOf: (line: T) => string | number;
		cell: Snippet<[line: T, key: K]>;
		/** Draws the head of a column; its words where it is not given. */
		head?: Snippet<[key: K, value: string]>;
	} = $props();
	// Carbon wants each key to be a field of a row; ours are the names of columns.
	const headers = $derived(columns as never);
	const rows = $derived(lines.map((line) => ({ id: idOf(line), line })));
</script>

<div class="lines-table">
	<DataTable size="short" {headers} {rows}>
		<svelte:fragment slot="cellHeader" let:header>
			{@const { key, value } = header as unknown as { key: K; value: string }}
			{#if head}{@render head(key, value)}{:else}{value}{/if}
		</svelte:fragment>
		<svelte:fragment slot="cell" let:row let:cell={one}>
			{@render cell(row.line, one.key as unknown as K)}
		</svelte:fragment>
	</DataTable>
</div>

<style>
	.lines-table {
		overflow-x: auto;
	}
	.lines-table :global(td) {
		padding-block: 6px;
		height: auto;
		vertical-align: top;
	}
</style>
