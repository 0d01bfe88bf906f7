<script lang="ts">
	import { untrack } from 'svelte';
	import { enhance } from '$app/forms';
	import { goto, invalidateAll } from '$app/navigation';
	import { Button, InlineNotification, Search } from 'carbon-components-svelte';
	import { bench } from '$lib/ui/parts/bench.svelte';
	import { whenStill } from '$lib/ui/parts/when-still';
	import { followReach } from '$lib/ui/reach/follow-dispatch';
	import { filterQuery } from '$lib/ui/parts/filter-query';
	import CourierNotice from '$lib/ui/parts/CourierNotice.svelte';
	import { languagesWords } from '$lib/core/copy/language';
	import ComingDeeds from '$lib/ui/reach/coming/ComingDeeds.svelte';
	import ComingHead from '$lib/ui/reach/coming/ComingHead.svelte';
	import GrowthChart from '$lib/ui/reach/GrowthChart.svelte';
	import Shares from '$lib/ui/reach/Shares.svelte';
	import CopyFilter from '$lib/ui/parts/CopyFilter.svelte';
	import ReachHead from '$lib/ui/reach/ReachHead.svelte';
	import OnBoards from '$lib/ui/reach/OnBoards.svelte';
	import LeftOut from '$lib/ui/reach/LeftOut.svelte';
	import StudentsLeft from '$lib/ui/parts/StudentsLeft.svelte';
	import LinkLines from '$lib/ui/reach/LinkLines.svelte';
	import DeliveryTable from '$lib/ui/reach/DeliveryTable.svelte';
	import RosterField from '$lib/ui/reach/RosterField.svelte';
	import Slip from '$lib/ui/parts/Slip.svelte';
	import LineEnded from '$lib/ui/parts/LineEnded.svelte';
	import LogLines from '$lib/ui/settings/LogLines.svelte';
	import WayTotals from '$lib/ui/reach/WayTotals.svelte';

	let { data, form } = $props();
	/** As it was loaded, with what was told since. */
	let reach = $derived(data.reach);
	const zone = $derived(data.frame!.zone);
	const ahead = $derived(
		reach.dispatch.state === 'scheduled' && reach.dispatch.leavesAt > bench.now
	);

	// Only another dispatch opens another line; new evidence about this one must not.
	const id = $derived(reach.dispatch.id);
	let endedAt = $state<number | null>(null);
	$effect(() => {
		endedAt = null;
		return followReach(id, {
			seen: () => untrack(() => reach),
			show: (changed) => (reach = changed),
			saysMore: () =>
				data.filter.state !== 'all' ||
				data.boards !== null ||
				data.reach.coverage.together !== null,
			ended: () => (endedAt = bench.now)
		});
	});
	// The bench clock may have been moved elsewhere: the server's time is asked for when the hold ends.
	$effect(() => {
		if (!ahead && reach.dispatch.state === 'scheduled') {
			const fresh = whenStill(invalidateAll, 1500);
			fresh.soon();
			return fresh.stop;
		}
	});

	const usual = { way: 'all', state: 'all', section: 0, search: '', page: 1 };
	function filter(change: Partial<typeof usual>) {
		void goto(filterQuery({ ...data.filter, page: 1, ...change }, usual), {
			keepFocus: true,
			noScroll: true
		});
	}
	/** What goes by no way has no copies: there is nothing to be said of them. */
	const standsOnly = $derived(reach.dispatch.ways.length === 0);
	const sectionName = $derived(
		reach.coverage.field.find((l) => l.sectionId === data.filter.section)?.section ?? ''
	);
	// svelte-ignore state_referenced_locally
	let search = $state(data.filter.search);
	let searchTimer: ReturnType<typeof setTimeout> | undefined;
	function searchSoon(text: string) {
		search = text;
		clearTimeout(searchTimer);
		searchTimer = setTimeout(() => filter({ search: search.trim() }), 250);
	}
	function showSection(section: number) {
		filter({ section });
		document.getElementById('copies')?.scrollIntoView({ block: 'start' });
	}
</script>

<svelte:head><title>{reach.dispatch.subject} · Reach · Idle Courier</title></svelte:head>

