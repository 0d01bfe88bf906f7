<script lang="ts">
	import { TextInput } from 'carbon-components-svelte';
	import type { JoinPhrases } from '$lib/core/copy/join-phrases';

	/** Who joins: a name, and a student if there is one. */
	let {
		words,
		name,
		student,
		language
	}: { words: JoinPhrases; name: string; student: string; language: string } = $props();
</script>

<input type="hidden" name="language" value={language} />
<TextInput name="name" labelText={words.name} value={name} autocomplete="name" maxlength={200} />
<TextInput name="student" labelText={words.student} value={student} maxlength={200} />
