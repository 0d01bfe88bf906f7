<script lang="ts">
	import { Button } from 'carbon-components-svelte';
	import { onMount } from 'svelte';
	import { writtenIn } from '$lib/core/copy/words';
	import { ways as allWays, type Way } from '$lib/core/roster/way';
	import type { ManifestFilter, ManifestPage, ManifestPerson } from '$lib/server/desk/plan/types';
	import { postJson } from '$lib/ui/parts/post-json';
	import { count } from '$lib/core/copy/count';
	import { bench } from '$lib/ui/parts/bench.svelte';
	import FindPerson from '$lib/ui/parts/FindPerson.svelte';
	import KeepDialog from '$lib/ui/write/who/KeepDialog.svelte';
	import ManifestFilters from '$lib/ui/write/manifest/ManifestFilters.svelte';
	import StudentsLeft from '$lib/ui/parts/StudentsLeft.svelte';
	import ManifestLine from '$lib/ui/write/manifest/ManifestLine.svelte';
	import { Sheet } from '$lib/ui/write/sheet/sheet.svelte';
	import { Shelf } from '$lib/ui/write/sheet/shelf';
	import Pages from '$lib/ui/parts/Pages.svelte';

	let { data } = $props();
	// svelte-ignore state_referenced_locally
	const shelf = new Shelf(data.userId);

	let sheet = $state.raw<Sheet | null>(null);
	let view = $state.raw<ManifestPage | null>(null);
	let trouble = $state('');
	let none = $state(false);
	let busy = $state(false);
	let filter = $state<ManifestFilter>({
		search: '',
		show: 'all',
		way: '',
		language: '',
		reason: '',
		section: '',
		page: 1
	});
	let asked = 0;

	onMount(() => {
		const kept = shelf.get(shelf.current ?? '');
		if (!kept) {
			none = true;
			return;
		}
		sheet = new Sheet(kept, shelf);
		void ask();
	});

	async function ask() {
		const mine = (asked += 1);
		trouble = '';
		busy = true;
		const answer = await postJson<ManifestPage>('/write/manifest/lines', {
			...sheet!.sending,
			written: writtenIn(sheet!.wording),
			filter
		});
		if (mine !== asked) return;
		if (answer.ok) view = answer.body;
		trouble = answer.why;
		busy = false;
	}
	/** Another filter begins at its first page. */
	function narrow(change: Partial<ManifestFilter>) {
		Object.assign(filter, { page: 1, ...change });
		void ask();
	}
	const filtered = $derived(
		filter.search !== '' ||
			filter.show !== 'all' ||
			[filter.way, filter.language, filter.reason, filter.section].some((f) => f !== '')
	);

	/** Puts a person in or takes them out by hand; null lets the lines decide again. */
	function byHand(personId: number, way: 'in' | 'out' | null) {
		const others = sheet!.byHand.filter((h) => h.personId !== personId);
		sheet!.byHand =
			way === null
				? others
				: [...others, { personId, way, by: data.userName, at: Math.round(bench.now) }];
		sheet!.keep();
		void ask();
	}
	const handOf = (p: ManifestPerson) => sheet!.byHand.find((h) => h.personId === p.personId);

	/** The ways a person is written to by: chosen by hand, or those of the dispatch. */
	const waysOf = (p: ManifestPerson): readonly Way[] =>
		sheet!.waysByHand.find((w) => w.personId === p.personId)?.ways ?? sheet!.ways;
	const waysHandOf = (p: ManifestPerson) =>
		sheet!.waysByHand.find((w) => w.personId === p.personId);
	function setWays(p: ManifestPerson, chosen: readonly Way[] | null) {
		const others = sheet!.waysByHand.filter((w) => w.personId !== p.personId);
		sheet!.waysByHand =
			chosen === null
				? others
				: [
						...others,
						{
							personId: p.personId,
							ways: allWays.filter((w) => chosen.includes(w)),
							by: data.userName,
							at: Math.round(bench.now)
						}
					];
		sheet!.keep();
		void ask();
	}
	let keeping = $state(false);

	const sheetJson = $derived(
		sheet ? JSON.stringify({ ...sheet.sending, written: writtenIn(sheet.wording) }) : ''
	);
</script>

<svelte:head><title>Manifest · Write · Idle Courier</title></svelte:head>