<div class="page">
	<LineEnded at={endedAt} {zone} />
	<ReachHead {reach} mine={data.mine} {zone} now={data.frame!.now} />
	{#if data.boards}
		<OnBoards
			on={data.boards}
			id={reach.dispatch.id}
			students={reach.coverage.students}
			{zone}
			now={data.frame!.now}
		/>
	{/if}
	{#if data.invitation}
		<ComingHead invitation={data.invitation} now={data.frame!.now} {zone} />
		<ComingDeeds invitation={data.invitation} mayWrite={data.mayWrite} />
	{/if}
	{#if data.talks.answered > 0}
		<p>
			<a
				href="/replies?dispatch={reach.dispatch.id}{data.talks.waiting === 0
					? '&shelf=settled'
					: ''}"
				>{data.talks.answered.toLocaleString('en')}
				{data.talks.answered === 1 ? 'person has' : 'people have'} answered</a
			>, {data.talks.waiting === 0
				? 'none waits'
				: `${data.talks.waiting.toLocaleString('en')} ${data.talks.waiting === 1 ? 'waits' : 'wait'} for an answer`}.
		</p>
	{/if}
	{#if form?.stopped}<p role="status">{form.stopped}</p>{/if}
	{#if form?.why}
		<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
	{/if}
	{#if reach.copies.unsure > 0}
		<div class="unsure">
			<span class="heed"
				>{reach.copies.unsure}
				{reach.copies.unsure === 1 ? 'copy' : 'copies'} may have arrived: handed over twice, and no answer
				came.</span
			>
			<a href="/reach/{reach.dispatch.id}?state=unsure#copies"
				>Look at {reach.copies.unsure === 1 ? 'it' : 'them'}</a
			>
			{#if data.mine}<form method="post" action="?/onceMore" use:enhance>
					<Button type="submit" size="small" kind="tertiary"
						>Send {reach.copies.unsure} once more</Button
					>
				</form>{/if}
		</div>
	{/if}
	{#if reach.dispatch.state === 'scheduled'}<CourierNotice status={data.courier} {zone} />{/if}

	{#if !standsOnly}
		<div class="two">
			{#if reach.coverage.unit === 'students'}
				<RosterField
					field={reach.coverage.field}
					dispatchId={reach.dispatch.id}
					onsection={showSection}
				/>
			{/if}
			<div class="side">
				<WayTotals byWay={reach.copies.byWay} />
				{#if reach.coverage.growth}
					<GrowthChart
						growth={reach.coverage.growth}
						forecast={reach.coverage.forecast}
						all={reach.coverage.students}
						unit={reach.coverage.unit}
						from={reach.dispatch.leavesAt}
						now={bench.now}
						{zone}
					/>
				{/if}
			</div>
		</div>

		{#if reach.coverage.bySchool.length + reach.coverage.byLanguage.length + reach.copies.links.length + reach.left.rows + reach.left.students.out + reach.left.students.alone > 0 || reach.copies.byWayRead.length > 1}
			<div class="parts">
				{#if reach.coverage.bySchool.length > 0}
					<Shares title="By school" what="covered" shares={reach.coverage.bySchool} />
				{/if}
				{#if reach.coverage.byLanguage.length > 0}
					<Shares
						title="By language of the family"
						what="covered"
						shares={reach.coverage.byLanguage}
						nameOf={languagesWords}
					/>
				{/if}
				{#if reach.copies.byWayRead.length > 1}
					<Shares title="Copies read, by way" what="read" shares={reach.copies.byWayRead} />
				{/if}
				{#if reach.copies.links.length > 0}<LinkLines links={reach.copies.links} />{/if}
				{#if reach.left.rows > 0}
					<LeftOut id={reach.dispatch.id} all={reach.left} lines={reach.left.first} />
				{/if}
				{#if Object.values(reach.left.students).some((n) => n > 0)}
					<section>
						<h3>Students without a copy</h3>
						<StudentsLeft lines={reach.left.studentsFirst} counts={reach.left.students} />
					</section>
				{/if}
			</div>
		{/if}

		<section id="copies">
			<div class="filter-bar">
				<h2>Every copy</h2>
				{#if data.filter.section > 0 && sectionName}
					<ul>
						<Slip label="Copies of all sections" onremove={() => filter({ section: 0 })}
							>{sectionName}</Slip
						>
					</ul>
				{/if}
				<Search
					size="sm"
					labelText="Find a person or student"
					placeholder="Find a person or student"
					bind:value={() => search, (text) => searchSoon(String(text ?? ''))}
				/>
				<CopyFilter
					state={data.filter.state}
					way={data.filter.way}
					extra={[
						{ value: 'not-covered', text: 'for students not covered' },
						...(reach.copies.unsure > 0
							? [{ value: 'unsure', text: `may have arrived (${reach.copies.unsure})` }]
							: []),
						...(reach.copies.weak > 0
							? [{ value: 'weak', text: `weak evidence only (${reach.copies.weak})` }]
							: [])
					]}
					onfilter={filter}
				/>
				<span class="quiet count">{reach.copies.found} of {reach.copies.all} copies</span>
			</div>
			<DeliveryTable
				lines={reach.copies.deliveries}
				habits={reach.copies.habits}
				found={reach.copies.found}
				page={data.filter.page}
				{zone}
				now={data.frame!.now}
				onpage={(page) => filter({ page })}
			/>
		</section>
	{/if}
	{#if data.log.length > 0}
		<details class="log">
			<summary>What was done with it ({data.log.length})</summary>
			<LogLines lines={data.log} {zone} />
		</details>
	{/if}
</div>

<style>
	.log {
		margin-top: 16px;
	}
	.log summary {
		cursor: pointer;
		margin-bottom: 6px;
	}
	.page {
		gap: 16px;
	}
	.unsure {
		display: flex;
		flex-wrap: wrap;
		gap: 12px;
		align-items: center;
	}
	.two {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 340px;
		gap: 28px;
		align-items: start;
	}
	.side {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 18px;
	}
	.parts {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(min(330px, 100%), 1fr));
		gap: 20px 32px;
		align-items: start;
	}
	#copies :global(.bx--search) {
		flex: 0 1 260px;
	}
	.count {
		margin-left: auto;
	}
	@media (max-width: 1000px) {
		.two {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
