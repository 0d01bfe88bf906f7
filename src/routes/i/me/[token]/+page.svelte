<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import { comingPhrases } from '$lib/core/copy/coming-phrases';
	import { slotWords } from '$lib/core/talk/invitation';
	import { guestPhrases } from '$lib/core/copy/guest-phrases';
	import { fillPhrase } from '$lib/core/copy/phrases';
	import Coming from '$lib/ui/family/Coming.svelte';
	import JoinPage from '$lib/ui/joining/JoinPage.svelte';
	import { readerTimes } from '$lib/ui/parts/reader-when';

	/** The page of somebody from outside who answered an invitation: it was they, and what they say. */
	let { data, form } = $props();
	const words = $derived(comingPhrases(data.language));
	const times = $derived(readerTimes(data));
	const slot = $derived(data.invitation.slots.find((s) => s.id === data.wanted.slot));
	const said = $derived.by(() => {
		const n = String(data.wanted.people);
		if (!data.wanted.comes) return words.notComing;
		return slot
			? fillPhrase(words.haveAt, { slot: slotWords(slot, times.when), n })
			: fillPhrase(words.have, { n });
	});
</script>

<JoinPage language={words.tag} title={data.subject} district={data.district} offered={data.offered}>
	<p class="quiet"><span dir="auto">{data.name}</span>, <span dir="ltr">{data.address}</span></p>
	{#if data.confirmed || (form && !form.fault)}
		<Coming
			invitation={data.invitation}
			language={words.tag}
			heading="h2"
			whenOf={times.when}
			action="?/change"
			fault={form?.fault ?? ''}
		/>
	{:else if !data.fresh || !data.invitation.open}
		<p>{words.closed}</p>
	{:else}
		{#if form?.fault}<p class="fail" role="alert">{form.fault}</p>{/if}
		<p dir="auto">{said}</p>
		<form method="post" action="?/confirm" use:enhance>
			<Button type="submit">{guestPhrases(words.tag).confirm}</Button>
		</form>
	{/if}
</JoinPage>
