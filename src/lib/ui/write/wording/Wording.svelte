<script lang="ts">
	import { Button, Checkbox, TextArea } from 'carbon-components-svelte';
	import { bodyText } from '$lib/core/copy/plain';
	import { ways, type Way } from '$lib/core/roster/way';
	import { wordsIn, withOwn, withWords, type LetterWords, type Words } from '$lib/core/copy/words';
	import WayMark from '../../parts/WayMark.svelte';
	import KeptWordings from './KeptWordings.svelte';
	import LetterFields from './LetterFields.svelte';
	import Languages from './Languages.svelte';
	import type { Sheet } from '../sheet/sheet.svelte';

	/** What it says: by language, and by each way that has its own words. */
	let { sheet, fileLimit }: { sheet: Sheet; fileLimit: number } = $props();

	let keptOpen = $state(false);
	/** The language that is written in; one that is gone gives way to the original. */
	let chosen = $state('');
	const language = $derived(
		sheet.wording.variants.some((v) => v.language === chosen) ? chosen : sheet.wording.language
	);
	/** Whose words are shown: those of all ways, or one way's own. */
	let tab = $state<'all' | Way>('all');
	const words = $derived(wordsIn(sheet.wording, language));
	const shown = $derived(tab !== 'all' && words.own[tab] ? tab : 'all');
	const ownWays = $derived(ways.filter((w) => words.own[w]));
	const letter = $derived<LetterWords>(
		shown === 'email' || shown === 'inbox' ? words.own[shown]! : words
	);

	const put = (next: Words) => (sheet.wording = withWords(sheet.wording, language, next));
	function putLetter(change: Partial<LetterWords>) {
		if (shown === 'email' || shown === 'inbox') {
			put(withOwn(words, shown, { ...words.own[shown]!, ...change }));
		} else put({ ...words, ...change });
	}
	/** Gives a way its own words, begun from those of all. */
	function giveOwn(way: Way) {
		if (way === 'text') {
			const text = `${words.subject.trim()}. ${bodyText(words.body)}`.replace(/\s+/g, ' ').trim();
			put(withOwn(words, 'text', { text: text === '.' ? '' : text, link: true }));
		} else put(withOwn(words, way, { subject: words.subject, body: words.body }));
		tab = way;
	}
	function giveUp(way: Way) {
		put(withOwn(words, way, undefined));
		tab = 'all';
	}
	const open = $derived(sheet.ways.filter((w) => !words.own[w]));
	/** The ways that the words of all are for. */
	const common = $derived(
		ownWays.length === 0 ? 'all ways' : open.length > 0 ? open.join(' and ') : 'no way'
	);
</script>

<div class="wording">
	<Languages {sheet} {language} onchoose={(tag) => (chosen = tag)} />
	<div class="for" role="group" aria-label="Whose words">
		<button type="button" class="tab" aria-pressed={shown === 'all'} onclick={() => (tab = 'all')}
			>for {common}</button
		>
		{#each ownWays as way (way)}
			<button type="button" class="tab" aria-pressed={shown === way} onclick={() => (tab = way)}>
				<WayMark {way} />
				{way} has its own
			</button>
		{/each}
		{#if open.length > 0 && shown === 'all'}
			<span class="quiet small">own words for</span>
			{#each open as way (way)}
				<button type="button" class="plain" onclick={() => giveOwn(way)}>{way}</button>
			{/each}
		{:else if shown !== 'all'}
			<button type="button" class="plain" onclick={() => giveUp(shown)}>delete its own words</button
			>
		{/if}
		<span class="end">
			<button type="button" class="plain" onclick={() => (keptOpen = true)}>kept wording</button>
			<a class="small" href="/write/proof">proof</a>
		</span>
	</div>
	{#if shown === 'text' && words.own.text}
		<div class="owntext">
			<TextArea
				labelText="Words of the text"
				rows={6}
				value={words.own.text.text}
				dir="auto"
				lang={language}
				on:input={(e) =>
					put(
						withOwn(words, 'text', {
							...words.own.text!,
							text: (e.target as HTMLTextAreaElement).value
						})
					)}
			/>
			<Checkbox
				labelText="with the link to the whole message"
				checked={words.own.text.link}
				on:check={(e) => put(withOwn(words, 'text', { ...words.own.text!, link: e.detail }))}
			/>
			<p class="quiet small">Your name stands at the end. Fields are typed: {'{{student}}'}.</p>
		</div>
	{:else}
		<LetterFields {sheet} {letter} {language} {fileLimit} onchange={putLetter} />
	{/if}
	{#if shown === 'text'}
		<div class="do">
			<Button kind="ghost" size="small" on:click={() => giveUp('text')}
				>Use the short form with the link instead</Button
			>
		</div>
	{/if}
</div>

<KeptWordings {sheet} bind:open={keptOpen} />

<style>
	.wording {
		flex: 1;
		min-height: 0;
		display: flex;
		flex-direction: column;
		gap: 8px;
	}
	.wording > :global(.bx--form-item) {
		flex: none;
	}
	.wording :global(.bx--text-input) {
		height: 38px;
		font-size: 18px;
		font-weight: 600;
	}
	.for {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 2px 8px;
	}
	.end {
		align-items: center;
		margin-inline-start: auto;
		display: inline-flex;
		gap: 14px;
	}
	.tab {
		display: inline-flex;
		align-items: center;
		gap: 5px;
		border: 0;
		border-bottom: 2px solid transparent;
		background: none;
		padding: 3px 2px;
		font: inherit;
		color: var(--ink);
		cursor: pointer;
	}
	.tab[aria-pressed='true'] {
		border-bottom-color: var(--action);
		font-weight: 600;
	}
	.owntext {
		display: grid;
		gap: 8px;
		max-width: 520px;
	}
	.owntext :global(textarea) {
		font-size: 16px;
	}
</style>
