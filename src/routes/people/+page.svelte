<script lang="ts">
	import { DataTable } from 'carbon-components-svelte';
	import { phoneText } from '$lib/core/format/phone';
	import { dayName } from '$lib/core/time/zone';
	import WayMark from '$lib/ui/parts/WayMark.svelte';

	let { data } = $props();
	const headers = [
		{ key: 'person', value: 'Person' },
		{ key: 'value', value: 'Address' },
		{ key: 'why', value: 'Why it does not work' },
		{ key: 'since', value: 'Since' }
	] as const;
</script>

<svelte:head><title>People · Idle Courier</title></svelte:head>

<div class="page">
	<h1>People</h1>
	<p class="quiet">
		Anyone in the district will be found here: household, addresses, own choices, and all that was
		sent to them. For now this place lists the addresses to mend.
	</p>
	{#if data.failing === null}
		<p>The list of addresses to mend is kept by the school office.</p>
	{:else}
		<h2>Addresses to mend <span class="fail">{data.failing.length}</span></h2>
		{#if data.failing.length === 0}
			<p>None. An address that refuses or returns a copy for good is listed here.</p>
		{:else}
			<DataTable size="short" {headers} rows={data.failing.map((f) => ({ ...f }))}>
				<svelte:fragment slot="cell" let:row let:cell>
					{#if cell.key === 'person'}
						<span dir="auto">{row.person}</span>
						{#if row.students}<span class="quiet small under" dir="auto">for {row.students}</span
							>{/if}
					{:else if cell.key === 'value'}
						<WayMark way={row.way} />
						<span class="mono">{row.way === 'text' ? phoneText(row.value) : row.value}</span>
					{:else if cell.key === 'since'}
						{dayName(row.since, data.frame!.zone)}
					{:else}{cell.value}{/if}
				</svelte:fragment>
			</DataTable>
		{/if}
	{/if}
</div>

<style>
	.page {
		padding: 18px 24px 40px;
		display: grid;
		gap: 10px;
	}
	.under {
		display: block;
	}
</style>
