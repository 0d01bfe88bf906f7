<script lang="ts">
	import { DataTableSkeleton } from 'carbon-components-svelte';
	import { count } from '$lib/core/copy/count';
	import Finder from '$lib/ui/parts/Finder.svelte';
	import ReachTable from '$lib/ui/places/ReachTable.svelte';
	import { fileStateWords } from '$lib/ui/roster/words';

	/** How well these families can be reached; anyone found in two keystrokes; what waits to be mended. */
	let { data } = $props();
	const broken = $derived(data.mend.email + data.mend.text);
</script>

<svelte:head><title>People · Idle Courier</title></svelte:head>

<div class="page">
	<div class="filter-bar">
		<h1>People</h1>
		<div class="find">
			<Finder
				label="Find a person, section or group"
				placeholder="Beginnings of names, in any order: “ana am”"
				among="people"
				autofocus
				nobody={data.everyone
					? 'Nobody and nothing whose names begin so.'
					: 'Nobody whose names begin so among the students you look after and their families.'}
			/>
		</div>
		<nav aria-label="People">
			<a href="/people/sections">Sections</a>
			<a href="/people/groups">Groups</a>
			<a href="/people/boards">Boards</a>
			<a href="/people/markers">Markers</a>
			{#if data.rosters}<a href="/people/rosters">Rosters</a>{/if}
			{#if data.correct}<a href="/people/new">Somebody new</a>{/if}
		</nav>
	</div>
	<div class="with-aside" style:--aside="240px">
		<section>
			<h2>How well these families can be reached</h2>
			{#await data.places}
				<DataTableSkeleton
					showHeader={false}
					showToolbar={false}
					size="short"
					rows={6}
					columns={7}
				/>
			{:then places}
				{#if places.lines.length === 0}
					<p>
						{#if data.rosters}
							Nobody is here yet. <a href="/people/rosters">Bring a roster</a>, or add people one by
							one.
						{:else}No students are yours yet. The district office brings the roster.{/if}
					</p>
				{:else}
					<ReachTable view={places} />
					<p class="quiet small">
						Students for whom at least one guardian with custody who is marked to receive
						correspondence can be reached by each way today. Each number opens the names.
					</p>
				{/if}
			{:catch}
				<p class="fail" role="alert">This could not be counted. Load the page again.</p>
			{/await}
		</section>
		<aside>
			<h2>Addresses to mend</h2>
			{#if broken === 0}
				<p class="quiet">None. An address that refuses copies is listed here.</p>
			{:else}
				<p>
					<a class="big fail" href="/people/mend">{broken}</a>
					<span class="quiet">{data.mend.email} email, {data.mend.text} text</span>
				</p>
			{/if}
			<h2 class="next">Families that nothing reaches</h2>
			{#await data.silent}
				<p class="quiet">Counting…</p>
			{:then silent}
				{#if silent.silent === 0}
					<p class="quiet">
						{silent.homes === 0
							? 'Nothing was meant for any in 30 days.'
							: 'None: something has reached each in 30 days.'}
					</p>
				{:else}
					<p>
						<a class="big heed" href="/people/silent">{count(silent.silent)}</a>
						<span class="quiet">of {count(silent.homes)} in 30 days</span>
					</p>
				{/if}
			{:catch}
				<p class="fail" role="alert">This could not be counted. Load the page again.</p>
			{/await}
			{#if data.unsaid > 0}
				<h2 class="next">Custody nobody has said</h2>
				<p>
					<a class="big heed" href="/people/custody">{data.unsaid.toLocaleString('en')}</a>
					<span class="quiet"
						>{data.unsaid === 1 ? 'guardian is' : 'guardians are'} left out until somebody says it</span
					>
				</p>
			{/if}
			{#if data.rosters}
				<h2 class="next"><a href="/people/rosters">Rosters</a></h2>
				{#each data.rosters as file (file.id)}
					<p>
						<a href="/people/rosters/{file.id}" dir="auto">{file.name}</a>
						<span class={file.state === 'refused' ? 'fail' : 'heed'}
							>{fileStateWords(file.state)}</span
						>
					</p>
				{:else}
					<p class="quiet">None waits. A file of who is where is brought here.</p>
				{/each}
			{/if}
		</aside>
	</div>
</div>

<style>
	section {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 8px;
	}
	.find {
		position: relative;
		flex: 1 1 320px;
		max-width: 560px;
	}
	.find :global(.found) {
		position: absolute;
		z-index: 10;
		inset-inline: 0;
		margin: 0;
		max-height: 420px;
		overflow: auto;
		background: var(--sheet);
		border: 1px solid var(--line-strong);
	}
	nav {
		display: flex;
		flex-wrap: wrap;
		gap: 6px 18px;
	}
	.next {
		margin-top: 18px;
	}
	.big {
		font-size: 34px;
		font-weight: 700;
		line-height: 1;
		margin-inline-end: 8px;
	}
</style>
