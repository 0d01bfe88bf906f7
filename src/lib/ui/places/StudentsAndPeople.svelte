<script lang="ts">
	import type { Snippet } from 'svelte';
	import LineTable from '$lib/ui/parts/LineTable.svelte';
	import WayMark from '$lib/ui/parts/WayMark.svelte';
	import type { ReachLine } from '$lib/server/desk/places/types';

	/** Students with who is written to for them, and by which ways each can be reached. */
	let {
		lines,
		deed
	}: {
		lines: readonly ReachLine[];
		/** What can be done with one student, in a last column. */
		deed?: Snippet<[ReachLine]>;
	} = $props();
	const columns = $derived([
		{ key: 'name', value: 'Student' } as const,
		{ key: 'adults', value: 'Guardians, and how they are reached' } as const,
		...(deed ? [{ key: 'deed', value: 'By hand' } as const] : [])
	]);
</script>

{#snippet cell(line: ReachLine, key: 'name' | 'adults' | 'deed')}
	{#if key === 'name'}
		<a href="/people/{line.studentId}" dir="auto">{line.name}</a>
		{#if line.note}<span class="quiet small" dir="auto">{line.note}</span>{/if}
	{:else if key === 'adults'}
		<ul>
			{#each line.adults as adult (adult.personId)}
				<li>
					<a href="/people/{adult.personId}" dir="auto">{adult.name}</a>
					<span class="quiet small" dir="auto">{adult.relation}</span>
					{#each adult.by as way (way)}<WayMark {way} />{/each}
					{#if adult.why}<span class="heed small">{adult.why}</span>{/if}
				</li>
			{:else}
				<li class="heed">No guardian on file.</li>
			{/each}
		</ul>
	{:else if deed}{@render deed(line)}{/if}
{/snippet}

<LineTable {columns} {lines} idOf={(line) => line.studentId} {cell} />

<style>
	li {
		display: flex;
		flex-wrap: wrap;
		gap: 2px 7px;
		align-items: baseline;
	}
</style>
