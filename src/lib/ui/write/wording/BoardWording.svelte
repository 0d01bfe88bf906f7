<script lang="ts">
	import { letterWords, withOwn, withWords, wordsIn, type LetterWords } from '$lib/core/copy/words';
	import Languages from './Languages.svelte';
	import LetterFields from './LetterFields.svelte';
	import type { Sheet } from '../sheet/sheet.svelte';

	/** What boards say of an announcement, by language: what its inbox copies said to begin with. */
	let { sheet, fileLimit }: { sheet: Sheet; fileLimit: number } = $props();
	let chosen = $state('');
	const language = $derived(
		sheet.wording.variants.some((v) => v.language === chosen) ? chosen : sheet.wording.language
	);
	const words = $derived(wordsIn(sheet.wording, language));
	const letter = $derived(letterWords(words, 'inbox'));
	function put(change: Partial<LetterWords>) {
		const next = words.own.inbox
			? withOwn(words, 'inbox', { ...words.own.inbox, ...change })
			: { ...words, ...change };
		sheet.wording = withWords(sheet.wording, language, next);
	}
</script>

<div class="wording">
	<Languages {sheet} {language} onchoose={(tag) => (chosen = tag)} />
	<LetterFields {sheet} {letter} {language} {fileLimit} onchange={put} />
</div>

<style>
	.wording {
		display: flex;
		flex-direction: column;
		gap: 8px;
		min-height: 420px;
	}
</style>
