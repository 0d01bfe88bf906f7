<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import { localOf, type LocalTime } from '$lib/core/time/local';
	import { dayTime } from '../parts/clock';
	import type { DateLine } from '$lib/server/desk/calendar/types';
	import { bench } from '../parts/bench.svelte';
	import { standing } from './standing';
	import StateRing from '../parts/StateRing.svelte';
	import MoveTo from './MoveTo.svelte';

	/** The dates of a round or the reminders of an event, each with what can be done with it alone. */
	let { dates, zone }: { dates: readonly DateLine[]; zone: string } = $props();
	let moving = $state.raw<DateLine | null>(null);
	let to = $state<LocalTime>('2027-01-01T00:00');
	let form = $state<HTMLFormElement>();
</script>

<table>
	<thead>
		<tr>
			<th scope="col">Leaves</th>
			<th scope="col">Subject</th>
			<th scope="col">Copies</th>
			<th scope="col"><span class="spoken">What to do</span></th>
		</tr>
	</thead>
	<tbody>
		{#each dates as d (d.id)}
			<tr>
				<td>
					<span class="mono">{dayTime(d.leavesAt ?? d.changedAt, zone)}</span>
					{#if d.words}<br /><span class="quiet">{d.words}</span>{/if}
					{#if d.own}<br /><span class="quiet">its own time</span>{/if}
				</td>
				<td>
					<a href={d.state === 'draft' ? `/write?draft=${d.id}` : `/reach/${d.id}`} dir="auto"
						>{d.subject}</a
					>
					{#if d.waits !== null}<p class="heed">{d.waits}</p>{/if}
				</td>
				<td>
					{#if d.state === 'scheduled' && d.waits === null}<StateRing state="planned" />{/if}
					{standing(d)}
				</td>
				<td class="do">
					{#if d.state === 'scheduled'}
						<form method="POST" use:enhance>
							<input type="hidden" name="id" value={d.id} />
							{#if d.waits !== null}<button class="plain" formaction="?/resume"
									>Send it all the same</button
								>{/if}
							<button
								class="plain"
								type="button"
								onclick={() => {
									moving = d;
									to = localOf(Math.max(d.leavesAt!, bench.now + 30 * 60_000), zone);
								}}>Move</button
							>
							<button class="plain" formaction="?/open">Change in Write</button>
							<button class="plain" formaction="?/leaveOut">Leave out</button>
						</form>
					{/if}
				</td>
			</tr>
		{/each}
	</tbody>
</table>

<form
	method="POST"
	action="?/move"
	bind:this={form}
	use:enhance={() =>
		async ({ update }) => {
			moving = null;
			await update();
		}}
>
	<input type="hidden" name="id" value={moving?.id ?? ''} />
	<input type="hidden" name="base" value={moving?.changedAt ?? ''} />
	<input type="hidden" name="to" value={to} />
</form>
<MoveTo
	open={moving !== null}
	heading="Move this date alone"
	label="Leaves"
	{zone}
	bind:to
	onmove={() => form?.requestSubmit()}
	onclose={() => (moving = null)}
>
	{#snippet before()}
		<p>The others stay where they are; this one no longer follows them.</p>
	{/snippet}
</MoveTo>
{#if dates.length === 0}<p class="quiet">None is left.</p>{/if}
{#if dates.some((d) => d.state === 'scheduled')}
	<form method="POST" action="?/leaveRest" use:enhance>
		<input type="hidden" name="round" value={dates[0]!.roundId} />
		<Button kind="danger-ghost" size="small" type="submit">
			Leave out the {dates.filter((d) => d.state === 'scheduled').length} still to come
		</Button>
	</form>
{/if}

<style>
	table {
		width: 100%;
		border-collapse: collapse;
		background: var(--sheet);
		margin-bottom: 10px;
	}
	th,
	td {
		text-align: start;
		vertical-align: top;
		padding: 6px 12px 6px 8px;
		border-top: 1px solid var(--line);
	}
	th {
		color: var(--quiet);
		font-weight: 600;
	}
	td:first-child {
		white-space: nowrap;
	}
	.do form {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 12px;
		justify-content: flex-end;
	}
</style>