<div class="page">
	<header class="page-head">
		<div>
			<p class="quiet">
				<a href="/write">Write</a> · Manifest{#if sheet?.subject}: <span dir="auto"
						>{sheet.subject}</span
					>{/if}
			</p>
			{#if view}
				<h1>
					{count(view.tally.people)} people get {count(view.tally.copies)} copies, for {count(
						view.tally.students
					)} students{#if view.tally.leftOut > 0};
						<span class="heed">{count(view.tally.leftOut)} left out</span>{/if}
				</h1>
				<p class="words" dir="auto">{view.words}.</p>
			{:else}
				<h1>Manifest</h1>
			{/if}
		</div>
		{#if view}
			<form method="post" action="/write/manifest/export" class="files">
				<input type="hidden" name="sheet" value={sheetJson} />
				<Button type="submit" kind="tertiary" size="small" name="as" value="csv"
					>CSV of {count(view.all)} people</Button
				>
				<Button type="submit" kind="tertiary" size="small" name="as" value="vcard">vCard</Button>
				<Button type="submit" kind="tertiary" size="small" name="as" value="addresses"
					>Addresses for blind copy</Button
				>
				<Button kind="tertiary" size="small" on:click={() => (keeping = true)}>Keep…</Button>
				<Button href="/write" size="small">Back to the wording</Button>
			</form>
		{/if}
	</header>
	{#if trouble}<p class="fail" role="alert">{trouble}</p>{/if}
	{#if none}
		<p>
			There is no sheet in this browser. <a href="/write">Write</a> one; its manifest is then here.
		</p>
	{:else if !view && !trouble}
		<p class="quiet">Working it out…</p>
	{:else if view}
		<div class="filters" aria-busy={busy}>
			<ManifestFilters {filter} {view} onnarrow={narrow} />
			{#if data.mayPutIn}
				<FindPerson label="Put someone in by hand" onfound={(p) => byHand(p.personId, 'in')} />
			{/if}
		</div>
		<p class="quiet found">
			<span role="status"
				>{count(view.found)} of {count(view.all)} people, {count(view.foundHouseholds)}
				{view.foundHouseholds === 1 ? 'household' : 'households'}</span
			>
			{#if filtered}
				<button
					class="plain"
					onclick={() =>
						narrow({ search: '', show: 'all', way: '', language: '', reason: '', section: '' })}
					>show everyone again</button
				>
			{/if}
		</p>
		{#if view.found === 0}
			<p>
				{view.all === 0
					? 'Nobody. Pick a section, group, grade or school in Write.'
					: 'Nobody fits this filter.'}
			</p>
		{/if}
		{#if view.studentsLeft.length > 0}<StudentsLeft
				lines={view.studentsLeft}
				counts={{
					unreached: view.tally.studentsWithNobody - view.tally.studentsAlone,
					alone: view.tally.studentsAlone,
					out: view.tally.studentsOut
				}}
			/>{/if}
		{#each view.households as home (home.key)}
			<section aria-label="Household {home.name}">
				<h2 dir="auto">{home.name}</h2>
				<div>
					{#each home.people as p (p.personId)}
						<ManifestLine
							person={p}
							ways={waysOf(p)}
							waysHand={waysHandOf(p)}
							hand={handOf(p)}
							perStudent={sheet?.perStudent ?? false}
							onhand={(way) => byHand(p.personId, way)}
							onways={(chosen) => setWays(p, chosen)}
						/>
					{/each}
				</div>
			</section>
		{/each}
		<Pages
			all={view.foundHouseholds}
			perPage={100}
			page={view.page}
			what="Households"
			onturn={(page) => narrow({ page })}
		/>
	{/if}
</div>
{#if sheet}<KeepDialog {sheet} bind:open={keeping} />{/if}

<style>
	h1 {
		margin-top: 6px;
		font-size: 24px;
	}
	.files,
	.filters {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 14px;
		align-items: center;
	}
	.filters :global(.bx--search) {
		flex: 0 1 310px;
		min-width: 0;
	}
	.filters :global(.bx--form-item) {
		flex: none;
	}
	.words {
		max-width: 760px;
		margin-top: 4px;
		overflow-wrap: anywhere;
		max-height: 64px;
		overflow: auto;
	}
	.found {
		display: flex;
		gap: 14px;
	}
	section {
		display: grid;
		grid-template-columns: 180px 1fr;
		border-top: 1px solid var(--line);
		padding: 4px 0;
	}
	section h2 {
		font-size: 14px;
		padding: 5px 10px 5px 0;
		overflow-wrap: anywhere;
	}
	@media (max-width: 900px) {
		section {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
