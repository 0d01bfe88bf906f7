<script lang="ts">
	import { DateTime } from 'luxon';
	import { Button } from 'carbon-components-svelte';
	import { clockTime } from '$lib/ui/parts/clock';
	import CourierNotice from '$lib/ui/parts/CourierNotice.svelte';
	import BestMoves from '$lib/ui/week/BestMoves.svelte';
	import DayNotes from '$lib/ui/week/DayNotes.svelte';
	import WeekEdge from '$lib/ui/week/WeekEdge.svelte';
	import DayLoad from '$lib/ui/week/DayLoad.svelte';
	import FamiliesOn from '$lib/ui/week/FamiliesOn.svelte';
	import MoveSaid from '$lib/ui/week/MoveSaid.svelte';
	import { Moving } from '$lib/ui/week/moving.svelte';
	import TagCell from '$lib/ui/week/TagCell.svelte';
	import ViewLinks from '$lib/ui/week/ViewLinks.svelte';
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
	const upTo = (part: (typeof view.parts)[number], date: string) =>
		clockTime(DateTime.fromISO(date, { zone }).plus({ minutes: part.toMinute }).toMillis(), zone);

	/** A day of the weekend with nothing on it takes half the room. */
	const columns = $derived(
		view.days
			.map((day, i) =>
				i < 5 || Object.values(day.tags).some((tags) => tags.length > 0)
					? 'minmax(108px, 1fr)'
					: 'minmax(64px, 0.5fr)'
			)
			.join(' ')
	);
	const moving = new Moving(() => view);
	/** With its calendar it comes with the first one that is to be moved. */
	let MoveDialog = $state.raw<typeof import('$lib/ui/week/MoveDialog.svelte').default | null>(null);
	async function loadDialog() {
		// Awaited: what is chained to an import does not hear that its styles could not be loaded.
		try {
			MoveDialog = (await import('$lib/ui/week/MoveDialog.svelte')).default;
		} catch {
			moving.askedInVain();
		}
	}
	$effect(() => {
		if (moving.asked && !MoveDialog) void loadDialog();
	});
	let families: FamiliesOn;
</script>

<svelte:head><title>Week · Idle Courier</title></svelte:head>

