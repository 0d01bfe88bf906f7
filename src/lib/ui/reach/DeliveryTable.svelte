<script lang="ts">
	import { DataTable, Pagination } from 'carbon-components-svelte';
	import { nearTime } from '$lib/core/time/zone';
	import type { DeliveryLine } from '$lib/server/desk/reach';
	import { phoneText } from '$lib/core/format/phone';
	import StateRing from '../parts/StateRing.svelte';
	import WayMark from '../parts/WayMark.svelte';

	/** Every copy with its state and evidence; a line opens to all that happened to it. */
	let {
		lines,
		found,
		page,
		zone,
		now,
		onpage
	}: {
		lines: readonly DeliveryLine[];
		found: number;
		page: number;
		zone: string;
		now: number;
		onpage: (page: number) => void;
	} = $props();
	const headers = [
		{ key: 'person', value: 'Person' },
		{ key: 'students', value: 'For' },
		{ key: 'way', value: 'Way' },
		{ key: 'state', value: 'State' },
		{ key: 'evidence', value: 'Latest evidence' }
	] as const;
	const rows = $derived(lines.map((l) => ({ ...l })));
	const strengths = { none: '', weak: 'weak', fair: 'fair', strong: 'strong' } as const;
	const perPage = 50;
</script>

{#if rows.length === 0}
	<p class="none">No copy fits this filter.</p>
{:else}
	<DataTable expandable size="short" {headers} {rows}>
		<svelte:fragment slot="cell" let:row let:cell>
			{#if cell.key === 'person'}
				<span dir="auto">{row.person}</span>
				<span class="quiet small under">
					{row.relation}{row.alsoFor ? `, also read by ${row.alsoFor}` : ''}
				</span>
			{:else if cell.key === 'students'}
				<span dir="auto">{row.students}</span>
			{:else if cell.key === 'way'}
				<WayMark way={row.way} />
				{#if row.address}<span class="mono quiet address"
						>{row.way === 'text' ? phoneText(row.address) : row.address}</span
					>{/if}
			{:else if cell.key === 'state'}
				<span class="state" class:fail={row.state === 'failed'}>
					<StateRing state={row.state} strength={row.strength} label="" />{row.state}
				</span>
			{:else}
				{@const last = row.evidence.at(-1)}
				{#if last}
					<span>{last.detail}</span>
					<span class="quiet small under">
						{nearTime(last.at, now, zone)}{strengths[last.strength]
							? `, ${strengths[last.strength]} evidence of reading`
							: ''}
					</span>
				{/if}
			{/if}
		</svelte:fragment>
		<svelte:fragment slot="expandedRow" let:row>
			<ol aria-label="All evidence">
				{#each row.evidence as e, i (i)}
					<li>
						<span class="mono">{nearTime(e.at, now, zone)}</span>
						<span>{e.kind.replace('-', ' ')}</span>
						<span>{e.detail}</span>
						<span class="quiet"
							>{strengths[e.strength] ? `${strengths[e.strength]} evidence of reading` : ''}</span
						>
					</li>
				{/each}
			</ol>
		</svelte:fragment>
	</DataTable>
	{#if found > perPage}
		<Pagination
			totalItems={found}
			pageSize={perPage}
			pageSizeInputDisabled
			{page}
			on:change={(e) => {
				if (e.detail.page && e.detail.page !== page) onpage(e.detail.page);
			}}
		/>
	{/if}
{/if}

<style>
	.under {
		display: block;
	}
	.address {
		margin-left: 6px;
		overflow-wrap: anywhere;
	}
	.state {
		display: inline-flex;
		gap: 6px;
		align-items: center;
	}
	.none {
		padding: 14px 0;
	}
	ol {
		display: grid;
		gap: 4px;
		padding: 4px 0;
	}
	ol li {
		display: grid;
		grid-template-columns: 190px 110px 1fr 210px;
		gap: 12px;
		font-size: 13px;
	}
</style>
