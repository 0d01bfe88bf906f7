<script lang="ts">
	import { Button } from 'carbon-components-svelte';
	import { nameOfLanguage } from '$lib/core/copy/language';
	import type { ByHand } from '$lib/core/audience/audience';
	import { phoneText } from '$lib/core/format/phone';
	import type { WaysByHand } from '$lib/core/plan/handling';
	import { ways as allWays, type Way } from '$lib/core/roster/way';
	import type { ManifestPerson } from '$lib/server/desk/plan/types';
	import WayMark from '../../parts/WayMark.svelte';

	/** One person of the manifest: who, how, in which language; opened, why, by which addresses, and what can be changed by hand. */
	let {
		person: p,
		ways,
		waysHand,
		hand,
		perStudent,
		onhand,
		onways
	}: {
		person: ManifestPerson;
		/** The ways this person is written to by. */
		ways: readonly Way[];
		waysHand: WaysByHand | undefined;
		hand: ByHand | undefined;
		perStudent: boolean;
		onhand: (way: 'in' | 'out' | null) => void;
		onways: (chosen: readonly Way[] | null) => void;
	} = $props();

	const waysShown = $derived([...new Set(p.copies.map((c) => c.way))]);
	const toggle = (way: Way, on: boolean) =>
		onways(on ? [...ways, way] : ways.filter((w) => w !== way));
</script>

<details class="person" class:gone={p.leftOut.length > 0}>
	<summary>
		<span class="name"
			><b dir="auto">{p.name}</b>
			<span class="quiet" dir="auto">{p.relation}</span></span
		>
		<span class="how">
			{#each waysShown as way (way)}<WayMark {way} word />{/each}
			{#if p.leftOut.length > 0}<span class="heed">{p.leftOut.join('. ')}</span>{/if}
		</span>
		<span class="quiet lang">{nameOfLanguage(p.language)}</span>
	</summary>
	<div class="more">
		<dl>
			{#if p.why.length > 0}<dt>In by</dt>
				<dd dir="auto">{p.why.join('; also by ')}</dd>{/if}
			{#if p.sections.length > 0}<dt>Section</dt>
				<dd>{p.sections.join(', ')}</dd>{/if}
			{#each p.copies as c, i (i)}
				<dt>{c.way}</dt>
				<dd>
					{#if c.address}<span class="mono"
							>{c.way === 'text' ? phoneText(c.address) : c.address}</span
						>{:else}own inbox{/if}
					<span class:quiet={c.reads === p.language} class:heed={c.reads !== p.language}
						>in {nameOfLanguage(c.reads)}{#if p.language !== '' && c.reads !== p.language}, would
							rather read {nameOfLanguage(p.language)}{/if}</span
					>
					{#if perStudent && c.about}<span class="quiet" dir="auto">for {c.about}</span>{/if}
					{#if c.sharedWith}<span class="quiet">one copy, read together with {c.sharedWith}</span
						>{/if}
					{#if c.later}<span class="heed">leaves {c.later}</span>{/if}
				</dd>
			{/each}
			{#each p.notFor as line, i (i)}<dt>no copy for</dt>
				<dd class="heed" dir="auto">{line}</dd>{/each}
			{#each p.notBy as b, i (i)}<dt>not by {b.way}</dt>
				<dd class="quiet">{b.reason}</dd>{/each}
		</dl>
		{#if p.relation !== 'copy for information' && hand?.way !== 'out'}
			<fieldset>
				<legend class="small quiet">Write to {p.name} by</legend>
				{#each allWays as way (way)}
					<label>
						<input
							type="checkbox"
							checked={ways.includes(way)}
							onchange={(e) => toggle(way, e.currentTarget.checked)}
						/>
						<WayMark {way} word />
					</label>
				{/each}
				{#if waysHand}
					<span class="small quiet">chosen by {waysHand?.by}</span>
					<button class="plain" onclick={() => onways(null)}>as the dispatch again</button>
				{/if}
			</fieldset>
		{/if}
		{#if hand}
			<p class="small quiet">
				{hand?.way === 'in' ? 'Put in' : 'Taken out'} by {hand?.by}.
			</p>
			<Button kind="tertiary" size="small" on:click={() => onhand(null)}>
				Let the lines decide about {p.name}
			</Button>
		{:else if p.copies.length > 0 && p.relation !== 'copy for information'}
			<Button kind="tertiary" size="small" on:click={() => onhand('out')}>
				Take {p.name} out
			</Button>
		{/if}
	</div>
</details>

<style>
	fieldset {
		border: 0;
		padding: 0;
		margin: 0;
		display: flex;
		flex-wrap: wrap;
		gap: 4px 16px;
		align-items: center;
	}
	fieldset label {
		display: inline-flex;
		gap: 6px;
		align-items: center;
		cursor: pointer;
	}
	fieldset input {
		accent-color: var(--action);
		margin: 0;
	}
	summary {
		display: grid;
		grid-template-columns: minmax(0, 1.2fr) minmax(0, 1.4fr) 100px;
		gap: 12px;
		padding: 5px 8px;
		cursor: pointer;
	}
	summary:hover {
		background: var(--row);
	}
	.how {
		display: inline-flex;
		flex-wrap: wrap;
		gap: 2px 12px;
	}
	.person[open] {
		background: var(--sheet);
		outline: 1px solid var(--line);
	}
	.more {
		padding: 4px 8px 10px;
		display: grid;
		gap: 8px;
		justify-items: start;
	}
	dl {
		display: grid;
		grid-template-columns: 110px 1fr;
		gap: 3px 12px;
		font-size: 13px;
	}
	dt {
		color: var(--quiet);
	}
	dd {
		overflow-wrap: anywhere;
	}
	@media (max-width: 900px) {
		summary {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
