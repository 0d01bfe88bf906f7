<script lang="ts">
	import { Button, NumberInput, Select, SelectItem } from 'carbon-components-svelte';
	import { offsetUnits, offsetWords, type Offset } from '$lib/core/time/offset';
	import type { When } from '$lib/core/time/timing';
	import { dayTime } from '../../parts/clock';
	import type { EventChoice } from '$lib/server/desk/calendar/types';
	import { bench } from '../../parts/bench.svelte';
	import Slip from '../../parts/Slip.svelte';

	/** Reminders by an event: which one, and how long before or after it. */
	type ByEvent = Extract<When, { kind: 'event' }>;
	let {
		when,
		events,
		zone,
		onchange
	}: {
		when: ByEvent;
		events: readonly EventChoice[];
		zone: string;
		onchange: (next: ByEvent) => void;
	} = $props();

	let amount = $state(3);
	let unit = $state<Offset['unit']>('hours');
	let place = $state<`${Offset['side']} ${Offset['of']}`>('before start');
	function addOffset() {
		const [side, of] = place.split(' ') as [Offset['side'], Offset['of']];
		const next: Offset = { amount: Math.round(amount) || 0, unit, side, of };
		if (when.offsets.some((o) => offsetWords(o) === offsetWords(next))) return;
		onchange({ ...when, offsets: [...when.offsets, next].slice(0, 10) });
	}
</script>

{#if events.length === 0}
	<span class="quiet said">
		No event is ahead. <a href="/week/events">Put one into the calendar</a>; what you wrote here is
		kept.
	</span>
{:else}
	<Select
		size="sm"
		labelText="Event"
		selected={when.eventId ?? ''}
		on:update={(e) => onchange({ ...when, eventId: Number(e.detail) || null })}
	>
		{#if when.eventId === null}<SelectItem value="" text="choose one" />{/if}
		{#each events as event (event.id)}
			<SelectItem
				value={event.id}
				text="{event.title}, {dayTime(event.startsAt, zone, bench.now)}"
			/>
		{/each}
	</Select>
	<div class="offsets">
		<ul aria-label="Reminders">
			{#each when.offsets as offset (offsetWords(offset))}
				<Slip
					label="No reminder {offsetWords(offset)}"
					onremove={() => onchange({ ...when, offsets: when.offsets.filter((o) => o !== offset) })}
					>{offsetWords(offset)}</Slip
				>
			{/each}
		</ul>
		<div class="add">
			<NumberInput
				size="sm"
				hideLabel
				labelText="How long before or after"
				min={0}
				max={10000}
				bind:value={amount}
				hideSteppers
			/>
			<Select size="sm" hideLabel labelText="Unit" bind:selected={unit}>
				{#each offsetUnits as u (u)}<SelectItem value={u} text={u} />{/each}
			</Select>
			<Select size="sm" hideLabel labelText="Before or after" bind:selected={place}>
				<SelectItem value="before start" text="before it starts" />
				<SelectItem value="after start" text="after it starts" />
				<SelectItem value="before end" text="before it ends" />
				<SelectItem value="after end" text="after it ends" />
			</Select>
			<Button kind="tertiary" size="small" on:click={addOffset}>Add reminder</Button>
		</div>
	</div>
{/if}

<style>
	.said {
		padding-bottom: 7px;
	}
	.offsets {
		display: grid;
		gap: 4px;
	}
	.offsets ul {
		display: flex;
		flex-wrap: wrap;
		gap: 4px;
		list-style: none;
		padding: 0;
		margin: 0;
	}
	.add {
		display: flex;
		gap: 6px;
		align-items: flex-end;
	}
	.add :global(.bx--number) {
		width: 72px;
	}
</style>
