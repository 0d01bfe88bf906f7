<script lang="ts">
	import { goto } from '$app/navigation';
	import { ways } from '$lib/core/roster/way';
	import { filterQuery } from '$lib/ui/parts/filter-query';
	import Choose from '$lib/ui/parts/Choose.svelte';
	import Pages from '$lib/ui/parts/Pages.svelte';
	import LineTable from '$lib/ui/parts/LineTable.svelte';
	import WayHead from '$lib/ui/places/WayHead.svelte';
	import ReachCell from '$lib/ui/places/ReachCell.svelte';
	import ReachStrip from '$lib/ui/places/ReachStrip.svelte';
	import StudentsAndPeople from '$lib/ui/places/StudentsAndPeople.svelte';

	/** How well the families of one place can be reached: by way, by language, and name by name. */
	let { data } = $props();
	const view = $derived(data.view);
	const asked = $derived(data.asked);
	const usual = { of: 'mine', by: 'all', language: '', page: 1 };
	const query = (change: Partial<typeof usual>) =>
		filterQuery({ ...asked, page: 1, ...change }, usual);
	const tagOf = (tag: string) => (tag === '' ? '-' : tag);
	const bys = [
		{ value: 'all', text: 'all students' },
		...ways.map((way) => ({ value: way, text: `reached by ${way}` })),
		{ value: 'none', text: 'reached by nothing' }
	] as const;
	const columns = [
		{ key: 'name', value: 'An adult reads' },
		{ key: 'students', value: 'Students' },
		{ key: 'email', value: 'Email' },
		{ key: 'text', value: 'Text' },
		{ key: 'inbox', value: 'Inbox' },
		{ key: 'none', value: 'Nobody reached' }
	] as const;
	type Line = (typeof view.languages)[number];
</script>

<svelte:head><title>How {view.place.name} is reached · People · Idle Courier</title></svelte:head>

{#snippet head(key: string, value: string)}<WayHead {key} {value} />{/snippet}
{#snippet cell(l: Line, key: (typeof columns)[number]['key'])}
	{@const language = tagOf(l.language)}
	{#if key === 'name'}{l.name}
	{:else if key === 'students'}
		<a href={query({ language, by: 'all' })}>{l.students.toLocaleString('en')}</a>
	{:else if key === 'none'}
		<ReachCell n={l.none} of={l.students} by="none" href={query({ language, by: 'none' })} />
	{:else}
		<ReachCell n={l.by[key]} of={l.students} by={key} href={query({ language, by: key })} />
	{/if}
{/snippet}

<div class="page">
	<p class="quiet"><a href="/people">People</a> · How well they are reached</p>
	<h1 dir="auto">{view.place.name}</h1>
	<ReachStrip line={view.place} />
	<p class="small">
		<a href="/people/reach/cards?of={encodeURIComponent(view.place.key)}" download
			>Their guardians as vCards</a
		>
	</p>
	<section>
		<div class="filter-bar">
			<h2>
				{view.found.toLocaleString('en')}
				{view.found === 1 ? 'student' : 'students'}
			</h2>
			<Choose
				label="Who"
				value={asked.by}
				options={bys}
				onchoose={(by) => void goto(query({ by }), { noScroll: true, keepFocus: true })}
			/>
			<Choose
				label="Language"
				value={asked.language}
				options={[
					{ value: '', text: 'any' },
					...view.languages.map((l) => ({ value: tagOf(l.language), text: l.name }))
				]}
				onchoose={(language) => void goto(query({ language }), { noScroll: true, keepFocus: true })}
			/>
		</div>
		{#if view.people.length === 0}<p class="quiet">No student here is so.</p>
		{:else}<StudentsAndPeople lines={view.people} />{/if}
		<Pages
			all={view.found}
			perPage={50}
			page={view.page}
			what="Students"
			onturn={(page) => void goto(query({ page }), { keepFocus: true })}
		/>
	</section>
	<section id="languages">
		<h2>By language</h2>
		<p class="quiet small">
			A student whose adults read two languages counts in both. Asked are guardians with custody who
			are marked to receive correspondence.
		</p>
		<LineTable {columns} lines={view.languages} idOf={(l) => l.language} {cell} {head} />
	</section>
</div>

<style>
	section {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 8px;
	}
</style>
