<script lang="ts">
	import { Button } from 'carbon-components-svelte';
	import { dayAfter, localOf, placeLocal } from '$lib/core/time/local';
	import { nearTime } from '../parts/clock';
	import MomentField from '../parts/MomentField.svelte';

	/** Until when something is put aside: then it waits again by itself. */
	let { now, zone, onaside }: { now: number; zone: string; onaside: (until: number) => void } =
		$props();
	const suggested = (from: number) => `${dayAfter(localOf(from, zone).slice(0, 10))}T08:00`;
	// svelte-ignore state_referenced_locally
	let local = $state(suggested(now));
	let unread = $state(false);
	const at = $derived(placeLocal(local, zone).at);
</script>

<div class="aside">
	<MomentField
		label="Put aside until"
		value={local}
		{now}
		{zone}
		onchange={(value) => (local = value)}
		bind:unread
	/>
	<Button size="small" kind="secondary" disabled={unread || at <= now} on:click={() => onaside(at)}>
		Put aside until {nearTime(at, now, zone)}
	</Button>
</div>

<style>
	.aside {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 14px;
		align-items: flex-end;
		padding: 6px 0;
	}
</style>
