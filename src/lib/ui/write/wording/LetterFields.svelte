<script lang="ts">
	import { TextInput } from 'carbon-components-svelte';
	import { languageDirection } from '$lib/core/copy/direction';
	import type { LetterWords } from '$lib/core/copy/words';
	import Editor from './Editor.svelte';
	import type { Sheet } from '../sheet/sheet.svelte';

	/** The subject and the words of a letter in one language. */
	let {
		sheet,
		letter,
		language,
		fileLimit,
		onchange
	}: {
		/** What undo belongs to. */
		sheet: Sheet;
		letter: LetterWords;
		language: string;
		fileLimit: number;
		onchange: (change: Partial<LetterWords>) => void;
	} = $props();
	const direction = $derived(languageDirection(language));
</script>

<TextInput
	labelText="Subject"
	value={letter.subject}
	on:input={(e) => onchange({ subject: String(e.detail ?? '') })}
	autocomplete="off"
	dir={direction === 'rtl' ? 'rtl' : 'auto'}
	lang={language}
/>
<Editor
	doc={letter.body}
	{language}
	{direction}
	onchange={(body) => onchange({ body })}
	{fileLimit}
	onundo={() => sheet.undo()}
	onredo={() => sheet.redo()}
/>
