<script lang="ts">
	import { tick } from 'svelte';
	import { DateTime } from 'luxon';
	import { goto, invalidateAll } from '$app/navigation';
	import { Button, InlineNotification } from 'carbon-components-svelte';
	import { localOf, type LocalTime } from '$lib/core/time/local';
	import { clockTime, dayParts, dayTime, usualTime } from '$lib/core/time/zone';
	import type { DispatchLine } from '$lib/server/desk/week/types';
	import type { MoveEffect } from '$lib/server/desk/plan/types';
	import type { SuggestedMove } from '$lib/server/desk/load/types';
	import type { DispatchMoved } from '$lib/server/desk/send/types';
	import CourierNotice from '$lib/ui/parts/CourierNotice.svelte';
	import { postJson } from '$lib/ui/parts/post-json';
	import DayNotes from '$lib/ui/week/DayNotes.svelte';
	import WeekEdge from '$lib/ui/week/WeekEdge.svelte';
	import DayLoad from '$lib/ui/week/DayLoad.svelte';
	import FamiliesOn from '$lib/ui/week/FamiliesOn.svelte';
	import MoveDialog from '$lib/ui/week/MoveDialog.svelte';
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
	const upTo = (part: (typeof dayParts)[number], date: string) =>
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
	const momentOf = (line: DispatchLine) => line.leavesAt ?? line.intendedAt!;

	/** What is dragged or about to be moved, and what moving it to each day does. */
	let lifted = $state.raw<DispatchLine | null>(null);
	let effects = $state.raw<readonly MoveEffect[] | null>(null);
	let dialogLine = $state.raw<DispatchLine | null>(null);
	async function askEffects(line: DispatchLine) {
		effects = null;
		const answer = await postJson<MoveEffect[]>('/week/effects', {
			dispatchId: line.id,
			from: view.days[0]!.date
		});
		if (answer.ok && (lifted?.id === line.id || dialogLine?.id === line.id)) effects = answer.body;
	}
	const previewOf = (date: string) =>
		lifted || carried ? (effects?.find((e) => e.date === date) ?? null) : null;

	/** A tag taken over the edge to another week: it is put down there by a press, and each day shows what that does. */
	let carried = $state.raw<DispatchLine | null>(null);
	async function carry(line: DispatchLine, byDays: number) {
		carried = line;
		effects = null;
		await goto(`?day=${first.plus({ days: byDays }).toISODate()}`, { keepFocus: true });
		const answer = await postJson<MoveEffect[]>('/week/effects', {
			dispatchId: line.id,
			from: view.days[0]!.date
		});
		if (answer.ok && carried?.id === line.id) effects = answer.body;
	}
	function putDown(date: string, part: (typeof dayParts)[number]) {
		const line = carried;
		carried = null;
		if (line) drop(line, date, part);
	}

	interface Said {
		readonly kind: 'success' | 'error';
		readonly text: string;
		/** The move that takes it back. */
		readonly undo?: { readonly line: DispatchLine; readonly to: LocalTime; readonly base: number };
	}
	let said = $state.raw<Said | null>(null);
	let saidAt = $state<HTMLElement>();
	/** What came of a move is where the eye and the next key are. */
	async function say(next: Said) {
		said = next;
		await tick();
		saidAt?.focus({ preventScroll: true });
		saidAt?.scrollIntoView({ block: 'nearest' });
	}

	async function move(line: DispatchLine, to: LocalTime, base = line.changedAt) {
		dialogLine = null;
		const before = localOf(momentOf(line), zone);
		const answer = await postJson<DispatchMoved>('/week/move', { dispatchId: line.id, to, base });
		if (answer.ok && answer.body.ok) {
			await invalidateAll();
			const now = view.days
				.flatMap((d) => Object.values(d.tags).flat())
				.find((l) => l.id === line.id);
			await say({
				kind: 'success',
				text: `${line.subject} ${line.state === 'draft' ? 'is meant for' : 'leaves'} ${dayTime(answer.body.at, zone)}.`,
				undo: now && { line: now, to: before, base: now.changedAt }
			});
			return;
		}
		await say({
			kind: 'error',
			text:
				answer.status === 0
					? 'No connection, so nothing was moved.'
					: answer.body && !answer.body.ok
						? answer.body.why
						: answer.why
		});
		await invalidateAll();
	}
	/** Where it stood in its part of day, or the usual time of the part it comes to. */
	function drop(line: DispatchLine, date: string, part: (typeof dayParts)[number]) {
		const own = localOf(momentOf(line), zone).slice(11);
		void move(line, `${date}T${usualTime(part, own)}`);
	}

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
		{#if said}
			<div class="said" role="status" tabindex="-1" bind:this={saidAt}>
				<InlineNotification
					lowContrast
					kind={said.kind}
					title={said.kind === 'success' ? 'Moved.' : 'Not moved.'}
					subtitle={said.text}
					on:close={() => (said = null)}
				>
					<svelte:fragment slot="actions">
						{#if said.undo}
							{@const { line, to, base } = said.undo}
							<Button kind="ghost" size="small" on:click={() => move(line, to, base)}
								>Move it back</Button
							>
						{/if}
					</svelte:fragment>
				</InlineNotification>
			</div>
		{/if}
		{#if view.moves.length > 0}
			{@const [best, ...others] = view.moves}
			{#snippet offer(m: SuggestedMove)}
				{@const line = view.days
					.flatMap((d) => Object.values(d.tags).flat())
					.find((l) => l.id === m.dispatchId)}
				<span>
					<b dir="auto">{m.subject}</b> to {dayTime(m.to, zone)}, {m.relief}
					{m.relief === 1 ? 'message' : 'messages'} fewer over {view.limit} a day.
					{#if line}<button class="plain" onclick={() => move(line, m.toLocal, m.base)}
							>Move it</button
						>{/if}
				</span>
			{/snippet}
			<section class="moves" aria-label="What to move">
				<span>What brings the load down most:</span>
				{@render offer(best!)}
				{#if others.length > 0}
					<details>
						<summary>or else</summary>
						{#each others as m (m.dispatchId)}<div>{@render offer(m)}</div>{/each}
					</details>
				{/if}
			</section>
		{/if}
		{#if carried}
			<div class="carried" role="status">
				<span
					><b dir="auto">{carried.subject || 'The draft'}</b> is in hand. Choose where it goes.</span
				>
				<Button kind="ghost" size="small" on:click={() => (carried = null)}
					>Leave it where it was</Button
				>
			</div>
		{/if}
		<WeekEdge
			side="start"
			label="To the week before"
			shown={lifted !== null}
			ondrop={(line) => void carry(line, -7)}
		/>
		<WeekEdge
			side="end"
			label="To the week after"
			shown={lifted !== null}
			ondrop={(line) => void carry(line, 7)}
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
							preview={previewOf(day.date)}
							onopen={() => families.show(day.date)}
						/>
					</div>
				{/each}
			</div>
			{#each dayParts as part (part.key)}
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
							{#if carried}
								<button class="put" onclick={() => putDown(day.date, part)}
									>Put it here<span class="spoken">
										on {local(day.from).toFormat('cccc')}, {part.name}</span
									></button
								>
							{/if}
							<TagCell
								lines={day.tags[part.key]}
								{zone}
								onstart={(line) => {
									lifted = line;
									void askEffects(line);
								}}
								onend={() => (lifted = null)}
								ondrop={(line) => drop(line, day.date, part)}
								onmove={(line) => {
									dialogLine = line;
									void askEffects(line);
								}}
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
							onstart={(line) => {
								lifted = line;
								void askEffects(line);
							}}
							onend={() => (lifted = null)}
							ondrop={(line) => {
								said = {
									kind: 'error',
									text: `${line.subject} stays where it was: nothing ordinary leaves in quiet hours.`
								};
								void invalidateAll();
							}}
							onmove={(line) => {
								dialogLine = line;
								void askEffects(line);
							}}
						/>
					</div>
				{/each}
			</div>
		</div>
	</div>
</div>

<MoveDialog
	line={dialogLine}
	{zone}
	limit={view.limit}
	{effects}
	onmove={(line, to) => move(line, to)}
	onclose={() => (dialogLine = null)}
/>
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
	.moves {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 16px;
		padding: 0 18px 10px;
		font-size: 13px;
	}
	.said {
		padding: 0 18px 10px;
	}
	.closed {
		font-size: 12px;
		display: block;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.shut {
		background: repeating-linear-gradient(135deg, transparent 0 8px, #efe8da 8px 9px);
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
		background: #fffdf8;
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
