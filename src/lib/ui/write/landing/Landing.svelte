<script lang="ts">
	import { Button } from 'carbon-components-svelte';
	import { ways as allWays } from '$lib/core/roster/way';
	import type { Door } from '$lib/server/desk/plan/types';
	import { count } from '$lib/core/copy/count';
	import WayMark from '../../parts/WayMark.svelte';
	import Expects from './Expects.svelte';
	import ForInformation from '../ways/ForInformation.svelte';
	import NamesOf from './NamesOf.svelte';
	import type { Sheet } from '../sheet/sheet.svelte';

	/** How it lands: the tally, each number a door to its names, and the standing check under it. */
	let { sheet, zone }: { sheet: Sheet; zone: string } = $props();

	let names: NamesOf;
	const show = (door: Door) => names.show(door);
	const tally = $derived(sheet.landing?.tally);
	/** The chosen ways, and others by which copies for information or by hand go. */
	const shownWays = $derived(
		allWays.filter((w) => sheet.ways.includes(w) || (tally?.byWay[w] ?? 0) > 0)
	);
	/** On how many boards it stands, where it goes by no way: then there are no copies to be counted. */
	const standsOn = $derived(
		sheet.ways.length === 0 && tally?.copies === 0 ? (sheet.landing?.boards?.names.length ?? 0) : 0
	);
	/** Students of whom no copy speaks, and people who get one for some of theirs only: a line for each kind. */
	const studentsLeft = $derived(
		(
			[
				['leftOutForSome', tally?.leftOutForSome ?? 0, 'a copy, but not for every student'],
				[
					'unreached',
					(tally?.studentsWithNobody ?? 0) - (tally?.studentsAlone ?? 0),
					'students nobody is reached for'
				],
				['alone', tally?.studentsAlone ?? 0, 'students with nobody on file'],
				['out', tally?.studentsOut ?? 0, 'students taken out']
			] as const
		).flatMap(([door, students, words]) => (students > 0 ? [{ door, students, words }] : []))
	);
</script>

