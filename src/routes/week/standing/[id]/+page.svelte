<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import { dayTime } from '$lib/ui/parts/clock';
	import LineTable from '$lib/ui/parts/LineTable.svelte';
	import ViewLinks from '$lib/ui/week/ViewLinks.svelte';
	import type { DispatchLine } from '$lib/server/desk/week/types';

	/** A sheet that leaves whenever a student gains a marker: what it waits for, and what has left of it. */
	let { data, form } = $props();
	const s = $derived(data.standing);
	const over = $derived(s.endedAt !== null || s.endsAt <= s.now);
	const time = (at: number) => dayTime(at, data.zone, s.now);
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
		Leaves whenever a student of them gains
		<a href="/people/markers/{s.markerId}" dir="auto">{s.marker}</a>{s.holdMinutes > 0
			? `, ${s.holdMinutes} ${s.holdMinutes === 1 ? 'minute' : 'minutes'} after it`
			: ''}, {over
			? s.endedAt === null
				? `until ${time(s.endsAt)}; that is past.`
				: `and was ended ${time(s.endedAt)}.`
			: `until ${time(s.endsAt)}. Each family gets it once for each student.`}
		<span class="quiet">{s.sender}, {time(s.madeAt)}</span>
	</p>
	{#if form && 'said' in form}<p class="good" role="status">{form.said}</p>{/if}
	{#if form && 'why' in form}<p class="fail" role="alert">{form.why}</p>{/if}
	{#if s.waits}
		<p class="heed" role="status">It does not leave: {s.waits}</p>
	{/if}
	<p class="number">
		<b>{s.students.toLocaleString('en')}</b>
		{s.students === 1 ? 'student' : 'students'} so far{s.held > 0
			? `, ${students(s.held)} held`
			: ''}{over
			? ''
			: `; up to ${students(s.expected.students)} more, ${s.expected.copies.toLocaleString('en')} copies, if all gain it`}
	</p>
	{#if s.sent.length > 0}
		<LineTable {columns} lines={s.sent} idOf={(line) => line.id} {cell} />
	{:else}
		<p class="quiet">Nothing has left yet.</p>
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
