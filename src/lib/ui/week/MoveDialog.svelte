<script lang="ts">
	import { Button } from 'carbon-components-svelte';
	import { DateTime } from 'luxon';
	import { localOf, type LocalTime } from '$lib/core/time/local';
	import { dayTime } from '../parts/clock';
	import type { DispatchLine } from '$lib/server/desk/week/types';
	import type { MoveEffect } from '$lib/server/desk/plan/types';
	import { bench } from '../parts/bench.svelte';
	import MoveTo from './MoveTo.svelte';

	/** Moves a dispatch without dragging: by day, or to any time, with what each does to the family load. */
	let {
		line,
		zone,
		limit,
		effects,
		onmove,
		onclose
	}: {
		line: DispatchLine | null;
		zone: string;
		limit: number;
		/** Null while they are asked for. */
		effects: readonly MoveEffect[] | null;
		onmove: (line: DispatchLine, to: LocalTime) => void;
		onclose: () => void;
	} = $props();
	const at = $derived(line ? (line.leavesAt ?? line.intendedAt!) : 0);
	let to = $state<LocalTime>('2027-01-01T00:00');
	$effect(() => {
		if (line) to = localOf(at, zone);
	});
	const time = $derived(to.slice(10));
	const dayOf = (date: string) =>
		DateTime.fromISO(date, { zone: 'utc' }).setLocale('en-US').toFormat('ccc LLL d');
</script>

<MoveTo
	open={line !== null}
	heading="Move {line?.subject ?? ''}"
	label="Move it to"
	{zone}
	bind:to
	onmove={() => line && onmove(line, to)}
	{onclose}
>
	{#snippet before()}
		<p>It {line?.state === 'draft' ? 'is meant for' : 'leaves'} {dayTime(at, zone, bench.now)}.</p>
	{/snippet}
	{#snippet after()}
		<h3>By day, at the same time</h3>
		<ul>
			{#each effects ?? [] as e (e.date)}
				<li>
					<Button
						kind={to.startsWith(e.date) ? 'primary' : 'ghost'}
						size="small"
						on:click={() => (to = `${e.date}${time}`)}>{dayOf(e.date)}</Button
					>
					<span class={e.after > e.before ? 'heed' : 'quiet'}>
						{#if line?.state !== 'draft' && localOf(at, zone).startsWith(e.date)}it leaves this day
							now; without it {e.before}
							→ {e.after} families over {limit}
						{:else if e.after === e.before}{e.before} families over {limit}
						{:else}{e.before} → {e.after} families over {limit}{/if}
					</span>
				</li>
			{/each}
		</ul>
		{#if effects === null}<p class="quiet">Counting the families…</p>{/if}
	{/snippet}
</MoveTo>

<style>
	h3 {
		margin: 16px 0 4px;
	}
	ul {
		list-style: none;
		padding: 0;
	}
	li {
		display: flex;
		align-items: center;
		gap: 12px;
	}
</style>
