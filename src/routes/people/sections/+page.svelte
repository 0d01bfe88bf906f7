<script lang="ts">
	import { goto } from '$app/navigation';
	import LineTable from '$lib/ui/parts/LineTable.svelte';
	import { filterQuery } from '$lib/ui/parts/filter-query';
	import Choose from '$lib/ui/parts/Choose.svelte';
	import TypedSearch from '$lib/ui/parts/TypedSearch.svelte';
	import Pages from '$lib/ui/parts/Pages.svelte';
	import type { SectionLine } from '$lib/server/desk/places/types';

	/** The sections of the terms that run, or of another; searching narrows them. */
	let { data } = $props();
	const list = $derived(data.list);
	const usual = { term: 0, q: '', page: 1 };
	const go = (change: Partial<typeof usual>) =>
		void goto(filterQuery({ ...data.filter, page: 1, ...change }, usual), {
			keepFocus: true,
			noScroll: true
		});
	const columns = [
		{ key: 'name', value: 'Section' },
		{ key: 'staff', value: 'Staff' },
		{ key: 'school', value: 'School' },
		{ key: 'term', value: 'Term' },
		{ key: 'students', value: 'Students' },
		{ key: 'write', value: 'Write' }
	] as const;
	const runs = $derived(list.terms.filter((t) => t.running).map((t) => t.name));
</script>

<svelte:head><title>Sections · People · Idle Courier</title></svelte:head>

{#snippet cell(line: SectionLine, key: (typeof columns)[number]['key'])}
	{#if key === 'name'}
		<a href="/people/sections/{line.id}" dir="auto">{line.name}</a>
	{:else if key === 'write'}
		<a href="/write?section={line.id}" aria-label="Write to them: {line.name}">Write to them</a>
	{:else}<span dir="auto">{line[key]}</span>{/if}
{/snippet}

<div class="page">
	<p class="quiet"><a href="/people">People</a> · Sections</p>
	<div class="filter-bar">
		<h1>{list.found.toLocaleString('en')} {list.found === 1 ? 'section' : 'sections'}</h1>
		<Choose
			label="Term"
			value={String(list.termId ?? 0)}
			options={[
				{
					value: '0',
					text: runs.length > 0 ? `all that run: ${runs.join(', ')}` : 'those to come'
				},
				...list.terms.map((t) => ({ value: String(t.id), text: t.name }))
			]}
			onchoose={(term) => go({ term: Number(term) })}
		/>
		<div class="search">
			<TypedSearch
				label="Search sections"
				placeholder="Name of a section"
				value={data.filter.q}
				onsearch={(q) => go({ q })}
			/>
		</div>
	</div>
	{#if list.lines.length === 0}
		<p class="quiet">No section here. A roster brings them; or choose another term.</p>
	{:else}
		<LineTable {columns} lines={list.lines} idOf={(line) => line.id} {cell} />
		<Pages
			all={list.found}
			perPage={50}
			page={list.page}
			what="Sections"
			onturn={(page) => go({ page })}
		/>
	{/if}
</div>

<style>
	.search {
		width: min(100%, 260px);
	}
</style>
