<script lang="ts">
	import { nameOfLanguage } from '$lib/core/copy/language';
	import { diffWords } from 'diff';
	import { Button } from 'carbon-components-svelte';
	import { bodyText } from '$lib/core/copy/plain';
	import { isOutOfDate } from '$lib/core/copy/stale';
	import { putVariant, withVariant, type Variant, type Words } from '$lib/core/copy/words';
	import { postJson } from '../../parts/post-json';
	import type { Sheet } from '../sheet/sheet.svelte';

	/** The languages of those who get it: how many read each, and the wording they get. */
	let {
		sheet,
		language,
		onchoose
	}: { sheet: Sheet; language: string; onchoose: (tag: string) => void } = $props();

	const wording = $derived(sheet.wording);
	/** Languages asked about that have no wording yet. */
	let asked = $state<string | null>(null);
	let working = $state(false);
	let trouble = $state('');

	interface Chip {
		readonly tag: string;
		readonly name: string;
		readonly people: number;
		readonly variant: Variant | null;
		readonly original: boolean;
	}
	const chips = $derived.by((): Chip[] => {
		const counts = sheet.landing?.languages ?? [];
		const tags = [
			wording.language,
			...new Set([...counts.map((c) => c.language), ...wording.variants.map((v) => v.language)])
		].filter((tag, i, all) => all.indexOf(tag) === i);
		return tags.map((tag) => ({
			tag,
			name: nameOfLanguage(tag),
			people: counts.find((c) => c.language === tag)?.people ?? 0,
			variant: wording.variants.find((v) => v.language === tag) ?? null,
			original: tag === wording.language
		}));
	});
	const variant = $derived(wording.variants.find((v) => v.language === language) ?? null);
	const missing = $derived(
		asked !== null && !chips.find((c) => c.tag === asked)?.variant ? asked : null
	);
	const people = $derived(chips.find((c) => c.tag === missing)?.people ?? 0);

	function choose(chip: Chip) {
		trouble = '';
		if (chip.variant || chip.original) {
			asked = null;
			onchoose(chip.tag);
		} else asked = chip.tag;
	}
	const change = (edit: (v: Variant) => Variant) =>
		(sheet.wording = withVariant(wording, language, edit));
	function byHand(tag: string) {
		sheet.wording = putVariant(wording, {
			language: tag,
			words: wording.words,
			checked: true,
			basis: wording.words,
			off: false
		});
		asked = null;
		onchoose(tag);
	}
	async function draft(tag: string) {
		working = true;
		trouble = '';
		const basis = wording.words;
		const answer = await postJson<{ ok: boolean; words: Words }>('/write/translate', {
			words: basis,
			from: wording.language,
			to: tag
		});
		working = false;
		if (!answer.ok) {
			trouble = answer.why;
			return;
		}
		sheet.wording = putVariant(sheet.wording, {
			language: tag,
			words: answer.body.words,
			checked: false,
			basis,
			off: false
		});
		asked = null;
		onchoose(tag);
	}
	function takeOut() {
		sheet.wording = {
			...wording,
			variants: wording.variants.filter((v) => v.language !== language)
		};
		onchoose(wording.language);
	}
	const plain = (words: Words) => `${words.subject}\n\n${bodyText(words.body)}`;
	const changes = $derived(
		variant && isOutOfDate(wording, variant)
			? // Words that have nothing in common any more would be compared for minutes.
				(diffWords(plain(variant.basis), plain(wording.words), { timeout: 300 }) ?? [])
			: []
	);
	/** What stands around a change, cut to what helps to find it. */
	const around = (text: string) =>
		text.length > 60 ? `${text.slice(0, 24)} … ${text.slice(-24)}` : text;
	const stateOf = (v: Variant) =>
		v.off ? 'off' : isOutOfDate(wording, v) ? 'out of date' : v.checked ? '' : 'draft';
</script>

