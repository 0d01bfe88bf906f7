<script lang="ts">
	import { Button } from 'carbon-components-svelte';
	import Door from '$lib/ui/settings/Door.svelte';
	import OutsideFailed from '$lib/ui/settings/OutsideFailed.svelte';

	let { data } = $props();
	const tried = $derived(data.tried);
</script>

{#if tried}
	<Door title="What {data.name} says of you" why={tried.why} form={false}>
		{#if tried.who !== null}
			<p role="status">
				Here that is <b>{tried.who}</b>.
				{#if tried.open}
					{data.name} stands on the sign-in page.
				{:else}
					That is not you, so it does not stand on the sign-in page yet. Sign out there, or choose
					another claim.
				{/if}
			</p>
		{:else}
			<p>Choose another claim, or put right with what it is compared.</p>
		{/if}
		<dl>
			{#each tried.claims as claim (claim.name)}
				<dt class="mono small">{claim.name}</dt>
				<dd>{claim.value}</dd>
			{/each}
		</dl>
		<Button href="/settings/identity">Back to the settings</Button>
	</Door>
{:else}
	<OutsideFailed name={data.name} why={data.why} />
{/if}

<style>
	dl {
		display: grid;
		grid-template-columns: minmax(0, 1fr) minmax(0, 2fr);
		gap: 4px 12px;
		width: 100%;
	}
	dd {
		margin: 0;
		overflow-wrap: anywhere;
	}
</style>
