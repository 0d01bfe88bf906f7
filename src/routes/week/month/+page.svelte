<script lang="ts">
	import { DateTime } from 'luxon';
	import { Button } from 'carbon-components-svelte';
	import { clockTime } from '$lib/ui/parts/clock';
	import DayNotes from '$lib/ui/week/DayNotes.svelte';
	import ViewLinks from '$lib/ui/week/ViewLinks.svelte';

	let { data } = $props();
	const view = $derived(data.view);
	const zone = $derived(view.zone);
	const first = $derived(DateTime.fromISO(view.first, { zone }).setLocale('en-US'));
	const weeks = $derived(
		Array.from({ length: view.days.length / 7 }, (_, i) => view.days.slice(7 * i, 7 * i + 7))
	);
	const copies = (n: number) => `${n.toLocaleString('en-US')} ${n === 1 ? 'copy' : 'copies'}`;
	const shown = 4;
</script>

<svelte:head><title>{first.toFormat('LLLL yyyy')} · Idle Courier</title></svelte:head>

<div class="month">
	<div class="head">
		<h1>{first.toFormat('LLLL yyyy')}</h1>
		<ViewLinks at="month" day={view.first} />
		<Button kind="tertiary" size="small" href="?day={first.minus({ months: 1 }).toISODate()}"
			>Month before</Button
		>
		<Button kind="tertiary" size="small" href="/week/month">This month</Button>
		<Button kind="tertiary" size="small" href="?day={first.plus({ months: 1 }).toISODate()}"
			>Month after</Button
		>
	</div>
	<table>
		<thead>
			<tr>
				{#each weeks[0]! as day (day.date)}
					<th scope="col"
						>{DateTime.fromISO(day.date, { zone }).setLocale('en-US').toFormat('ccc')}</th
					>
				{/each}
			</tr>
		</thead>
		<tbody>
			{#each weeks as week (week[0]!.date)}
				<tr>
					{#each week as day (day.date)}
						<td class:out={!day.inMonth} class:now={day.today} class:shut={day.closed !== null}>
							<div class="day">
								<a href="/week?day={day.date}"><b>{Number(day.date.slice(8))}</b></a>
								{#if day.load.over > 0}<span class="heed">{day.load.over} over {view.limit}</span>
								{:else if day.load.most > 0}<span class="quiet">most {day.load.most}</span>{/if}
							</div>
							{#if day.closed}<div class="quiet cut">{day.closed}</div>{/if}
							<DayNotes notes={day.notes} {zone} most={2} />
							{#each day.lines.slice(0, shown) as line (line.id)}
								<a
									class="line"
									class:draft={line.state === 'draft'}
									href={line.state === 'draft' ? `/write?draft=${line.id}` : `/reach/${line.id}`}
									title="{line.audience}: {line.about ? 'about ' : ''}{copies(line.copies)}"
								>
									<span class="mono">{clockTime(line.leavesAt ?? line.intendedAt!, zone)}</span>
									<span dir="auto">{line.subject || 'No subject yet'}</span>
								</a>
							{/each}
							{#if day.lines.length > shown}
								<a class="more" href="/week?day={day.date}">{day.lines.length - shown} more</a>
							{/if}
						</td>
					{/each}
				</tr>
			{/each}
		</tbody>
	</table>
</div>

<style>
	.month {
		padding: 14px 18px;
	}
	.head {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 8px 12px;
		padding-bottom: 12px;
	}
	table {
		width: 100%;
		table-layout: fixed;
		border-collapse: collapse;
	}
	th {
		text-align: start;
		padding: 4px 8px;
		color: var(--quiet);
		font-weight: 400;
	}
	td {
		border: 1px solid var(--line);
		vertical-align: top;
		height: 112px;
		padding: 4px 6px;
	}
	td.now {
		background: var(--sheet);
		box-shadow: inset 0 3px 0 var(--action);
	}
	td.out {
		opacity: 0.75;
	}
	td.shut {
		background: repeating-linear-gradient(135deg, transparent 0 8px, var(--stripe) 8px 9px);
	}
	.day {
		display: flex;
		justify-content: space-between;
		gap: 6px;
		font-size: 12.5px;
	}
	.line {
		display: block;
		font-size: 12.5px;
		color: inherit;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
		text-decoration: none;
	}
	.line:hover {
		text-decoration: underline;
	}
	.line.draft {
		font-style: italic;
	}
	.cut {
		font-size: 12px;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.more {
		font-size: 12px;
	}
	@media (max-width: 1000px) {
		.month {
			overflow-x: auto;
		}
		table {
			min-width: 900px;
		}
	}
</style>