<div class="week">
	<Waiting waiting={view.waiting} userId={data.userId} now={view.now} {zone} />
	<div class="main">
		<div class="head">
			<h1>{title}</h1>
			<ViewLinks at="week" day={view.days[0]!.date} />
			<Button kind="tertiary" size="small" href="?day={first.minus({ days: 7 }).toISODate()}"
				>Week before</Button
			>
			<Button kind="tertiary" size="small" href="/week">This week</Button>
			<Button kind="tertiary" size="small" href="?day={first.plus({ days: 7 }).toISODate()}"
				>Week after</Button
			>
			<span class="quiet small sums">
				{view.dispatches}
				{view.dispatches === 1 ? 'dispatch' : 'dispatches'}, {view.copies.toLocaleString('en-US')} copies{changed
					? `, clocks go ${changed.clockShiftMinutes > 0 ? 'forward' : 'back'} on ${local(changed.from).toFormat('cccc')}`
					: ''}
			</span>
		</div>
		<CourierNotice status={data.courier} {zone} />
		<MoveSaid {moving} />
		{#if view.moves.length > 0}
			<BestMoves moves={view.moves} {moving} limit={view.limit} {zone} />
		{/if}
		{#if moving.carried}
			<div class="carried" role="status">
				<span
					><b dir="auto">{moving.carried.subject || 'The draft'}</b> is in hand. Choose where it goes.</span
				>
				<Button kind="ghost" size="small" on:click={() => (moving.carried = null)}
					>Leave it where it was</Button
				>
			</div>
		{/if}
		<WeekEdge
			side="start"
			label="To the week before"
			shown={moving.lifted !== null}
			ondrop={(line) => void moving.carry(line, -7)}
		/>
		<WeekEdge
			side="end"
			label="To the week after"
			shown={moving.lifted !== null}
			ondrop={(line) => void moving.carry(line, 7)}
		/>
		<div class="grid" role="table" aria-label="The week" style="--days: {columns}">
			<div class="row" role="row">
				<div class="band" role="columnheader"><span class="spoken">Part of the day</span></div>
				{#each view.days as day (day.date)}
					<div class="hd" class:now={day.today} role="columnheader">
						<b>{local(day.from).toFormat('ccc d')}</b>
						{#if day.today}<span class="quiet">today</span>{/if}
						{#if day.closed}<span class="quiet closed" title={day.closed}>{day.closed}</span>{/if}
						<DayNotes notes={day.notes} {zone} />
					</div>
				{/each}
			</div>
			<div class="row" role="row">
				<div class="band" role="rowheader">Family load</div>
				{#each view.days as day (day.date)}
					<div class="load" class:now={day.today} role="cell">
						<DayLoad
							load={day.load}
							limit={view.limit}
							preview={moving.effectOn(day.date)}
							onopen={() => families.show(day.date)}
						/>
					</div>
				{/each}
			</div>
			{#each view.parts as part (part.key)}
				<div class="row part" role="row">
					<div class="band" role="rowheader">
						{part.name}<br />to {upTo(part, view.days[0]!.date)}
					</div>
					{#each view.days as day (day.date)}
						<div
							class="cell"
							class:now={day.today}
							class:shut={day.closed !== null}
							role="cell"
							data-cell="{day.date} {part.key}"
						>
							{#if moving.carried}
								<button class="put" onclick={() => moving.putDown(day.date, part)}
									>Put it here<span class="spoken">
										on {local(day.from).toFormat('cccc')}, {part.name}</span
									></button
								>
							{/if}
							<TagCell
								lines={day.tags[part.key]}
								{zone}
								onstart={(line) => moving.lift(line)}
								onend={() => (moving.lifted = null)}
								ondrop={(line) => moving.drop(line, day.date, part)}
								onmove={(line) => moving.ask(line)}
							/>
						</div>
					{/each}
				</div>
			{/each}
			<div class="row quietrow" role="row">
				<div class="band" role="rowheader">Quiet</div>
				{#each view.days as day (day.date)}
					<div class="hatch" role="cell">
						<TagCell
							lines={day.tags.quiet}
							{zone}
							onstart={(line) => moving.lift(line)}
							onend={() => (moving.lifted = null)}
							ondrop={(line) => void moving.dropInQuiet(line)}
							onmove={(line) => moving.ask(line)}
						/>
					</div>
				{/each}
			</div>
		</div>
	</div>
</div>

{#if MoveDialog}
	<MoveDialog
		line={moving.asked}
		{zone}
		limit={view.limit}
		effects={moving.effects}
		onmove={(line, to) => moving.move(line, to)}
		onclose={() => (moving.asked = null)}
	/>
{/if}
<FamiliesOn {zone} bind:this={families} />

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
		padding: 10px 18px 8px;
	}
	.row {
		display: grid;
		grid-template-columns: 92px var(--days);
		border-top: 1px solid var(--line);
	}
	.row > * {
		position: relative;
		border-left: 1px solid var(--line);
		min-width: 0;
	}
	.row > .band {
		border-left: 0;
		padding: 5px 6px 5px 10px;
		font-size: 12px;
		line-height: 1.25;
		color: var(--quiet);
	}
	.hd {
		padding: 5px 8px;
	}
	.hd b {
		font-size: 16px;
	}
	.hd.now {
		background: var(--sheet);
		box-shadow: inset 0 3px 0 var(--action);
	}
	.load {
		padding: 4px 8px;
		font-size: 13px;
	}
	.closed {
		font-size: 12px;
		display: block;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.shut {
		background: repeating-linear-gradient(135deg, transparent 0 8px, var(--stripe) 8px 9px);
	}
	.cell {
		padding: 4px;
		display: flex;
		flex-direction: column;
		gap: 4px;
		min-height: 44px;
	}
	.cell.now,
	.load.now {
		background: var(--opened);
	}
	.sums {
		flex: 1 1 180px;
	}
	.carried {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		justify-content: space-between;
		gap: 4px 12px;
		padding: 0 18px 8px;
	}
	.put {
		font: inherit;
		font-size: 12px;
		color: var(--action);
		background: transparent;
		border: 1px dashed var(--action);
		border-radius: 2px;
		min-height: 24px;
		cursor: pointer;
	}
	.quietrow {
		border-bottom: 1px solid var(--line);
	}
	.hatch {
		min-height: 22px;
		padding: 4px 6px;
		background: repeating-linear-gradient(135deg, transparent 0 4px, var(--stripe) 4px 5px);
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
