<script lang="ts">
	import type { Snippet } from 'svelte';
	import { Button, Checkbox, InlineNotification } from 'carbon-components-svelte';
	import type { TriedOut } from '$lib/server/desk/district/types';
	import Arrived from './Arrived.svelte';
	import BusyForm from './BusyForm.svelte';
	import TriedSteps from './TriedSteps.svelte';

	/** The form of a provider: what came of trying it, whether what was sent arrived, and its fields. */
	let {
		what,
		heard,
		form,
		trying,
		children
	}: {
		/** What is sent to try it: "letter", "text". */
		what: string;
		heard: 'open' | 'here' | 'none';
		form: { why?: string; codeWhy?: string; tried?: TriedOut } | null;
		/** What stands on the button meanwhile. */
		trying: string;
		children: Snippet;
	} = $props();
	const tried = $derived(form?.tried);
</script>

{#if form?.why}
	<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
{/if}
{#if tried}<TriedSteps {tried} />{/if}
<Arrived {what} {heard} why={form?.codeWhy} />

<BusyForm action="?/try">
	{#snippet fields(busy)}
		{@render children()}
		{#if tried && !tried.kept}
			<Checkbox name="anyway" value="yes" labelText="Keep it although it does not work yet" />
		{/if}
		<Button type="submit" disabled={busy}>{busy ? trying : 'Try it, and keep it'}</Button>
	{/snippet}
</BusyForm>
