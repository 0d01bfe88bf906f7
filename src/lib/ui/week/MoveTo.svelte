<script lang="ts">
	import { Modal } from 'carbon-components-svelte';
	import type { Snippet } from 'svelte';
	import type { LocalTime } from '$lib/core/time/local';
	import MomentField from '$lib/ui/parts/MomentField.svelte';
	import { bench } from '$lib/ui/parts/bench.svelte';

	/** Asks for another moment, and moves when it is said. */
	let {
		open,
		heading,
		label,
		zone,
		to = $bindable(),
		before,
		after,
		onmove,
		onclose
	}: {
		open: boolean;
		heading: string;
		/** What the moment is called. */
		label: string;
		zone: string;
		to: LocalTime;
		before: Snippet;
		after?: Snippet;
		onmove: () => void;
		onclose: () => void;
	} = $props();
	/** Whether what is typed cannot be read as a moment. */
	let unread = $state(false);
</script>

<Modal
	{open}
	modalHeading={heading}
	primaryButtonText="Move"
	primaryButtonDisabled={unread}
	secondaryButtonText="Leave it"
	size="sm"
	hasForm
	shouldSubmitOnEnter={false}
	on:close={onclose}
	on:click:button--secondary={onclose}
	on:submit={onmove}
>
	{#if open}
		{@render before()}
		<MomentField {label} value={to} now={bench.now} {zone} bind:unread onchange={(v) => (to = v)} />
		{@render after?.()}
	{/if}
</Modal>
