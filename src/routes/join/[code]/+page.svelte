<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, RadioButton, RadioButtonGroup, TextInput } from 'carbon-components-svelte';
	import { joinPhrases } from '$lib/core/copy/join-phrases';
	import { fillPhrase } from '$lib/core/copy/phrases';
	import JoinPage from '$lib/ui/joining/JoinPage.svelte';
	import JoinerFields from '$lib/ui/joining/JoinerFields.svelte';
	import { keepTyped } from '$lib/ui/parts/keep-typed';

	/** Asks to join an open group: a letter or a text to the address asks back. */
	let { data, form } = $props();
	const words = $derived(joinPhrases(data.language));
	const of = $derived({ group: data.group, to: form?.to ?? '' });
	const fault = $derived(form?.fault ?? null);
	// svelte-ignore state_referenced_locally
	let way = $state<string>(form?.typed.way ?? 'email');
</script>

<JoinPage
	language={words.tag}
	title={fillPhrase(words.title, of)}
	district={data.district}
	offered={data.offered}
>
	{#if form?.to}
		<p role="status" dir="auto">{fillPhrase(words.asked, of)}</p>
	{:else if data.over}
		<p>{fillPhrase(words.ended, of)}</p>
	{:else}
		<form method="post" use:enhance={keepTyped}>
			{#if fault}<p class="fail" role="alert">{fillPhrase(words[fault], of)}</p>{/if}
			<JoinerFields
				{words}
				language={words.tag}
				name={form?.typed.name ?? ''}
				student={form?.typed.student ?? ''}
			/>
			{#if data.byText}
				<RadioButtonGroup legendText={words.way} name="way" bind:selected={way}>
					<RadioButton value="email" labelText={words.email} />
					<RadioButton value="text" labelText={words.phone} />
				</RadioButtonGroup>
			{/if}
			<TextInput
				name="address"
				labelText={way === 'text' ? words.phone : words.email}
				value={form?.typed.address ?? ''}
				inputmode={way === 'text' ? 'tel' : 'email'}
				autocomplete={way === 'text' ? 'tel' : 'email'}
				dir="ltr"
				maxlength={320}
			/>
			<Button type="submit">{words.join}</Button>
			<p class="small quiet">{words.then}</p>
		</form>
	{/if}
</JoinPage>
