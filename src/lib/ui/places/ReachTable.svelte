<script lang="ts">
	import type { PlaceLine, PlacesView } from '$lib/server/desk/places/types';
	import LineTable from '$lib/ui/parts/LineTable.svelte';
	import WayHead from './WayHead.svelte';
	import ReachCell from './ReachCell.svelte';

	/** How well the families of each place can be reached; every number opens the names behind it. */
	let { view }: { view: PlacesView } = $props();
	const heads = { schools: 'School', grades: 'Grade', sections: 'Section' };
	const columns = $derived([
		{ key: 'name', value: heads[view.what] },
		{ key: 'students', value: 'Students' },
		{ key: 'email', value: 'Email' },
		{ key: 'text', value: 'Text' },
		{ key: 'inbox', value: 'Inbox' },
		{ key: 'none', value: 'Nobody reached' },
		{ key: 'languages', value: 'Languages' }
	] as const);
	const lines = $derived([...view.lines, ...(view.all ? [view.all] : [])]);
	const at = (line: PlaceLine, query = '') =>
		`/people/reach?of=${encodeURIComponent(line.key)}${query}`;
	const place = (line: PlaceLine) =>
		line.key.startsWith('section-') ? `/people/sections/${line.key.slice(8)}` : at(line);
</script>

{#snippet head(key: string, value: string)}<WayHead {key} {value} />{/snippet}
{#snippet cell(line: PlaceLine, key: (typeof columns)[number]['key'])}
	{#if key === 'name'}
		<a href={place(line)} class:all={line === view.all} dir="auto">{line.name}</a>
	{:else if key === 'students'}
		<a href={at(line)}>{line.students.toLocaleString('en')}</a>
	{:else if key === 'none'}
		<ReachCell n={line.none} of={line.students} by="none" href={at(line, '&by=none')} />
	{:else if key === 'languages'}
		<a href="{at(line)}#languages">{line.languages}</a>
	{:else}
		<ReachCell n={line.by[key]} of={line.students} by={key} href={at(line, `&by=${key}`)} />
	{/if}
{/snippet}

<LineTable {columns} {lines} idOf={(line) => line.key} {cell} {head} />

<style>
	.all {
		font-weight: 650;
	}
</style>
