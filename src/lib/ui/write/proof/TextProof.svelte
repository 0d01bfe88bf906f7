<script lang="ts">
	import { Button, TextInput } from 'carbon-components-svelte';
	import { phoneText } from '$lib/core/format/phone';
	import type { Proof } from '$lib/server/desk/plan/types';
	import { postJson } from '../../parts/post-json';
	import WayMark from '../../parts/WayMark.svelte';

	/** One reader's text, its parts counted, and the number that proofs of texts go to. */
	let {
		text,
		sent,
		onsend,
		onnumber
	}: {
		text: Proof['text'];
		/** What became of a proof that was sent. */
		sent: string;
		onsend: () => void;
		/** The number was put on file. */
		onnumber: () => void;
	} = $props();

	/** The number of whoever writes, to which proofs by text go. */
	let number = $state('');
	let numberWhy = $state('');
	async function setNumber() {
		const answer = await postJson<{ ok: boolean; why?: string }>('/write/proof/number', { number });
		numberWhy = answer.ok ? '' : (answer.body?.why ?? answer.why);
		if (answer.ok) onnumber();
	}
</script>

<h2><WayMark way="text" word /></h2>
{#if text?.ok}
	{@const { length, from } = text.copy}
	<p class="small quiet">
		{length.parts}
		{length.parts === 1 ? 'part' : 'parts'}, {length.units}
		{length.alphabet === '7-bit' ? 'characters' : '16-bit characters'}, from {phoneText(from)} to {phoneText(
			text.address ?? ''
		)}
	</p>
	<p class="text" dir="auto">{text.copy.text}</p>
	<Button size="small" kind="tertiary" on:click={onsend}>Send this text to me</Button>
	<p class="small" role="status">{sent}</p>
	<details class="small">
		<summary>The number my proofs go to</summary>
		<form
			class="number"
			onsubmit={(e) => {
				e.preventDefault();
				void setNumber();
			}}
		>
			<TextInput
				size="sm"
				labelText="Your own number"
				placeholder="(207) 555-0143"
				bind:value={number}
				invalid={numberWhy !== ''}
				invalidText={numberWhy}
			/>
			<Button type="submit" size="small" kind="tertiary">Put it on file</Button>
		</form>
	</details>
{:else}
	<p class="quiet">{text?.why ?? 'Not by text.'}</p>
{/if}

<style>
	.text {
		border: 1px solid var(--line);
		border-inline-start: 3px solid var(--text);
		background: var(--sheet);
		padding: 8px 12px;
		white-space: pre-wrap;
		overflow-wrap: anywhere;
	}
</style>
