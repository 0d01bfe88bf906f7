<script lang="ts">
	import { Button } from 'carbon-components-svelte';
	import { exchangesOf, plainDoc, plainText, type Exchange } from '$lib/core/copy/plain-signs';
	import { measureText } from '$lib/core/copy/segments';
	import { septetsOf } from '$lib/core/copy/gsm7';
	import { textWriter } from '$lib/core/copy/text-writer';
	import { bodyText } from '$lib/core/copy/plain';
	import { holdsWhole } from '$lib/core/copy/short-text';
	import type { CopyFacts } from '$lib/core/copy/values';
	import { withOwn, withWords, wordsFor, type Words } from '$lib/core/copy/words';
	import { manyParts } from '$lib/core/plan/check-wording';
	import { bench } from '../../parts/bench.svelte';
	import type { Sheet } from '../sheet/sheet.svelte';

	/** The text as a phone gets it, its true length, and what makes it longer than it need be. */
	let {
		sheet,
		senderName,
		zone,
		publicUrl,
		partCents
	}: {
		sheet: Sheet;
		senderName: string;
		zone: string;
		publicUrl: string;
		/** Price of one part, cents; 0 where none is set. */
		partCents: number;
	} = $props();

	/** As long as every copy's link: 128 bits in base64url are 22 characters. */
	const link = $derived(`${publicUrl}/f/${'x'.repeat(22)}`);
	const nobody: CopyFacts = { given: '', full: '', students: [] };
	/** Whose text is shown: one of middling length, with that recipient's own values. */
	const sample = $derived(sheet.texts?.typical);
	const reader = $derived(wordsFor(sheet.wording, sample?.language ?? sheet.wording.language));
	const minute = $derived(Math.floor(bench.now / 60_000) * 60_000);
	/** What it asks by text; of an earlier invitation only the server knows whether an answer by text says all of it. */
	const asks = $derived(
		sheet.invitation?.kind === 'asks'
			? { until: 0, zone, byText: sheet.invitation.slots.length === 0 }
			: sheet.invitation && (sheet.texts?.asks ?? null)
	);
	function textOf(words: Words): string {
		const frame = { signature: { name: senderName, line: '' }, zone, leavesAt: minute, asks };
		return textWriter(words, reader.language, frame).write(sample?.facts ?? nobody, link);
	}
	const words = $derived(reader.words);
	const own = $derived(words.own.text ?? null);
	const text = $derived(textOf(words));
	const length = $derived(measureText(text));
	/** Of what the phone gets: your name forces 16 bits too. */
	const forcing = $derived(exchangesOf(text));
	/** Of all that is written, also behind the cut: an exchange changes it all, so all is shown. */
	const written = $derived(own ? own.text : `${words.subject} ${bodyText(words.body)}`);
	const exchanges = $derived(exchangesOf(written));
	const signs = $derived(exchanges.filter((e) => e.kind === 'sign' && e.plain !== null));
	const letters = $derived(exchanges.filter((e) => e.kind === 'letter'));
	const staying = $derived(forcing.filter((e) => e.plain === null));
	const plainWords = (withLetters: boolean): Words => {
		const options = { letters: withLetters };
		return own
			? withOwn(words, 'text', { ...own, text: plainText(own.text, options) })
			: {
					...words,
					subject: plainText(words.subject, options),
					body: plainDoc(words.body, options)
				};
	};
	const whole = (made: string, of: Words) => own !== null || holdsWhole(made, bodyText(of.body));
	/** "2 parts, with the whole wording". */
	function sized(of: Words): string {
		const made = textOf(of);
		return `${parts(measureText(made).parts)}, ${whole(made, of) ? 'with the whole wording' : 'the wording is cut'}`;
	}
	const money = new Intl.NumberFormat('en-US', { style: 'currency', currency: 'USD' });
	const price = (count: number) =>
		partCents > 0 ? `, about ${money.format((count * partCents) / 100)}` : '';

	const parts = (n: number) => `${n} ${n === 1 ? 'part' : 'parts'}`;
	const shown = (e: Exchange) => `${e.char} (${e.name}${e.count > 1 ? `, ${e.count} times` : ''})`;
	/** "– long dash → -": what is exchanged for what, those that become the same together. */
	function swaps(list: readonly Exchange[]): string {
		const groups: { chars: string; name: string; plain: string }[] = [];
		for (const { char, name, plain } of list) {
			const word = plain === '' ? 'nothing' : plain === ' ' ? 'space' : (plain ?? '');
			const like = groups.find((g) => g.name === name && g.plain === word);
			if (like) like.chars += ` ${char}`;
			else groups.push({ chars: char, name, plain: word });
		}
		return groups.map((g) => `${`${g.chars} ${g.name}`.trim()} → ${g.plain}`).join(', ');
	}

	/** Runs of characters that 7 bits hold, and of those that they do not. */
	const runs = $derived.by(() => {
		const list: { text: string; forcing: boolean }[] = [];
		for (const char of text) {
			const forcing = septetsOf(char) === undefined;
			const last = list.at(-1);
			if (last && last.forcing === forcing) last.text += char;
			else list.push({ text: char, forcing });
		}
		return list;
	});
	function exchange(withLetters: boolean) {
		sheet.wording = withWords(sheet.wording, reader.language, plainWords(withLetters));
	}
	const setOwn = (next: Words['own']['text']) =>
		(sheet.wording = withWords(sheet.wording, reader.language, withOwn(words, 'text', next)));
