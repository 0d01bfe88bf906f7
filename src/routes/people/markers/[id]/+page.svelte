<script lang="ts">
	import { enhance } from '$app/forms';
	import { goto } from '$app/navigation';
	import { Button } from 'carbon-components-svelte';
	import { markerKinds } from '$lib/core/roster/marker';
	import { dayName } from '$lib/core/time/zone';
	import SectionMarks from '$lib/ui/markers/SectionMarks.svelte';
	import SeenList from '$lib/ui/markers/SeenList.svelte';
	import LineTable from '$lib/ui/parts/LineTable.svelte';
	import ListUpload from '$lib/ui/parts/ListUpload.svelte';
	import TypedSearch from '$lib/ui/parts/TypedSearch.svelte';
	import type { MarkerPlace } from '$lib/server/desk/markers/types';

	/** A marker: who has it where, a section's list to set it on, a list that brings it, and writing to those who lack it. */
	let { data, form } = $props();
	const m = $derived(data.marker);
	const { zone } = $derived(data.frame!);
	const columns = [
		{ key: 'name', value: 'Where' },
		{ key: 'have', value: 'Have it' },
		{ key: 'lack', value: 'Lack it' },
		{ key: 'deed', value: 'Do' }
	] as const;
</script>

<svelte:head><title>{m.name} · Markers · Idle Courier</title></svelte:head>

{#snippet cell(p: MarkerPlace, key: (typeof columns)[number]['key'])}
	{#if key === 'name'}
		{#if p.sectionId !== null}
			<a href="/people/markers/{m.id}?section={p.sectionId}" dir="auto">{p.name}</a>
		{:else}<span dir="auto">{p.name}</span>{/if}
	{:else if key === 'have'}{p.have.toLocaleString('en')}
	{:else if key === 'lack'}{(p.of - p.have).toLocaleString('en')}
	{:else if m.ended === null}
		<span class="deeds">
			{#if p.sectionId !== null}
				<a href="/people/markers/{m.id}?section={p.sectionId}" aria-label="Set it in {p.name}"
					>Set it</a
				>
			{/if}
			{#if p.of > p.have && data.frame!.mayWrite}
				<a
					href="/write?marker={m.id}&lacking={encodeURIComponent(p.key)}"
					aria-label="Chase those who lack it in {p.name}">Chase those who lack it</a
				>
			{/if}
		</span>
	{/if}
{/snippet}

<div class="page">
	<header>
		<p class="quiet"><a href="/people">People</a> · <a href="/people/markers">Markers</a></p>
		<h1 dir="auto">{m.name}</h1>
		<p class="quiet">
			{[
				markerKinds[m.kind],
				m.school ?? 'the whole district',
				m.term === null ? 'stays until it is given up' : `ends with ${m.term}`,
				`made by ${m.madeBy}, ${dayName(m.madeAt, zone)}`
			].join(' · ')}
		</p>
	</header>
	{#if m.ended !== null}
		<p class="heed">{m.ended} Nothing asks about it any more; what copies said of it stays.</p>
	{/if}
	{#if form?.said}<p class="good" role="status">{form.said}</p>{/if}
	{#if form?.why}<p class="fail" role="alert">{form.why}</p>{/if}
	<p class="number">
		<b>{m.have.toLocaleString('en')}</b> of {m.of.toLocaleString('en')}
		{m.of === 1 ? 'student has' : 'students have'} it
	</p>
	<div class="with-aside" style:--aside="260px">
		<div class="block">
			{#if form?.seen}<SeenList seen={form.seen} name={m.name} />{/if}
			{#if m.section}
				<p class="small"><a href="/people/markers/{m.id}">All places</a></p>
				{#key m.section.id}
					<SectionMarks section={m.section} kind={m.kind} name={m.name} {zone} />
				{/key}
			{:else}
				{#if m.ended === null}
					<div class="search">
						<TypedSearch
							label="Find a section to set it in"
							placeholder="Name of a section"
							value={data.find}
							onsearch={(find) =>
								void goto(
									`/people/markers/${m.id}${find ? `?find=${encodeURIComponent(find)}` : ''}`,
									{ keepFocus: true, noScroll: true }
								)}
						/>
					</div>
				{/if}
				{#if data.find !== '' && m.sections.length === 0}
					<p class="quiet">No section of yours has a name that begins so.</p>
				{/if}
				{#if data.find === ''}
					<LineTable {columns} lines={m.places} idOf={(p) => p.key} {cell} />
				{/if}
				{#if m.sections.length > 0}
					{#if data.find === ''}<h2>Sections in which most have it</h2>{/if}
					<LineTable {columns} lines={m.sections} idOf={(p) => p.key} {cell} />
				{/if}
			{/if}
		</div>
		<aside class="block">
			{#if m.ended === null}
				<section>
					<h2>A list</h2>
					<ListUpload
						words="CSV: numbers or names of students, and a column headed “{m.name}”{m.kind ===
						'yes-no'
							? '; without one, whoever stands on it has the marker'
							: ''}."
					/>
					{#if m.have > 0}
						<p class="small">
							<a href="/people/markers/{m.id}/list" download>Whoever has it, as a list (CSV)</a>
						</p>
					{/if}
				</section>
				{#if m.mayGiveUp}
					<form method="post" action="?/giveUp" use:enhance>
						<Button type="submit" size="small" kind="danger-ghost">Give this marker up</Button>
					</form>
				{/if}
			{/if}
		</aside>
	</div>
</div>

<style>
	.block,
	section,
	form {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 10px;
	}
	aside :global(.bx--btn) {
		justify-self: start;
	}
	.number b {
		font-size: 22px;
	}
	.search {
		width: min(100%, 280px);
	}
	.deeds {
		display: flex;
		gap: 14px;
	}
</style>
