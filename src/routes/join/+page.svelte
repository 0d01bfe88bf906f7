<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, TextInput } from 'carbon-components-svelte';
	import { joinPhrases } from '$lib/core/copy/join-phrases';
	import JoinPage from '$lib/ui/joining/JoinPage.svelte';
	import { keepTyped } from '$lib/ui/parts/keep-typed';

	/** Takes the code of an open group. */
	let { data, form } = $props();
	const words = $derived(joinPhrases(data.language));
</script>

<JoinPage language={words.tag} title={words.code} district={data.district} offered={data.offered}>
	<form method="post" use:enhance={keepTyped}>
		<TextInput
			name="code"
			hideLabel
			labelText={words.code}
			value={form?.code ?? ''}
			autocapitalize="characters"
			autocomplete="off"
			invalid={!!form?.fault}
			invalidText={form?.fault ? words[form.fault] : ''}
		/>
		<Button type="submit">{words.find}</Button>
	</form>
</JoinPage>
