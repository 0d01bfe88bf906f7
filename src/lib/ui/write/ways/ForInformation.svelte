<script lang="ts">
	import { Checkbox } from 'carbon-components-svelte';
	import Slip from '../../parts/Slip.svelte';
	import FindPerson from '../../parts/FindPerson.svelte';
	import type { Sheet } from '../sheet/sheet.svelte';

	/** Copies for the sender and for colleagues, who only see what went. */
	let { sheet }: { sheet: Sheet } = $props();
	/** Names of colleagues just found, until the server says them. */
	let colleagues = $state<Record<number, string>>({});
</script>

<details open={sheet.toSender || sheet.toColleagues.length > 0}>
	<summary class="small">Copies for information</summary>
	<Checkbox labelText="one for me" bind:checked={sheet.toSender} />
	{#if sheet.toColleagues.length > 0}
		<ul class="colleagues" aria-label="Colleagues who get a copy">
			{#each sheet.toColleagues as id (id)}
				<Slip
					label="No copy for {sheet.landing?.names[id] ?? colleagues[id]}"
					onremove={() => (sheet.toColleagues = sheet.toColleagues.filter((c) => c !== id))}
					>{sheet.landing?.names[id] ?? colleagues[id] ?? `colleague #${id}`}</Slip
				>
			{/each}
		</ul>
	{/if}
	<FindPerson
		label="One for a colleague"
		among="staff"
		onfound={(p) => {
			colleagues[p.personId] = p.name;
			if (!sheet.toColleagues.includes(p.personId))
				sheet.toColleagues = [...sheet.toColleagues, p.personId];
		}}
	/>
</details>

<style>
	details {
		margin-top: 10px;
		padding-top: 8px;
		border-top: 1px solid var(--line);
	}
	.colleagues {
		display: flex;
		flex-wrap: wrap;
		gap: 4px;
		margin: 4px 0;
	}
	summary {
		cursor: pointer;
	}
</style>
