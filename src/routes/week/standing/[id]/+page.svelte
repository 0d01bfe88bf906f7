<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import { dayTime } from '$lib/ui/parts/clock';
	import LineTable from '$lib/ui/parts/LineTable.svelte';
	import ViewLinks from '$lib/ui/week/ViewLinks.svelte';
	import type { DispatchLine } from '$lib/server/desk/week/types';

	/** A sheet that leaves by itself, for a marker or from a feed: what it waits for, and what has left of it. */
	let { data, form } = $props();
	const s = $derived(data.standing);
	/** Its last date may wait for an answer, or for a feed that cannot be read. */
	const goesOn = $derived(
		s.waits !== null || (s.waitsFor.kind === 'feed' && s.waitsFor.nextAt !== null)
	);
	const over = $derived(s.endedAt !== null || (s.endsAt <= s.now && !goesOn));
	const time = (at: number) => dayTime(at, data.zone, s.now);
	const ended = $derived(
		s.endedAt === null
			? `until ${time(s.endsAt)}; that is past.`
			: `and was ended ${time(s.endedAt)}.`
	);
	function lookWords({ outcome, entries, why }: (typeof s.looks)[number]): string {
		switch (outcome) {
			case 'sent':
				return `${entries} ${entries === 1 ? 'entry' : 'entries'} sent`;
			case 'nothing':
				return 'nothing new, nothing sent';
			case 'failed':
				return `nothing sent. ${why}`;
			case 'missed':
				return `not asked. ${why}`;
		}
	}
	const students = (n: number) => `${n.toLocaleString('en')} ${n === 1 ? 'student' : 'students'}`;
	const columns = [
		{ key: 'leavesAt', value: 'Left' },
		{ key: 'students', value: 'Students' },
		{ key: 'copies', value: 'Copies' },
		{ key: 'covered', value: 'Covered' }
	] as const;
</script>

<svelte:head><title>{s.subject} · Idle Courier</title></svelte:head>

{#snippet cell(line: DispatchLine, key: (typeof columns)[number]['key'])}
	{#if key === 'leavesAt'}
		<a href="/reach/{line.id}">{line.leavesAt === null ? 'not yet' : time(line.leavesAt)}</a>
	{:else if key === 'covered'}{line.covered} of {line.students}
	{:else}{line[key].toLocaleString('en')}{/if}
{/snippet}

<div class="page">
	<div class="page-head start">
		<h1 dir="auto">{s.subject}</h1>
		<ViewLinks at="list" />
	</div>
	<p dir="auto">{s.words}.</p>
	<p>
		{#if s.waitsFor.kind === 'marker'}
			Leaves whenever a student of them gains
			<a href="/people/markers/{s.waitsFor.id}" dir="auto">{s.waitsFor.name}</a>{s.holdMinutes > 0
				? `, ${s.holdMinutes} ${s.holdMinutes === 1 ? 'minute' : 'minutes'} after it`
				: ''}, {over
				? ended
				: `until ${time(s.endsAt)}. Each family gets it once for each student.`}
		{:else}
			Leaves on its dates with what is new in
			<b dir="auto">{s.waitsFor.title || 'the feed'}</b>
			<span class="mono" dir="ltr">{s.waitsFor.address}</span>, {over
				? ended
				: `until ${time(s.endsAt)}${s.waitsFor.nextAt === null ? '' : `. It is asked next ${time(s.waitsFor.nextAt)}`}.`}
		{/if}
		<span class="quiet">{s.sender}, {time(s.madeAt)}</span>
	</p>
	{#if form && 'said' in form}<p class="good" role="status">{form.said}</p>{/if}
	{#if form && 'why' in form}<p class="fail" role="alert">{form.why}</p>{/if}
	{#if s.waits}
		<p class="heed" role="status">It does not leave: {s.waits}</p>
	{/if}
	{#if s.waitsFor.kind === 'marker'}
		<p class="number">
			<b>{s.students.toLocaleString('en')}</b>
			{s.students === 1 ? 'student' : 'students'} so far{s.held > 0
				? `, ${students(s.held)} held`
				: ''}{over
				? ''
				: `; up to ${students(s.expected.students)} more, ${s.expected.copies.toLocaleString('en')} copies, if all gain it`}
		</p>
	{:else}
		{#if s.waitsFor.failingSince !== null}
			<p class="heed" role="status">It cannot be read since {time(s.waitsFor.failingSince)}.</p>
		{/if}
		<p class="number">
			<b>{s.waitsFor.entries.toLocaleString('en')}</b>
			{s.waitsFor.entries === 1 ? 'entry' : 'entries'} sent so far{over
				? ''
				: `; ${s.expected.copies.toLocaleString('en')} copies each time, for ${students(s.expected.students)}`}
		</p>
	{/if}
	{#if s.sent.length > 0}
		<LineTable {columns} lines={s.sent} idOf={(line) => line.id} {cell} />
	{:else}
		<p class="quiet">Nothing has left yet.</p>
	{/if}
	{#if s.looks.length > 0}
		<section>
			<h2>Its dates</h2>
			<ul>
				{#each s.looks as look (look.id)}
					<li>
						{#if look.dispatchId === null}{time(look.at)}
						{:else}<a href="/reach/{look.dispatchId}">{time(look.at)}</a>{/if}
						<span class:heed={look.outcome === 'failed'} class:quiet={look.outcome !== 'failed'}
							>{lookWords(look)}</span
						>
					</li>
				{/each}
			</ul>
		</section>
	{/if}
	{#if s.nothing.length > 0}
		<section>
			<h2>Nothing left for</h2>
			<ul>
				{#each s.nothing as one (one.studentId)}
					<li>
						<a href="/people/{one.studentId}" dir="auto">{one.name}</a>
						<span class="quiet">{one.why}</span>
					</li>
				{/each}
			</ul>
		</section>
	{/if}
	{#if !over}
		<div class="deeds">
			{#if s.waits}
				<form method="post" action="?/again" use:enhance>
					<Button type="submit" size="small" kind="tertiary">Try it again</Button>
				</form>
			{/if}
			<form method="post" action="?/end" use:enhance>
				<Button type="submit" size="small" kind="danger-ghost">End it</Button>
			</form>
		</div>
	{/if}
</div>

<style>
	.page {
		max-width: 900px;
	}
	.number b {
		font-size: 22px;
	}
	.deeds {
		display: flex;
		gap: 12px;
	}
</style>
