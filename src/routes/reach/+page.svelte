<script lang="ts">
	import { DataTable } from 'carbon-components-svelte';
	import { nearTime } from '$lib/core/time/zone';
	import WayMark from '$lib/ui/parts/WayMark.svelte';
	import CoverBar from '$lib/ui/reach/CoverBar.svelte';

	let { data } = $props();
	const headers = [
		{ key: 'leavesAt', value: 'Left' },
		{ key: 'subject', value: 'Dispatch' },
		{ key: 'ways', value: 'Ways' },
		{ key: 'copies', value: 'Copies' },
		{ key: 'covered', value: 'Students covered' }
	] as const;
	const rows = $derived(data.lines.map((l) => ({ ...l })));
	const zone = $derived(data.frame!.zone);
</script>

<svelte:head><title>Reach · Idle Courier</title></svelte:head>

<div class="page">
	<h1>Reach</h1>
	{#if rows.length === 0}
		<p>
			Nothing has been sent yet. <a href="/write">Write</a> something; it shows here as soon as it is
			on hold.
		</p>
	{:else}
		<p class="quiet">{rows.length} dispatches, newest first</p>
		<DataTable size="short" {headers} {rows}>
			<svelte:fragment slot="cell" let:row let:cell>
				{#if cell.key === 'subject'}
					<a class="subject" href="/reach/{row.id}" dir="auto">{row.subject}</a>
					<span class="quiet small under">{row.sender} · {row.audience}</span>
				{:else if cell.key === 'leavesAt'}
					<span class="time"
						>{row.state === 'scheduled' ? 'on hold, ' : ''}{nearTime(
							row.leavesAt ?? 0,
							data.frame!.now,
							zone
						)}</span
					>
				{:else if cell.key === 'ways'}
					<span class="ways"
						>{#each row.ways as way (way)}<WayMark {way} />{/each}</span
					>
				{:else if cell.key === 'covered'}
					<CoverBar
						unit={row.unit}
						students={row.students}
						covered={row.covered}
						unreachable={row.unreachable}
					/>
				{:else}
					{cell.value}
				{/if}
			</svelte:fragment>
		</DataTable>
	{/if}
</div>

<style>
	.page {
		padding: 18px 24px 40px;
		display: grid;
		gap: 8px;
	}
	.subject {
		font-weight: 600;
		color: var(--ink);
		text-decoration: none;
	}
	.subject:hover {
		text-decoration: underline;
	}
	.under {
		display: block;
		max-width: 440px;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.ways {
		display: inline-flex;
		gap: 6px;
	}
	.time {
		white-space: nowrap;
	}
</style>
