<script lang="ts">
	import { Checkbox, Select, SelectItem, TextInput } from 'carbon-components-svelte';
	import type { Sheet } from '../sheet/sheet.svelte';

	/** Who signs, where answers go, what names the section; an announcement asks for no answers. */
	let {
		sheet,
		name,
		line,
		address
	}: {
		sheet: Sheet;
		name: string;
		line: string;
		/** The sender's own address, to which answers go if no other is given. */
		address: string | null;
	} = $props();

	const languages = [
		['en', 'English'],
		['es', 'Spanish'],
		['pt', 'Portuguese'],
		['vi', 'Vietnamese'],
		['ar', 'Arabic']
	] as const;
	const change = (part: Partial<Sheet['letter']>) => (sheet.letter = { ...sheet.letter, ...part });
</script>

<details class="settings">
	<summary>
		<b>{name}</b> <span class="quiet">{line}</span>
		<span class="quiet small">
			{sheet.kind === 'announcement'
				? 'one-way, no address for answers'
				: sheet.letter.replyTo.trim() || address
					? `answers are passed on to ${sheet.letter.replyTo.trim() || address}`
					: 'answers are kept here; no address to pass them on to'}
		</span>
	</summary>
	<div class="grid">
		{#if sheet.kind === 'message'}<TextInput
				size="sm"
				labelText="Answers are passed on to"
				placeholder={address ?? 'none'}
				value={sheet.letter.replyTo}
				on:input={(e) => change({ replyTo: String(e.detail ?? '') })}
			/>{/if}
		<Select
			size="sm"
			labelText="The original is written in"
			selected={sheet.wording.language}
			on:update={(e) => {
				const language = String(e.detail);
				sheet.wording = {
					...sheet.wording,
					language,
					variants: sheet.wording.variants.filter((v) => v.language !== language)
				};
			}}
		>
			{#each languages as [tag, word] (tag)}<SelectItem value={tag} text={word} />{/each}
		</Select>
		<div>
			<Checkbox
				labelText="Section’s name at the head of emails"
				checked={sheet.letter.sectionBefore}
				on:check={(e) => change({ sectionBefore: e.detail })}
			/>
			<Checkbox
				labelText="Section, period and teacher below the words"
				checked={sheet.letter.sectionLine}
				on:check={(e) => change({ sectionLine: e.detail })}
			/>
		</div>
	</div>
</details>

<style>
	.settings {
		border-top: 1px solid var(--line);
		padding-top: 8px;
	}
	summary {
		cursor: pointer;
	}
	summary .small {
		margin-inline-start: 10px;
		overflow-wrap: anywhere;
	}
	.grid {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(220px, 1fr));
		gap: 10px 20px;
		margin-top: 8px;
		align-items: start;
	}
</style>
