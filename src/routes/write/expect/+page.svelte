<script lang="ts">
	import { Button, Select, SelectItem } from 'carbon-components-svelte';
	import { onMount } from 'svelte';
	import { count } from '$lib/core/copy/count';
	import { wantedFrom } from '$lib/core/plan/wanted';
	import { localOf, placeLocal } from '$lib/core/time/local';
	import type { ComparedWays, WhatToExpect } from '$lib/server/desk/expect/types';
	import { bench } from '$lib/ui/parts/bench.svelte';
	import { dayTime, nearTime } from '$lib/ui/parts/clock';
	import MomentField from '$lib/ui/parts/MomentField.svelte';
	import { postJson } from '$lib/ui/parts/post-json';
	import ExpectChart from '$lib/ui/write/expect/ExpectChart.svelte';
	import ExpectTable from '$lib/ui/write/expect/ExpectTable.svelte';
	import Hardly from '$lib/ui/write/expect/Hardly.svelte';
	import { Sheet } from '$lib/ui/write/sheet/sheet.svelte';
	import { Shelf } from '$lib/ui/write/sheet/shelf';

	let { data } = $props();
	// svelte-ignore state_referenced_locally
	const shelf = new Shelf(data.userId);

	let sheet = $state.raw<Sheet | null>(null);
	let view = $state.raw<WhatToExpect | null>(null);
	let trouble = $state('');
	let none = $state(false);
	let busy = $state(false);
	let said = $state('');
	/** Why a time that was said is none to want it by. */
	let refused = $state('');
	let asked = 0;
	const shares = [50, 60, 70, 75, 80, 85, 90, 95, 100];

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
		const answer = await postJson<WhatToExpect>('/write/expect/ask', sheet!.data);
		if (mine !== asked) return;
		if (answer.ok) view = answer.body;
		trouble = answer.why;
		busy = false;
	}

	function want(by: number, share: number) {
		const found = wantedFrom(by, view!.leavesAt, view!.zone, share);
		refused = found.ok ? '' : found.why;
		if (!found.ok) return;
		sheet!.wanted = found.wanted;
		sheet!.keep();
		void ask();
	}

	/** Takes a choice over into the sheet. */
	function use(row: ComparedWays) {
		sheet!.ways = [...row.ways];
		sheet!.turns = row.turns;
		sheet!.keep();
		said = `The sheet goes by ${row.words} now.`;
		void ask();
	}
	const by = $derived(view ? dayTime(view.by, view.zone, bench.now) : '');
	const own = $derived(view?.is === 'known' ? view.rows.find((r) => r.own) : undefined);
	const cheapest = $derived(view?.is === 'known' ? view.rows.find((r) => r.cheapest) : undefined);
</script>

<svelte:head><title>What to expect · Write · Idle Courier</title></svelte:head>

<div class="page">
	<header class="page-head">
		<div>
			<p class="quiet">
				<a href="/write">Write</a> ·
				{#if sheet?.subject}<span dir="auto">{sheet.subject}</span><span>&nbsp;·&nbsp;</span
					>{/if}What to expect
			</p>
			{#if view?.is === 'known' && own}
				<h1>
					By {by}, about {count(own.expected)} of {count(view.students)}
					{view.of === 'people' ? 'people' : 'students'}
					{view.of === 'people' ? 'have read it' : 'covered'}
					<span class="band">({count(own.low)} to {count(own.high)} in 9 of 10 such cases)</span>
				</h1>
				<p class="quiet small">
					From how {count(view.learned.people)} people read {count(view.learned.copies)} copies, as learned
					{nearTime(view.learned.at, bench.now, view.zone)}.
					<a href="/reach/forecasts">How good such forecasts were</a>
				</p>
			{:else}
				<h1>What to expect</h1>
			{/if}
		</div>
		<Button href="/write" size="small">Back to the wording</Button>
	</header>
	{#if trouble}<p class="fail" role="alert">{trouble}</p>{/if}
	{#if none}
		<p>
			There is no sheet in this browser. <a href="/write">Write</a> one; what to expect of it is then
			here.
		</p>
	{:else if !view && !trouble}
		<p class="quiet">Working it out…</p>
	{:else if view}
		<div class="wanted" aria-busy={busy}>
			<MomentField
				label="They should know by"
				value={localOf(view.by, view.zone)}
				now={bench.now}
				zone={view.zone}
				onchange={(at) => want(placeLocal(at, view!.zone).at, view!.share)}
			/>
			<Select
				size="sm"
				labelText="At least"
				selected={String(view.share)}
				on:update={(e) => {
					const share = Number(e.detail);
					if (share !== view!.share) want(view!.by, share);
				}}
			>
				{#each [...new Set([...shares, view.share])].sort((a, b) => a - b) as share (share)}
					<SelectItem value={String(share)} text="{share} % of them" />
				{/each}
			</Select>
			<p role="status" class="small">
				{#if refused}<span class="fail">{refused}</span>{/if}
				{#if busy}<span class="quiet">Working it out…</span>{:else if said}{said}{/if}
			</p>
		</div>
		{#if view.is === 'nobody'}
			<p>
				Nobody is written to yet: pick whom it is for, and by which ways. <a href="/write"
					>To Write</a
				>
			</p>
		{:else if view.is === 'unknown'}
			<p>
				Too little has been read by {view.ways.length > 0 ? view.ways.join(' and ') : 'these ways'} yet
				to say how many will know by then. It is said once some sixty copies of three dispatches are three
				days old, and was learned in the night.
			</p>
		{:else}
			<p class="answer">
				{#if cheapest?.own}
					Nothing cheaper comes to {view.share} %.
				{:else if cheapest}
					The least that comes to {view.share} %, {count(view.enough)} of them:
					<b>{cheapest.words}</b>{#if view.ownIsEnough}; the sheet’s own ways do too, at more{/if}.
				{:else}
					<span class="heed">No choice of ways comes to {view.share} % by then.</span> The others are
					to be told by phone, or later.
				{/if}
			</p>
			<div class="two">
				<div>
					<ExpectTable rows={view.rows} all={view.students} {by} share={view.share} onuse={use} />
					<Hardly hardly={view.hardly} of={view.of} />
				</div>
				<ExpectChart
					curve={view.curve}
					other={view.other}
					turns={view.turns}
					all={view.students}
					enough={view.enough}
					by={view.by}
					from={view.leavesAt}
					now={bench.now}
					zone={view.zone}
				/>
			</div>
		{/if}
	{/if}
</div>

<style>
	h1 {
		margin-top: 6px;
		font-size: 24px;
	}
	.band {
		font-size: 16px;
		font-weight: 400;
		color: var(--quiet);
	}
	.wanted {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 20px;
		align-items: flex-end;
		margin-bottom: 10px;
	}
	.wanted :global(.bx--select) {
		width: 170px;
	}
	.answer {
		margin-bottom: 12px;
	}
	.two {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(min(440px, 100%), 1fr));
		gap: 24px 28px;
		align-items: start;
	}
	@media (min-width: 1100px) {
		.two {
			grid-template-columns: 1.7fr 1fr;
		}
	}
</style>
