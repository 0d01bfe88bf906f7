<script lang="ts">
	import { DateTime } from 'luxon';
	import { Button } from 'carbon-components-svelte';
	import { clockTime, dayParts } from '$lib/core/time/zone';
	import CourierNotice from '$lib/ui/parts/CourierNotice.svelte';
	import DispatchTag from '$lib/ui/week/DispatchTag.svelte';
	import Waiting from '$lib/ui/week/Waiting.svelte';

	let { data } = $props();
	const view = $derived(data.view);
	const zone = $derived(view.zone);
	const local = (ms: number) => DateTime.fromMillis(ms, { zone }).setLocale('en-US');
	const first = $derived(local(view.days[0]!.from));
	const last = $derived(local(view.days[6]!.from));
	const title = $derived(
		`${first.toFormat('LLLL d')} to ${last.toFormat(first.month === last.month ? 'd' : 'LLLL d')}`
	);
	const changed = $derived(view.days.find((d) => d.clockShiftMinutes !== 0));
	const upTo = (part: (typeof dayParts)[number], date: string) =>
		clockTime(DateTime.fromISO(date, { zone }).plus({ minutes: part.toMinute }).toMillis(), zone);
	const total = (load: readonly number[]) => load.reduce((a, b) => a + b, 0);
</script>

<svelte:head><title>Week · Idle Courier</title></svelte:head>

<div class="week">
	<Waiting waiting={view.waiting} now={view.now} {zone} />
	<div class="main">
		<div class="head">
			<h1>{title}</h1>
			<Button kind="tertiary" size="small" href="?day={first.minus({ days: 7 }).toISODate()}"
				>Week before</Button
			>
			<Button kind="tertiary" size="small" href="/week">This week</Button>
			<Button kind="tertiary" size="small" href="?day={first.plus({ days: 7 }).toISODate()}"
				>Week after</Button
			>
			<span class="quiet">
				{view.dispatches}
				{view.dispatches === 1 ? 'dispatch' : 'dispatches'}, {view.copies.toLocaleString('en-US')} copies{changed
					? `, clocks go ${changed.clockShiftMinutes > 0 ? 'forward' : 'back'} on ${local(changed.from).toFormat('cccc')}`
					: ''}
			</span>
		</div>
		<CourierNotice status={data.courier} {zone} />
		<div class="grid" role="table" aria-label="The week">
			<div class="row" role="row">
				<div class="band" role="columnheader"><span class="spoken">Part of the day</span></div>
				{#each view.days as day (day.date)}
					<div class="hd" class:now={day.today} role="columnheader">
						<b>{local(day.from).toFormat('ccc d')}</b>
						{#if day.today}<span class="quiet">today</span>{/if}
					</div>
				{/each}
			</div>
			<div class="row" role="row">
				<div class="band" role="rowheader">Dispatches a family</div>
				{#each view.days as day (day.date)}
					<div class="load" class:now={day.today} role="cell">
						{#if day.load.most === 0}
							<span class="quiet">none</span>
						{:else}
							<span class:heed={day.load.households[3] > 0}>
								most {day.load.most}{day.load.households[3] > 0
									? `, ${day.load.households[3]} families`
									: ''}
							</span>
							<span
								class="mix"
								role="img"
								aria-label="Families with none {day.load.households[0]}, one {day.load
									.households[1]}, two {day.load.households[2]}, three or more {day.load
									.households[3]}"
							>
								{#each day.load.households as n, i (i)}
									{#if n > 0}<i
											class="l{i}"
											style="width: {(100 * n) / total(day.load.households)}%"
										></i>{/if}
								{/each}
							</span>
						{/if}
					</div>
				{/each}
			</div>
			{#each dayParts as part (part.key)}
				<div class="row part" role="row">
					<div class="band" role="rowheader">
						{part.name}<br />to {upTo(part, view.days[0]!.date)}
					</div>
					{#each view.days as day (day.date)}
						<div class="cell" class:now={day.today} role="cell">
							{#each day.tags[part.key] as line (line.id)}<DispatchTag {line} {zone} />{/each}
						</div>
					{/each}
				</div>
			{/each}
			<div class="row quietrow" role="row">
				<div class="band" role="rowheader">Quiet</div>
				{#each view.days as day (day.date)}
					<div class="hatch" role="cell">
						{#each day.tags.quiet as line (line.id)}<DispatchTag {line} {zone} />{/each}
					</div>
				{/each}
			</div>
		</div>
	</div>
</div>

<style>
	.week {
		display: grid;
		grid-template-columns: 236px minmax(0, 1fr);
		min-height: 100%;
	}
	.head {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 8px 12px;
		padding: 14px 18px 12px;
	}
	.row {
		display: grid;
		grid-template-columns: 92px repeat(5, minmax(120px, 1fr)) repeat(2, minmax(64px, 0.5fr));
		border-top: 1px solid var(--line);
	}
	.row > * {
		border-left: 1px solid var(--line);
		min-width: 0;
	}
	.row > .band {
		border-left: 0;
		padding: 8px 6px 8px 10px;
		font-size: 12px;
		line-height: 1.25;
		color: var(--quiet);
	}
	.hd {
		padding: 8px 10px;
	}
	.hd b {
		font-size: 16px;
	}
	.hd.now {
		background: var(--sheet);
		box-shadow: inset 0 3px 0 var(--action);
	}
	.load {
		padding: 7px 8px;
	}
	.mix {
		display: flex;
		height: 8px;
		gap: 1px;
		margin-top: 5px;
	}
	.mix i {
		display: block;
	}
	.l0 {
		background: #e6dfd0;
	}
	.l1 {
		background: #9dbfc0;
	}
	.l2 {
		background: #4c8c90;
	}
	.l3 {
		background: var(--heed);
	}
	.cell {
		padding: 6px;
		display: flex;
		flex-direction: column;
		gap: 6px;
		min-height: 74px;
	}
	.cell.now,
	.load.now {
		background: #fffdf8;
	}
	.quietrow {
		border-bottom: 1px solid var(--line);
	}
	.hatch {
		min-height: 22px;
		padding: 4px 6px;
		background: repeating-linear-gradient(135deg, transparent 0 4px, #e7dfd0 4px 5px);
	}
	@media (max-width: 1000px) {
		.week {
			grid-template-columns: minmax(0, 1fr);
		}
		.grid {
			overflow-x: auto;
		}
	}
</style>