{#if chips.length > 1}
	<div class="languages" role="group" aria-label="Languages">
		{#each chips as chip (chip.tag)}
			{@const state = chip.variant ? stateOf(chip.variant) : ''}
			<button
				type="button"
				class="chip"
				class:none={!chip.variant && !chip.original}
				aria-pressed={missing === null ? language === chip.tag : missing === chip.tag}
				onclick={() => choose(chip)}
			>
				<span lang={chip.tag}>{chip.name}</span>
				<b>{chip.people}</b>
				{#if chip.original}<span class="note">original</span>
				{:else if !chip.variant}<span class="note">none yet</span>
				{:else if state}<span class="note heed">{state}</span>{/if}
			</button>
		{/each}
	</div>
{/if}
{#if trouble}<p class="fail small" role="alert">{trouble}</p>{/if}
{#if missing !== null}
	<div class="ask small">
		<span>
			{people === 0
				? `Nobody here reads ${nameOfLanguage(missing)}.`
				: `${people} ${people === 1 ? 'person reads' : 'people read'} ${nameOfLanguage(missing)} and ${people === 1 ? 'gets' : 'get'} the original.`}
		</span>
		<Button size="small" kind="tertiary" disabled={working} on:click={() => draft(missing)}>
			{working ? 'Drafting…' : 'Let the translator draft it'}
		</Button>
		<Button size="small" kind="ghost" on:click={() => byHand(missing)}>Write it by hand</Button>
		<button class="plain" onclick={() => (asked = null)}>leave it</button>
	</div>
{:else if variant}
	<div class="ask small">
		{#if variant.off}
			<span>Switched off: its readers get the original.</span>
			<button class="plain" onclick={() => change((v) => ({ ...v, off: false }))}>switch on</button>
		{:else}
			{#if changes.length > 0}
				<div class="diff">
					The original has changed:
					<span dir="auto"
						>{#each changes as c, i (i)}{#if c.added}<ins>{c.value}</ins>{:else if c.removed}<del
									>{c.value}</del
								>{:else}{around(c.value)}{/if}{/each}</span
					>
				</div>
				<button
					class="plain"
					onclick={() => change((v) => ({ ...v, basis: wording.words, checked: true }))}
					>it fits again</button
				>
			{:else if !variant.checked}
				<span>Drafted by the translator; nobody has looked it over.</span>
				<button class="plain" onclick={() => change((v) => ({ ...v, checked: true }))}
					>I have looked it over</button
				>
			{:else}
				<span>Looked over.</span>
			{/if}
			<button class="plain" disabled={working} onclick={() => draft(variant.language)}
				>{working ? 'drafting…' : 'draft it anew'}</button
			>
			<button class="plain" onclick={() => change((v) => ({ ...v, off: true }))}>switch off</button>
		{/if}
		<button class="plain" onclick={takeOut}>take out</button>
	</div>
{/if}

<style>
	.languages {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 6px;
	}
	.chip {
		display: inline-flex;
		align-items: baseline;
		gap: 6px;
		padding: 3px 9px;
		border: 1px solid var(--line);
		border-radius: var(--corner);
		background: var(--paper);
		font: inherit;
		font-size: 13.5px;
		color: var(--ink);
		cursor: pointer;
	}
	.chip.none {
		border-style: dashed;
		color: var(--quiet);
	}
	.chip[aria-pressed='true'] {
		background: var(--sheet);
		box-shadow: inset 0 -2px 0 var(--action);
	}
	.note {
		font-size: 12.5px;
		color: var(--quiet);
	}
	.note.heed {
		color: var(--heed);
	}
	.ask {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 4px 14px;
		padding: 6px 10px;
		background: var(--wash);
	}
	.diff {
		flex-basis: 100%;
		max-height: 84px;
		overflow: auto;
		white-space: pre-wrap;
	}
	ins {
		background: var(--tint-good);
		text-decoration: none;
		font-weight: 600;
	}
	del {
		color: var(--fail);
	}
</style>