<section class="lands" aria-busy={sheet.counting}>
	<h2>How it lands</h2>
	{#if sheet.trouble}<p class="fail" role="alert">{sheet.trouble}</p>{/if}
	{#if tally && standsOn > 0}
		<p role="status">
			<b>{count(standsOn)} {standsOn === 1 ? 'board' : 'boards'}</b>, for
			<b>{count(tally.students)} {tally.students === 1 ? 'student' : 'students'}</b>
		</p>
		<p class="quiet">Nobody is written to. Families read it on their boards.</p>
	{:else if tally}
		<div class="sum" role="status">
			<button class="door big" onclick={() => show('people')}>
				{count(tally.people)}<span class="spoken"
					>{tally.people === 1 ? 'person' : 'people'}, show names</span
				>
			</button>
			<span>
				{tally.people === 1 ? 'person' : 'people'}, for<br />
				<b
					>{tally.students === 0 && tally.people > 0 ? 'no' : count(tally.students)}
					{tally.students === 1 ? 'student' : 'students'}{tally.students === 0 && tally.people > 0
						? ' in particular'
						: ''}</b
				>
			</span>
		</div>
		{#if sheet.landing?.expect}<Expects line={sheet.landing.expect} {zone} />{/if}
		{#if sheet.chases !== null}
			<p class="small chase" role="status">
				{#if tally.students === 0}
					Everybody is covered by now: there is nobody left to chase.
				{:else}
					<b>{tally.students - tally.studentsWithNobody} of {tally.students}</b>
					not covered can be reached{#if tally.studentsWithNobody > 0}; <a
							href="/reach/{sheet.chases}/calls">{tally.studentsWithNobody} for a phone call</a
						>{/if}.
				{/if}
			</p>
		{/if}
		<dl>
			{#each shownWays as way (way)}
				<dt><WayMark {way} word /></dt>
				<dd>
					<button
						class="door"
						onclick={() => show(way)}
						aria-label="{count(tally.byWay[way])} by {way}, show names"
					>
						{count(tally.byWay[way])}
					</button>
				</dd>
				{#each tally.notByWay[way] as reason (reason.text)}
					<dt class="why">{reason.text}</dt>
					<dd class="why">{count(reason.people)}</dd>
				{/each}
			{/each}
			<dt class="total">copies in all</dt>
			<dd class="total"><b>{count(tally.copies)}</b></dd>
			{#if tally.inTurn > 0}
				<dt class="quiet">of these, only to those who have not read by then</dt>
				<dd>{count(tally.inTurn)}</dd>
			{/if}
			{#if tally.severalStudents > 0}
				<dt class="quiet">
					{sheet.perStudent
						? 'a copy for each of several students'
						: 'one copy for several students'}
					<button class="plain" onclick={() => (sheet.perStudent = !sheet.perStudent)}>
						{sheet.perStudent ? 'one copy for all' : 'one copy per student'}
					</button>
				</dt>
				<dd>{count(tally.severalStudents)}</dd>
			{/if}
			{#if tally.merged > 0}
				<dt class="quiet">
					same address, one copy
					<button class="plain" onclick={() => (sheet.perPerson = true)}>a copy each</button>
				</dt>
				<dd>
					<button
						class="door"
						onclick={() => show('merged')}
						aria-label="{count(tally.merged)} merged, show names"
					>
						{count(tally.merged)}
					</button>
				</dd>
			{:else if sheet.perPerson}
				<dt class="quiet">
					a copy each at the same address
					<button class="plain" onclick={() => (sheet.perPerson = false)}>one copy</button>
				</dt>
				<dd>–</dd>
			{/if}
			{#if sheet.landing && sheet.landing.times.shifted > 0}
				<dt class="quiet">later, out of quiet hours</dt>
				<dd>{count(sheet.landing.times.shifted)}</dd>
			{/if}
			{#if sheet.landing && sheet.landing.times.inDigests > 0}
				<dt class="quiet">in their readers’ daily digests</dt>
				<dd>{count(sheet.landing.times.inDigests)}</dd>
			{/if}
			{#if tally.byOtherLine > 0}
				<dt class="quiet">already in by another line</dt>
				<dd>
					<button
						class="door"
						onclick={() => show('byOtherLine')}
						aria-label="{count(tally.byOtherLine)} by another line, show names"
					>
						{count(tally.byOtherLine)}
					</button>
				</dd>
			{/if}
			{#if tally.informed > 0}
				<dt class="quiet">of these, for information</dt>
				<dd>
					<button
						class="door"
						onclick={() => show('informed')}
						aria-label="{count(tally.informed)} for information, show names"
					>
						{count(tally.informed)}
					</button>
				</dd>
			{/if}
			{#if tally.leftOut > 0}
				<dt class="heed">left out</dt>
				<dd class="heed">
					<button
						class="door"
						onclick={() => show('leftOut')}
						aria-label="{count(tally.leftOut)} left out, show names"
					>
						{count(tally.leftOut)}
					</button>
				</dd>
				{#each tally.leftOutBy.slice(0, 2) as reason (reason.text)}
					<dt class="why">{reason.text}</dt>
					<dd class="why">{count(reason.people)}</dd>
				{/each}
				{#if tally.leftOutBy.length > 2}
					<dt class="why">
						{tally.leftOutBy.length - 2} more {tally.leftOutBy.length === 3 ? 'reason' : 'reasons'}
					</dt>
					<dd class="why">
						{count(tally.leftOutBy.slice(2).reduce((sum, r) => sum + r.people, 0))}
					</dd>
				{/if}
			{/if}
			{#each studentsLeft as { door, students, words } (door)}
				<dt class:heed={door !== 'out'} class:quiet={door === 'out'}>{words}</dt>
				<dd class:heed={door !== 'out'}>
					<button
						class="door"
						onclick={() => show(door)}
						aria-label="{count(students)} {students === 1
							? 'student'
							: 'students'}, {words}, show names"
					>
						{count(students)}
					</button>
				</dd>
			{/each}
		</dl>
	{:else if !sheet.trouble}
		<p class="quiet">Counting…</p>
	{/if}

	<ForInformation {sheet} />

	<div class="doors">
		<Button kind="tertiary" size="small" href="/write/manifest">Open the manifest</Button>
		{#if (tally?.students ?? 0) > 0}
			<a class="small" href="/people/reach?of=sheet-{sheet.sheetKey}" target="_blank" rel="noopener"
				>How well these families are reached</a
			>
		{/if}
	</div>
</section>

<NamesOf {sheet} bind:this={names} />

<style>
	.sum {
		display: flex;
		gap: 12px;
		align-items: flex-end;
		margin: 10px 0 12px;
		padding-bottom: 12px;
		border-bottom: 1px solid var(--line);
	}
	.big {
		font-size: 40px;
		font-weight: 700;
		letter-spacing: -0.02em;
		line-height: 1;
	}
	.chase {
		margin-bottom: 8px;
	}
	dl {
		display: grid;
		grid-template-columns: 1fr auto;
		row-gap: 5px;
	}
	dd {
		text-align: right;
		padding-inline-start: 10px;
		font-weight: 600;
	}
	.why {
		font-size: 12.5px;
		font-weight: 400;
		color: var(--quiet);
		padding-left: 20px;
		margin-top: -3px;
	}
	.total {
		border-top: 1px solid var(--line);
		margin-top: 3px;
		padding-top: 6px;
	}
	.doors {
		display: grid;
		gap: 8px;
		justify-items: start;
		margin-top: 14px;
	}
</style>