</script>

<details class="meter">
	<summary>
		<b>As a text</b>
		<span class:heed={length.alphabet === '16-bit'}
			>{parts(length.parts)}, {length.units} of {length.unitsPerPart * Math.max(1, length.parts)}
			{length.alphabet === '7-bit' ? 'characters' : '16-bit characters'}{whole(text, words)
				? ''
				: '; the wording is cut'}</span
		>
		{#if sheet.texts}
			<span class="quiet"
				>{sheet.texts.texts}
				{sheet.texts.texts === 1 ? 'text' : 'texts'}, {parts(sheet.texts.parts)}{price(
					sheet.texts.parts
				)}</span
			>
		{/if}
	</summary>
	{#if length.alphabet === '16-bit'}
		<p class="small">
			A part holds {length.parts > 1 ? 67 : 70} characters instead of {length.parts > 1
				? 153
				: 160}, because of
			<span dir="auto">{forcing.map(shown).join(', ')}</span>.
		</p>
		<div class="do">
			{#if signs.length > 0}
				<Button size="small" kind="tertiary" on:click={() => exchange(false)}>
					Exchange {swaps(signs)}: {sized(plainWords(false))}
				</Button>
			{/if}
			{#if letters.length > 0}
				<Button size="small" kind="ghost" on:click={() => exchange(true)}>
					Exchange {swaps([...signs, ...letters])}: {sized(plainWords(true))}
				</Button>
			{/if}
		</div>
		{#if staying.length > 0 && letters.length + signs.length === 0}
			<p class="small quiet">
				Nothing plain stands for {staying.map((e) => e.char).join(' ')}; without it the text would
				be shorter.
			</p>
		{/if}
	{:else}
		<p class="small quiet">
			{length.unitsLeft} left before it takes one more part.
		</p>
	{/if}
	<p class="phone" dir="auto">
		{#each runs as run, i (i)}{#if run.forcing}<mark>{run.text}</mark>{:else}{run.text}{/if}{/each}
	</p>
	<p class="small quiet">
		{own
			? 'The text has its own wording. Your name stands at its end.'
			: "The subject, as much of the wording as fits, your name, and a link to the whole that is each person's own."}
		{#if sample}It is shown as {sample.name} gets it.{/if}
	</p>
	{#if own && (length.parts > manyParts || (sheet.letter.files.length > 0 && !own.link))}
		<div class="do">
			{#if length.parts > manyParts}
				<Button size="small" kind="tertiary" on:click={() => setOwn(undefined)}
					>Send its beginning and the link instead, in 2 parts at most</Button
				>
			{/if}
			{#if !own.link}
				<Button size="small" kind="tertiary" on:click={() => setOwn({ ...own, link: true })}
					>Add the link to the whole message{sheet.letter.files.length > 0
						? ' and its files'
						: ''}</Button
				>
			{/if}
		</div>
	{/if}
	{#if sheet.texts && (sheet.texts.byLanguage.length > 1 || sheet.texts.shortest.length.units !== sheet.texts.longest.length.units)}
		<table class="small">
			<thead>
				<tr
					><th>Wording</th><th>Texts</th><th>Parts</th>{#if partCents > 0}<th>Cost</th>{/if}</tr
				>
			</thead>
			<tbody>
				{#each sheet.texts.byLanguage as line (line.language)}
					<tr>
						<td>{line.name}</td><td>{line.texts}</td><td>{line.parts}</td>
						{#if partCents > 0}<td>{money.format((line.parts * partCents) / 100)}</td>{/if}
					</tr>
				{/each}
			</tbody>
		</table>
		<p class="small quiet">
			Shortest {parts(sheet.texts.shortest.length.parts)}, {sheet.texts.shortest.length.units} ({sheet
				.texts.shortest.name}); longest {parts(sheet.texts.longest.length.parts)},
			{sheet.texts.longest.length.units} ({sheet.texts.longest.name}).
		</p>
	{/if}
</details>

<style>
	.meter {
		border-top: 1px solid var(--line);
		padding-top: 8px;
	}
	summary {
		cursor: pointer;
	}
	summary span {
		margin-inline-start: 10px;
	}
	.meter p {
		margin-top: 6px;
	}
	.do {
		display: flex;
		flex-wrap: wrap;
		gap: 8px;
		margin-top: 6px;
	}
	.phone {
		max-width: 330px;
		border: 1px solid var(--line);
		border-inline-start: 3px solid var(--text);
		padding: 8px 12px;
		white-space: pre-wrap;
		overflow-wrap: anywhere;
	}
	table {
		border-collapse: collapse;
		margin-top: 8px;
	}
	th,
	td {
		text-align: right;
		padding: 2px 14px 2px 0;
		border-bottom: 1px solid var(--line);
	}
	th:first-child,
	td:first-child {
		text-align: start;
	}
	mark {
		background: var(--tint-heed);
		color: var(--heed);
		font-weight: 700;
	}
</style>
