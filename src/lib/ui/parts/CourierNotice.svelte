<script lang="ts">
	import { InlineNotification } from 'carbon-components-svelte';
	import { clockTime } from './clock';
	import type { CourierStatus } from '$lib/server/desk/office/types';

	/** Says, where it matters, that copies wait: the courier is not there, or a provider is not. */
	let { status, zone }: { status: CourierStatus; zone: string } = $props();
	const services = { email: 'mail server', text: 'text provider' } as const;
</script>

{#if status.held}
	<InlineNotification
		kind="warning"
		lowContrast
		hideCloseButton
		title="Nothing leaves: this database was put back or copied."
		subtitle="What it takes for due may have left before. The district office looks at it under “How the courier is”."
	/>
{/if}
{#if !status.atWork}
	<InlineNotification
		kind="warning"
		lowContrast
		hideCloseButton
		title="The courier is not running."
		subtitle="Copies wait and leave when it is started again; nothing is lost."
	/>
{/if}
{#each status.down as { way, why, since, unset } (way)}
	{#if unset}
		<InlineNotification
			kind="info"
			lowContrast
			hideCloseButton
			title="There is no {services[way]} yet, so nothing leaves by {way}."
			subtitle="Copies by {way} wait until one is set, under Settings."
		/>
	{:else}
		<InlineNotification
			kind="warning"
			lowContrast
			hideCloseButton
			title="The {services[way]} has not been there since {clockTime(since, zone)}: {why}."
			subtitle="Copies by {way} wait and leave when it is back. Whoever runs the server should look at it."
		/>
	{/if}
{/each}
