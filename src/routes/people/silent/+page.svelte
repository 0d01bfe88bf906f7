<script lang="ts">
	import { enhance } from '$app/forms';
	import { goto } from '$app/navigation';
	import { InlineNotification, Select, SelectItem } from 'carbon-components-svelte';
	import { count } from '$lib/core/copy/count';
	import { nameList } from '$lib/core/copy/names';
	import { dayName } from '$lib/core/time/zone';
	import { silences } from '$lib/core/track/silent';
	import { silenceWords } from '$lib/core/track/silent-words';
	import { dayTime } from '$lib/ui/parts/clock';
	import { filterQuery } from '$lib/ui/parts/filter-query';
	import Pages from '$lib/ui/parts/Pages.svelte';
	import SilentFamily from '$lib/ui/silent/SilentFamily.svelte';
	import SilentGroups from '$lib/ui/silent/SilentGroups.svelte';

	/** The families that nothing has reached in a while: which, why, what would probably work, where there are more than chance would make. */
	let { data, form } = $props();
	const view = $derived(data.view);
	const filter = $derived(data.filter);
	const zone = $derived(data.frame!.zone);
	const now = $derived(data.frame!.now);
	const usual = { days: 30, kind: '', school: '', language: '', page: 1 };
	const query = (change: Partial<typeof usual>) =>
		filterQuery({ ...filter, page: 1, ...change }, usual) || '/people/silent';
	const turn = (change: Partial<typeof usual>) =>
		void goto(query(change), { keepFocus: true, noScroll: true });
	const stretches = [7, 14, 30, 60, 90, 180];
	const file = (as: 'csv' | 'pdf') =>
		`/people/silent/file?${new URLSearchParams({ as, days: String(filter.days), school: filter.school })}`;
	const school = $derived(view.schools.find((s) => s.key === filter.school));
	const language = $derived(view.languages.find((l) => l.key === filter.language));
	const families = (n: number) => `${count(n)} ${n === 1 ? 'family' : 'families'}`;
	const chance = (p: number) => (p < 0.001 ? 'less than one in a thousand' : p.toFixed(3));
</script>

<svelte:head><title>Families that nothing reaches · People · Idle Courier</title></svelte:head>

<div class="page">
	<header class="page-head">
		<div>
			<p class="quiet"><a href="/people">People</a> · Families that nothing reaches</p>
			<h1>
				{#if view.homes === 0}Nothing was meant for any family in {filter.days} days
				{:else if view.silent === 0}Something has reached every family
				{:else}
					<span class="fail">{count(view.silent)}</span> of {families(view.homes)}
					{view.silent === 1 ? 'has' : 'have'} had nothing reach them since {dayName(
						view.since,
						zone
					)}
				{/if}
			</h1>
			<p class="quiet small">
				Nobody of these families has read or answered anything, though {view.dispatches === 1
					? 'the dispatch that left was'
					: `some of the ${count(view.dispatches)} dispatches that left were`} meant for them; as of {dayTime(
					view.until,
					zone,
					now
				)}. Each counts once, at the school of its youngest.{#if view.spoken > 0}
					{families(view.spoken)} more {view.spoken === 1 ? 'was' : 'were'} spoken to.{/if}
			</p>
		</div>
		<div class="deeds">
			<Select
				inline
				size="sm"
				labelText="In the last"
				selected={String(filter.days)}
				on:update={(e) => turn({ days: Number(e.detail) })}
			>
				{#each [...new Set([...stretches, filter.days])].sort((a, b) => a - b) as days (days)}
					<SelectItem value={String(days)} text={days === 1 ? '1 day' : `${days} days`} />
				{/each}
			</Select>
			{#if view.silent > 0}
				<span
					>Phone sheet{school ? ` of ${school.name}` : ''}:
					<a href={file('pdf')} data-sveltekit-reload>PDF</a>
					<a href={file('csv')} data-sveltekit-reload>CSV</a></span
				>
			{/if}
		</div>
	</header>
	{#if form && 'why' in form && form.why}
		<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
		{#if form.words}<p class="small">
				You had typed: <span dir="auto">{form.words}</span>
			</p>{/if}
	{/if}
	{#if form && 'done' in form}
		<div class="good" role="status">
			{form.done}
			{#if 'householdId' in form}
				<form method="post" action="?/back" use:enhance>
					{#if form.householdId}<input
							type="hidden"
							name="householdId"
							value={form.householdId}
						/>{:else}<input type="hidden" name="studentId" value={form.studentId} />{/if}
					<button class="plain">That was a slip: take it back</button>
				</form>
			{/if}
		</div>
	{/if}
	{#if view.silent > 0}
		<div class="with-aside" style:--aside="380px">
			<section class="main">
				<nav aria-label="Why" class="kinds">
					<a href={query({ kind: '' })} aria-current={filter.kind === '' ? 'true' : undefined}
						>all <b>{count(view.silent)}</b></a
					>
					{#each silences as kind (kind)}
						<a
							href={query({ kind })}
							aria-current={filter.kind === kind ? 'true' : undefined}
							title={silenceWords[kind].note}
							>{silenceWords[kind].name} <b>{count(view.kinds[kind])}</b></a
						>
					{/each}
				</nav>
				{#if school || language}
					<p class="small">
						Of {nameList(
							[school?.name, language ? `those who read ${language.name}` : undefined].filter(
								(x) => x !== undefined
							)
						)}:
						{families(view.found)}. <a href={query({ school: '', language: '' })}>Show all</a>
					</p>
				{/if}
				{#if view.lines.length === 0}
					<p class="quiet">No family here fits that.</p>
				{:else}
					<table class="plain">
						<thead
							><tr><th>Family</th><th>Students</th><th>Why</th><th>What would probably work</th></tr
							></thead
						>
						<tbody>
							{#each view.lines as line (`${line.householdId} ${line.studentId}`)}
								<SilentFamily {line} {now} {zone} mayPutDown={data.mayPutDown} />
							{/each}
						</tbody>
					</table>
					<Pages
						all={view.found}
						perPage={25}
						page={view.page}
						what="Families"
						onturn={(page) => turn({ page })}
					/>
				{/if}
			</section>
			<aside>
				{#if view.compared > 0}
					<p class="small differs">
						{#each view.standingOut as out (`${out.by} ${out.name}`)}
							<span class="under"
								><b dir="auto">{out.name}</b>:
								<span class={out.more ? 'heed' : 'good'}>{out.more ? 'more' : 'fewer'}</span> than
								elsewhere, and more than chance would make it ({chance(out.chance)}).</span
							>
						{:else}
							No school and no language differs from the others by more than chance would make it.
						{/each}
						<span class="quiet"
							>Fisher’s exact test of each against all others, corrected for {view.compared} compared
							(Holm).</span
						>
					</p>
				{/if}
				<SilentGroups
					title="By school"
					groups={view.schools}
					shown={filter.school}
					href={(key) => query({ school: key === filter.school ? '' : key })}
				/>
				<SilentGroups
					title="By language"
					groups={view.languages}
					shown={filter.language}
					href={(key) => query({ language: key === filter.language ? '' : key })}
				/>
			</aside>
		</div>
	{/if}
</div>

<style>
	.main,
	aside {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 12px;
		align-content: start;
	}
	.deeds {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 20px;
		align-items: center;
	}
	.kinds {
		display: flex;
		flex-wrap: wrap;
		gap: 6px 20px;
	}
	.kinds a[aria-current] {
		font-weight: 700;
		color: var(--ink);
		text-decoration: none;
	}
	.under {
		display: block;
	}
	.good form {
		display: inline;
	}
</style>
