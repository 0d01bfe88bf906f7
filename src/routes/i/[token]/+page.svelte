<script lang="ts">
	import { TextInput } from 'carbon-components-svelte';
	import { guestPhrases } from '$lib/core/copy/guest-phrases';
	import { fillPhrase } from '$lib/core/copy/phrases';
	import Coming from '$lib/ui/family/Coming.svelte';
	import JoinPage from '$lib/ui/joining/JoinPage.svelte';
	import { readerTimes } from '$lib/ui/parts/reader-when';

	/** The page of an invitation that anybody can answer: a letter to the address asks whether it was they. */
	let { data, form } = $props();
	const words = $derived(guestPhrases(data.language));
	const times = $derived(readerTimes(data));
</script>

<JoinPage language={words.tag} title={data.subject} district={data.district} offered={data.offered}>
	{#if form?.to}
		<p role="status" dir="auto">{fillPhrase(words.asked, { to: form.to })}</p>
	{:else}
		<p>{words.openLead}</p>
		<Coming
			invitation={data.invitation}
			language={words.tag}
			heading="h2"
			whenOf={times.when}
			action=""
			fault={form?.fault ?? ''}
		>
			{#snippet more()}
				<TextInput
					name="name"
					labelText={words.name}
					value={form?.typed.name ?? ''}
					autocomplete="name"
					maxlength={200}
					dir="auto"
				/>
				<TextInput
					name="address"
					labelText={words.email}
					value={form?.typed.address ?? ''}
					inputmode="email"
					autocomplete="email"
					dir="ltr"
					maxlength={320}
				/>
			{/snippet}
		</Coming>
	{/if}
</JoinPage>
