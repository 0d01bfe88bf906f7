<script lang="ts">
	import { Button } from 'carbon-components-svelte';
	import { count } from '$lib/core/copy/count';
	import { turnsWords } from '$lib/core/plan/turns';
	import { nearTime } from '../parts/clock';
	import { coveredWords, coverWords, type CoverageUnit } from '$lib/core/track/coverage';
	import type { DispatchReach } from '$lib/server/desk/reach/types';
	import { bench } from '../parts/bench.svelte';
	import Leaving from './Leaving.svelte';

	/** The head of one dispatch: how far it is covered, what can be done about it, and what it follows up. */
	let {
		reach,
		mine,
		zone,
		now
	}: {
		reach: DispatchReach;
		/** Whether the viewer may stop it. */
		mine: boolean;
		zone: string;
		/** Instant of the page, ms. */
		now: number;
	} = $props();
	const dispatch = $derived(reach.dispatch);
	const coverage = $derived(reach.coverage);
	const ahead = $derived(dispatch.state === 'scheduled' && dispatch.leavesAt > bench.now);
	const waits = $derived(dispatch.state === 'scheduled' ? dispatch.waits : null);
	/** Whether anything has left that could have been read. */
	const hasLeft = $derived(
		reach.copies.byWay.some((w) => w.copies > (w.states.held ?? 0) + (w.states.planned ?? 0))
	);
	const unitWord = (n: number, unit: CoverageUnit) =>
		unit === 'people' ? (n === 1 ? 'person' : 'people') : n === 1 ? 'student' : 'students';
	const uncovered = $derived(coverage.students - coverage.covered);
</script>

<header class="page-head">
	<div>
		<p class="quiet">
			<a href="/reach">Reach</a> · <span dir="auto">{dispatch.subject}</span> ·
			{#if dispatch.roundId !== null}<a href="/week/round/{dispatch.roundId}">repeating</a> ·{/if}
			{dispatch.ways.length === 0 ? 'stands from' : ahead || waits !== null ? 'leaves' : 'left'}
			{nearTime(dispatch.leavesAt, now, zone)} · by {dispatch.sender} · {dispatch.ways.length === 0
				? 'on boards alone'
				: turnsWords(dispatch.ways, dispatch.turns)}{#if coverage.rule !== 'adult'}
				· covered when {coverWords[coverage.rule]}{/if}
		</p>
		{#if dispatch.urgent}
			<p class="small heed">
				Urgent, by {dispatch.urgent.by}, {nearTime(dispatch.urgent.at, now, zone)}: in quiet hours
				as well{dispatch.urgent.overWish > 0
					? `, and ${dispatch.urgent.overWish} ${dispatch.urgent.overWish === 1 ? 'copy' : 'copies'} to people who want none of this kind`
					: ''}.
			</p>
		{/if}
		<h1 aria-live="polite">
			{#if dispatch.ways.length === 0}
				Nobody is written to: it stands for {count(coverage.students)}
				{unitWord(coverage.students, coverage.unit)}
			{:else if !hasLeft}
				Not sent yet: {count(coverage.students)}
				{unitWord(coverage.students, coverage.unit)}{#if coverage.unreachable > 0}, <span
						class="fail">{count(coverage.unreachable)} cannot be reached</span
					>{/if}
			{:else}{coveredWords(
					coverage.covered,
					coverage.students,
					coverage.unit
				)}{#if coverage.waiting > 0}, <span class="heed">{count(coverage.waiting)} waiting</span
					>{/if}{#if coverage.unreachable > 0}, <span class="fail"
						>{count(coverage.unreachable)} cannot be reached</span
					>{/if}{/if}
		</h1>
	</div>
	{#if hasLeft}
		<div class="acts">
			<Button kind="tertiary" href="/reach/{dispatch.id}/account">Report</Button>
			{#if coverage.unreachable > 0 && coverage.unit === 'students'}
				<Button kind="tertiary" href="/reach/{dispatch.id}/calls">Phone calls</Button>
			{/if}
			{#if uncovered > 0 && reach.copies.pending.untried === 0}<form method="post" action="?/chase">
					<Button type="submit"
						>Chase {count(uncovered)}
						{unitWord(uncovered, coverage.unit)}</Button
					>
				</form>{/if}
		</div>
	{/if}
	{#if dispatch.state === 'scheduled'}
		<Leaving {reach} {mine} {zone} />
	{/if}
</header>
{#if dispatch.chases || dispatch.chasedBy.length > 0}
	<p class="small">
		{#if dispatch.chases}Follows up <a href="/reach/{dispatch.chases.id}" dir="auto"
				>{dispatch.chases.subject}</a
			>.{/if}
		{#if dispatch.chasedBy.length > 0}Followed up by {#each dispatch.chasedBy as other, i (other.id)}{i >
				0
					? ', '
					: ''}<a href="/reach/{other.id}" dir="auto">{other.subject}</a>{/each}.{/if}
		{#if coverage.together}Together <b
				>{coveredWords(coverage.together.covered, coverage.students, coverage.unit)}</b
			>.{/if}
	</p>
{/if}

<style>
	h1 {
		font-size: 27px;
		letter-spacing: -0.015em;
		margin-top: 6px;
	}
	.acts {
		display: flex;
		gap: 8px;
	}
</style>
