<script lang="ts">
	import { DataTable } from 'carbon-components-svelte';
	import { nearTime } from '$lib/ui/parts/clock';
	import WayMark from '$lib/ui/parts/WayMark.svelte';
	import CoverBar from '$lib/ui/reach/CoverBar.svelte';

	let { data } = $props();
	const headers = [
		{ key: 'leavesAt', value: 'Left' },
		{ key: 'subject', value: 'Dispatch' },
		{ key: 'ways', value: 'Ways' },
		{ key: 'copies', value: 'Copies' },
		{ key: 'covered', value: 'Students covered' },
		{ key: 'gone', value: 'Now' }
	] as const;
	const runs = (l: (typeof data.lines)[number]): string => {
		if (l.ways.length === 0) return '';
		if (l.state === 'scheduled') {
			const left = l.copies - l.gone;
			return l.gone === 0 ? 'on hold' : left > 0 ? `${left} still to leave` : 'leaving';
		}
		if (l.covered === l.students) return '';
		return data.frame!.now < (l.overAt ?? 0) ? 'being read' : '';
	};
	const open = $derived(data.lines.filter((l) => runs(l) !== '').length);
	const rows = $derived(data.lines.map((l) => ({ ...l })));
	const zone = $derived(data.frame!.zone);
</script>

<svelte:head><title>Reach · Idle Courier</title></svelte:head>

<div class="page">
	<h1>Reach</h1>
	{#if rows.length === 0}
		<p>
			Nothing has been sent yet.
			{#if data.frame!.mayWrite}
				<a href="/write">Write</a> something; it shows here as soon as it is on hold.
			{/if}
		</p>
	{:else}
		<p class="quiet">
			{rows.length} dispatches, newest first{open > 0 ? `; ${open} still run` : ''}. What leaves
			later stands in the <a href="/week">Week</a>.
			<a href="/reach/term">Report of a term</a> ·
			<a href="/reach/forecasts">How good forecasts were</a>
		</p>
		<DataTable size="short" {headers} {rows}>
			<svelte:fragment slot="cell" let:row let:cell>
				{#if cell.key === 'subject'}
					<a class="subject" href="/reach/{row.id}" dir="auto">{row.subject}</a>
					<span class="quiet small under">{row.sender} · {row.audience}</span>
				{:else if cell.key === 'leavesAt'}
					<span class="time">{nearTime(row.leavesAt ?? 0, data.frame!.now, zone)}</span>
				{:else if cell.key === 'ways'}
					<span class="ways"
						>{#each row.ways as way (way)}<WayMark {way} />{/each}</span
					>
				{:else if cell.key === 'covered' && row.ways.length === 0}
					<span class="quiet">on boards alone</span>
				{:else if cell.key === 'covered'}
					<CoverBar
						unit={row.unit}
						students={row.students}
						covered={row.covered}
						unreachable={row.unreachable}
					/>
				{:else if cell.key === 'gone'}
					{@const said = runs(row as unknown as (typeof data.lines)[number])}
					<span class="time" class:heed={row.state === 'scheduled'}>{said}</span
					>{#if said === '' && row.ways.length > 0}<span class="quiet">over</span>{/if}
				{:else}
					{cell.value}
				{/if}
			</svelte:fragment>
		</DataTable>
	{/if}
</div>

<style>
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
		max-width: 320px;
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
