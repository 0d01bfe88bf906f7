<script lang="ts">
	import { Button, InlineNotification } from 'carbon-components-svelte';
	import { nearTime } from '../../parts/clock';
	import { bench } from '../../parts/bench.svelte';
	import UnsavedSheets from './UnsavedSheets.svelte';
	import type { KeptSheet } from './shelf';
	import type { Sheet } from './sheet.svelte';

	/** Where this sheet comes from, where another window has gone its own way with it, and where it has been sent. */
	let {
		sheet,
		restored,
		zone,
		unsaved,
		said,
		onnew,
		onother,
		onundo
	}: {
		sheet: Sheet;
		/** Whether it is the one that was left in this browser. */
		restored: boolean;
		zone: string;
		onnew: () => void;
		/** Takes the other window's version. */
		onother: () => void;
		/** Other sheets in this browser that the server does not have. */
		unsaved: readonly KeptSheet[];
		/** What was done to the sheet before. */
		said: { readonly text: string; readonly undo: unknown } | null;
		/** Brings back what was deleted. */
		onundo: () => void;
	} = $props();
	const signIn = $derived(`/sign-in?to=${encodeURIComponent(`/write?sheet=${sheet.sheetKey}`)}`);
</script>

{#if sheet.signedOut}
	<InlineNotification
		kind="warning"
		lowContrast
		hideCloseButton
		title="Your session has ended."
		subtitle="What you type is kept in this browser. Signing in leads back to this sheet."
	>
		<svelte:fragment slot="actions">
			<Button kind="ghost" size="small" href={signIn} data-sveltekit-reload>Sign in</Button>
		</svelte:fragment>
	</InlineNotification>
{/if}
{#if said}
	<p class="small said" role="status">
		{said.text}
		{#if said.undo}<button class="plain" onclick={onundo}>Bring it back</button>{/if}
	</p>
{/if}
<UnsavedSheets sheets={unsaved} />
{#if restored && !sheet.other && sheet.sentAs === null}
	<InlineNotification
		kind="info"
		lowContrast
		hideCloseButton
		title="This is the sheet you left here."
	>
		<svelte:fragment slot="actions">
			<Button kind="ghost" size="small" on:click={onnew}>Start a new one</Button>
		</svelte:fragment>
	</InlineNotification>
{/if}
{#if sheet.other}
	<InlineNotification
		kind="warning"
		lowContrast
		hideCloseButton
		title="This sheet was changed in another window."
		subtitle="There it was saved {nearTime(
			sheet.other.savedAt,
			bench.now,
			zone
		)}, with the subject “{sheet.other.wording.words
			.subject}”. Until you choose, this one is kept in this browser only."
	>
		<svelte:fragment slot="actions">
			<Button kind="ghost" size="small" on:click={onother}>Use that one</Button>
			<Button kind="ghost" size="small" on:click={() => sheet.keepThis()}>Keep this one</Button>
		</svelte:fragment>
	</InlineNotification>
{:else if sheet.sentAs !== null}
	<InlineNotification
		kind="warning"
		lowContrast
		hideCloseButton
		title="This sheet has been sent from another window."
	>
		<svelte:fragment slot="actions">
			<Button kind="ghost" size="small" href="/reach/{sheet.sentAs}">See it in Reach</Button>
			<Button kind="ghost" size="small" on:click={onnew}>Start a new one</Button>
		</svelte:fragment>
	</InlineNotification>
{/if}
