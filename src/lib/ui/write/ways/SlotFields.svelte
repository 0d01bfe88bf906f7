<script lang="ts">
	import { Button, TextInput } from 'carbon-components-svelte';
	import { DateTime } from 'luxon';
	import { localOf, placeLocal } from '$lib/core/time/local';
	import { slotsBetween } from '$lib/core/talk/invitation';
	import type { Slot } from '$lib/core/talk/invitation-schema';
	import { bench } from '../../parts/bench.svelte';
	import { dayTime } from '../../parts/clock';
	import MomentField from '../../parts/MomentField.svelte';
	import CountField from './CountField.svelte';

	/** The times to choose from, as at a parents' evening: each with its places, and put in several at once. */
	let {
		slots,
		zone,
		onchange
	}: { slots: readonly Slot[]; zone: string; onchange: (slots: Slot[]) => void } = $props();

	const put = (id: number, part: Partial<Slot>) =>
		onchange(slots.map((s) => (s.id === id ? { ...s, ...part } : s)));

	/** The first of those that are to be added: after the last that is there, else a week on. */
	const next = $derived.by(() => {
		const last = slots.at(-1)?.at;
		const day = DateTime.fromMillis(bench.now, { zone }).plus({ days: 8 }).startOf('day');
		return last == null ? day.plus({ hours: 16 }).toMillis() : last + minutes * 60_000;
	});
	let first = $state<number | null>(null);
	let times = $state(1);
	let minutes = $state(15);
	let places = $state<number | null>(1);
	let unread = $state(false);
	function add() {
		const from = first ?? next;
		const made = slotsBetween(
			{ from, to: from + times * minutes * 60_000, minutes, places },
			slots
		);
		onchange(
			[...slots, ...made].sort((a, b) => (a.at ?? Infinity) - (b.at ?? Infinity) || a.id - b.id)
		);
		first = null;
	}
</script>

<section aria-label="Times to choose from">
	{#if slots.length > 0}
		<p class="small quiet">Times to choose from</p>
		<ul>
			{#each slots as slot (slot.id)}
				{@const at = slot.at === null ? '' : dayTime(slot.at, zone, bench.now)}
				<li>
					<span class="at">{at}</span>
					<TextInput
						size="sm"
						hideLabel
						labelText="What is said of {at || 'this time'}"
						placeholder={slot.at === null ? 'what it is' : 'a room, a name (may stay empty)'}
						maxlength={120}
						value={slot.words}
						on:input={(e) => put(slot.id, { words: String(e.detail ?? '') })}
					/>
					<span class="places">
						<CountField
							label="Places at {at || slot.words}"
							hideLabel
							value={slot.places}
							onchange={(n) => put(slot.id, { places: n })}
						/>
					</span>
					<span class="small quiet">{slot.places === 1 ? 'place' : 'places'}</span>
					<button
						class="plain"
						aria-label="Take out {at || slot.words}"
						onclick={() => onchange(slots.filter((s) => s.id !== slot.id))}>take out</button
					>
				</li>
			{/each}
		</ul>
	{/if}
	<details>
		<summary class="small">{slots.length > 0 ? 'Add times' : 'Times to choose from'}</summary>
		<div class="add">
			<div class="first">
				<MomentField
					label="From"
					value={localOf(first ?? next, zone)}
					now={bench.now}
					{zone}
					bind:unread
					onchange={(at) => (first = placeLocal(at, zone).at)}
				/>
			</div>
			<CountField label="How many" value={times} most={100} onchange={(n) => (times = n ?? 1)} />
			<CountField
				label="Minutes each"
				value={minutes}
				most={1440}
				onchange={(n) => (minutes = n ?? 15)}
			/>
			<CountField
				label="Places each (empty: no limit)"
				value={places}
				onchange={(n) => (places = n)}
			/>
			<Button
				size="small"
				kind="tertiary"
				disabled={unread || slots.length + times > 200}
				on:click={add}
			>
				Add {times === 1 ? 'it' : `these ${times}`}
			</Button>
		</div>
	</details>
</section>

<style>
	ul {
		display: grid;
		gap: 4px;
		margin: 4px 0;
	}
	li {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 10px;
		align-items: center;
	}
	.at {
		flex: 0 0 150px;
		font-size: 13.5px;
	}
	li > :global(.bx--form-item) {
		flex: 1 1 160px;
	}
	.places {
		flex: 0 0 64px;
	}
	.add {
		display: grid;
		grid-template-columns: repeat(auto-fit, minmax(130px, 1fr));
		gap: 8px 16px;
		align-items: end;
		margin: 6px 0;
	}
	.first {
		grid-column: 1 / -1;
	}
	summary {
		cursor: pointer;
	}
</style>
