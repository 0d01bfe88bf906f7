<script lang="ts">
	import { goto } from '$app/navigation';
	import { DataTable, InlineNotification } from 'carbon-components-svelte';
	import { dayName } from '$lib/core/time/zone';
	import type { FailingAddress } from '$lib/server/desk/people/types';
	import Address from '$lib/ui/parts/Address.svelte';
	import MendForm from '$lib/ui/people/MendForm.svelte';
	import WayMark from '$lib/ui/parts/WayMark.svelte';
	import Pages from '$lib/ui/parts/Pages.svelte';

	/** Addresses that do not work: whose, why, since when, what was missed, and what to do about each. */
	let { data, form } = $props();
	const perPage = 50;
	const headers = [
		{ key: 'person', value: 'Person' },
		{ key: 'value', value: 'Address' },
		{ key: 'why', value: 'Why it does not work' },
		{ key: 'missed', value: 'Missed' },
		{ key: 'id', value: 'Mend' }
	] as const;
	const rows = $derived(data.failing.addresses.map((f) => ({ ...f })));
	const found = $derived(data.failing.found);
</script>

<svelte:head><title>Addresses to mend · Idle Courier</title></svelte:head>

<div class="page">
	<p class="quiet"><a href="/people">People</a> · Addresses to mend</p>
	<h1>
		{#if found === 0}No address to mend{:else}
			<span class="fail">{found.toLocaleString('en')}</span>
			{found === 1 ? 'address' : 'addresses'} to mend
		{/if}
	</h1>
	{#if form && 'said' in form}<p class="good" role="status">{form.said}</p>{/if}
	{#if form && 'why' in form && form.id === 0}
		<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
	{/if}
	{#if rows.length === 0}
		<p>An address that refuses copies for good, or fails three times in a row, is listed here.</p>
	{:else}
		<DataTable size="short" {headers} {rows}>
			<svelte:fragment slot="cell" let:row let:cell>
				{@const line = row as unknown as FailingAddress}
				{#if cell.key === 'person'}
					<a href="/people/{line.personId}" dir="auto">{line.person}</a>
					{#if line.students}<span class="quiet small under" dir="auto">for {line.students}</span
						>{/if}
				{:else if cell.key === 'value'}
					<span class="address"
						><WayMark way={line.way} /> <Address way={line.way} value={line.shown} /></span
					>
				{:else if cell.key === 'why'}
					<span class="why under">{line.why}</span>
					<span class="quiet small under"
						>since {dayName(line.since, data.frame!.zone)}; looked after by {line.lookedAfterBy}</span
					>
				{:else if cell.key === 'missed'}
					{#if line.missed.length === 0}<span class="quiet">nothing yet</span>
					{:else}
						<details>
							<summary
								>{line.missed.length}
								{line.missed.length === 1 ? 'dispatch' : 'dispatches'}</summary
							>
							<ul class="small">
								{#each line.missed as m (m.id)}
									<li><a href="/reach/{m.id}" dir="auto">{m.subject}</a></li>
								{/each}
							</ul>
						</details>
					{/if}
				{:else if cell.key === 'id' && !data.mayMend}
					<span class="quiet">by the office</span>
				{:else if cell.key === 'id'}
					{@const mine = form && 'why' in form && form.id === line.id ? form : null}
					<MendForm
						id={line.id}
						way={line.way}
						value={line.value}
						typed={mine?.value ?? ''}
						why={mine?.why ?? ''}
					/>
				{:else}{cell.value}{/if}
			</svelte:fragment>
		</DataTable>
		<Pages
			all={found}
			{perPage}
			page={data.failing.page}
			what="Addresses"
			onturn={(page) => void goto(`/people/mend?page=${page}`)}
		/>
	{/if}
</div>

<style>
	.under,
	.address {
		display: block;
	}
	.address,
	.why {
		min-width: 150px;
	}
	summary {
		cursor: pointer;
		white-space: nowrap;
	}
</style>
