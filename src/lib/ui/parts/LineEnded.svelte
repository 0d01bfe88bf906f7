<script lang="ts">
	import { InlineNotification } from 'carbon-components-svelte';
	import { clockTime } from './clock';

	/** Says that a page which followed something no longer does, and as of when it stands: its line was ended from the other side. */
	let { at, zone }: { at: number | null; zone: string } = $props();
</script>

{#if at !== null}
	<InlineNotification
		kind="warning"
		lowContrast
		hideCloseButton
		title="This page shows nothing new since {clockTime(at, zone)}."
		subtitle="You have been signed out, it is not yours to see any more, or the server did not take the line again. Open the page anew to see how it stands; copy first what you have typed here."
	/>
{/if}
