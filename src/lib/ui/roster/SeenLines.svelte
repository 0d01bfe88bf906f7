<script lang="ts">
	import { Search } from 'carbon-components-svelte';
	import type { Snippet } from 'svelte';
	import { count } from '$lib/core/copy/count';
	import { countOf, tabs, whats, type Tab, type What } from '$lib/core/roster/counts';
	import type { ChangeLine, Looked, WrongLine } from '$lib/server/desk/roster/types';
	import Pages from '../parts/Pages.svelte';
	import ChangeTable from './ChangeTable.svelte';
	import WrongTable from './WrongTable.svelte';

	/** What was seen in a roster file: how many of each sort, and a page of one sort, searched. */
	let {
		looked,
		filter,
		changes,
		wrong,
		perPage,
		onshow,
		away
	}: {
		looked: Looked;
		filter: {
			readonly what: What | 'wrong';
			readonly tab: Tab;
			readonly q: string;
			readonly page: number;
		};
		changes: { readonly found: number; readonly lines: readonly ChangeLine[] } | null;
		wrong: { readonly found: number; readonly lines: readonly WrongLine[] } | null;
		perPage: number;
		/** Asks for another part of the list. */
		onshow: (change: Record<string, string>) => void;
		/** What stands there where the lines are no longer at hand. */
		away: Snippet;
	} = $props();

	// svelte-ignore state_referenced_locally
	let search = $state(filter.q);
	let timer: ReturnType<typeof setTimeout> | undefined;
	function searchSoon() {
		clearTimeout(timer);
		timer = setTimeout(() => onshow({ q: search }), 200);
	}
	const tabWords: Readonly<Record<Tab, string>> = {
		people: 'people',
		contacts: 'contacts',
		enrolments: 'enrolments',
		sections: 'sections, courses, schools',
		staff: 'staff'
	};
	const numbers = $derived([
		...whats.map((what) => ({ what, n: countOf(looked.counts, what), label: what })),
		{ what: 'wrong' as const, n: looked.wrong, label: 'wrong, stay out' }
	]);
	const list = $derived(changes ?? wrong);
</script>

<div class="numbers" role="group" aria-label="Which changes are shown">
	{#each numbers as { what, n, label } (what)}
		<button
			type="button"
			class:bad={what === 'wrong' && n > 0}
			aria-pressed={filter.what === what}
			onclick={() => onshow({ what })}
		>
			<b>{count(n)}</b>
			<span>{label}</span>
		</button>
	{/each}
</div>
{#if filter.what !== 'wrong'}
	<div class="tabs" role="group" aria-label="Of what">
		{#each tabs as tab (tab)}
			<button type="button" aria-pressed={filter.tab === tab} onclick={() => onshow({ tab })}>
				{tabWords[tab]}
				{count(looked.counts[filter.what][tab])}
			</button>
		{/each}
	</div>
{/if}
{#if list === null}{@render away()}{:else}
	<Search
		size="sm"
		labelText="Search these lines"
		placeholder="Name, address, section"
		bind:value={search}
		on:input={searchSoon}
		on:clear={() => onshow({ q: '' })}
	/>
	{#if list.found === 0}
		<p class="quiet">{filter.q ? 'No line has these words.' : 'None.'}</p>
	{:else if changes && filter.what !== 'wrong'}
		<ChangeTable lines={changes.lines} what={filter.what} />
	{:else if wrong}
		<WrongTable lines={wrong.lines} />
	{/if}
	<Pages
		all={list.found}
		{perPage}
		page={filter.page}
		what="Lines"
		onturn={(page) => onshow({ page: String(page) })}
	/>
{/if}

<style>
	.numbers {
		display: grid;
		grid-template-columns: repeat(4, minmax(0, 1fr));
		border: 1px solid var(--line);
	}
	.numbers button {
		display: grid;
		text-align: start;
		padding: 8px 14px;
		background: none;
		border: 0;
		border-inline-end: 1px solid var(--line);
		font: inherit;
		color: inherit;
		cursor: pointer;
	}
	.numbers button:last-child {
		border: 0;
	}
	.numbers b {
		font-size: 28px;
		line-height: 1.15;
	}
	.numbers .bad {
		color: var(--fail);
	}
	[aria-pressed='true'] {
		box-shadow: inset 0 -2px 0 var(--action);
	}
	.tabs {
		display: flex;
		flex-wrap: wrap;
	}
	.tabs button {
		font: inherit;
		font-size: 13px;
		padding: 5px 11px;
		min-height: 28px;
		background: none;
		border: 1px solid var(--line);
		margin-inline-end: -1px;
		cursor: pointer;
		color: inherit;
	}
	.tabs [aria-pressed='true'] {
		font-weight: 650;
	}
</style>
