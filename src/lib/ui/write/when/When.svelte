<script lang="ts">
	import { Modal, Select, SelectItem } from 'carbon-components-svelte';
	import { markersOf } from '$lib/core/audience/named';
	import { holdMinutes as hold } from '$lib/core/time/hold';
	import { floating, unfloating, type LocalTime } from '$lib/core/time/local';
	import type { When } from '$lib/core/time/timing';
	import { cityOf } from '$lib/core/time/zone';
	import { clockTime, dayTime } from '../../parts/clock';
	import type { ClockChoice } from '$lib/server/desk/sheet/types';
	import type { EventChoice } from '$lib/server/desk/calendar/types';
	import { bench } from '../../parts/bench.svelte';
	import MomentField from '../../parts/MomentField.svelte';
	import type { Sheet } from '../sheet/sheet.svelte';
	import ByEvent from './ByEvent.svelte';
	import FeedField from './FeedField.svelte';
	import EndAndUrgency from './EndAndUrgency.svelte';
	import RoundDates from './RoundDates.svelte';
	import RuleField from './RuleField.svelte';

	/** When the sheet leaves: now after a hold, at a time, by an event, or again and again, also with what is new in a feed. */
	let {
		sheet,
		zone,
		clocks,
		events,
		markers,
		mayUrgent,
		suggested,
		hint
	}: {
		sheet: Sheet;
		/** Of the clock that its times are meant by. */
		zone: string;
		/** The clocks to choose among, the district's first; nothing to choose where all show the same. */
		clocks: readonly ClockChoice[];
		events: readonly EventChoice[];
		/** Markers that it can wait for. */
		markers: readonly { readonly id: number; readonly name: string }[];
		mayUrgent: boolean;
		/** The time that is suggested: half an hour ahead, or the next allowed one. */
		suggested: () => LocalTime;
		/** When such people read soonest, where enough is known. */
		hint: string;
	} = $props();

	const when = $derived(sheet.timing.when);
	const set = (next: When) => (sheet.timing = { ...sheet.timing, when: next });
	/** What is chosen: a repetition that takes its words from a feed is a choice of its own. */
	type Choice = When['kind'] | 'feed';
	const choice: Choice = $derived(when.kind === 'round' && when.feed ? 'feed' : when.kind);
	/** What was set in another kind is there again when one comes back to it. */
	const before: Partial<Record<Choice, When>> = {};
	/** The marker that its audience asks about already. */
	const askedAbout = () => markersOf(sheet.audience)[0];
	const monthAhead = () => unfloating(floating(suggested()).plus({ days: 30 }));
	const usual = (kind: Choice): When => {
		switch (kind) {
			case 'now':
				return { kind };
			case 'at':
				return { kind, at: suggested() };
			case 'event':
				return {
					kind,
					eventId: events[0]?.id ?? null,
					offsets: [{ amount: 1, unit: 'days', side: 'before', of: 'start' }]
				};
			case 'gain':
				return { kind, markerId: askedAbout() ?? markers[0]?.id ?? null, until: monthAhead() };
			case 'round':
				return { kind, first: suggested(), rule: '', offDays: 'skip' };
			case 'feed':
				return { ...repeating(), feed: { address: '', most: 5, old: false } };
		}
	};
	/** The repetition that stands there already, without its feed; a new one else. */
	const repeating = (): Extract<When, { kind: 'round' }> => {
		const { feed, ...rest } =
			when.kind === 'round' ? when : (usual('round') as Extract<When, { kind: 'round' }>);
		return (void feed, rest);
	};
	function choose(kind: Choice) {
		before[choice] = when;
		set(before[kind] ?? usual(kind));
	}

	/** Chosen where the clocks of schools differ. */
	const clock = $derived(sheet.timing.clock);
	const leaves = $derived(clockTime(bench.now + sheet.holdMinutes * 60_000, zone));
	const times = $derived(sheet.landing?.times ?? null);

	// What is typed and not taken yet stays where another kind is looked at meanwhile.
	let ruleTyped = $state<string | null>(null);
	let ruleUnread = $state(false);
	let momentUnread = $state(false);
	let endUnread = $state(false);
	// What cannot be read disarms the button: nothing leaves by a time or a rule that stands there no more.
	$effect(() => {
		sheet.sayUnread(
			'when',
			momentUnread
				? 'The time cannot be read'
				: when.kind === 'round' && ruleUnread
					? 'The repetition cannot be read'
					: endUnread
						? 'The end cannot be read'
						: ''
		);
	});
	let more = $state(false);
	let datesOpen = $state(false);
	const shown = $derived(more || sheet.timing.ends !== null || sheet.timing.urgent);
</script>

{#snippet holds()}
	<Select
		size="sm"
		labelText="Hold"
		selected={sheet.holdMinutes}
		on:update={(e) => (sheet.holdMinutes = Number(e.detail))}
	>
		<SelectItem value={0} text="no hold" />
		{#each [1, hold.default, 10, 15, hold.most] as minutes (minutes)}
			<SelectItem value={minutes} text="{minutes} {minutes === 1 ? 'minute' : 'minutes'}" />
		{/each}
	</Select>
{/snippet}

<div class="whenrow">
	<Select
		size="sm"
		labelText="When"
		selected={choice}
		on:update={(e) => choose(e.detail as Choice)}
	>
		<SelectItem value="now" text="now, after a hold" />
		<SelectItem value="at" text="at a time" />
		<SelectItem value="event" text="by an event" />
		<SelectItem value="round" text="repeating" />
		<SelectItem value="feed" text="repeating, from a feed" />
		{#if markers.length > 0 || when.kind === 'gain'}
			<SelectItem value="gain" text="when a marker is gained" />
		{/if}
	</Select>
	{#if clocks.length > 1 && when.kind !== 'now' && when.kind !== 'event'}
		<Select
			size="sm"
			labelText="By the clock of"
			selected={clock ?? 0}
			on:update={(e) => (sheet.timing = { ...sheet.timing, clock: Number(e.detail) || null })}
		>
			{#each clocks as c (c.schoolId)}<SelectItem value={c.schoolId ?? 0} text={c.name} />{/each}
		</Select>
	{/if}
	{#if when.kind === 'now'}
		{@render holds()}
		<span class="quiet said">
			{sheet.holdMinutes === 0
				? 'Leaves at once and cannot be called back.'
				: `Can be called back until ${leaves}.`}
		</span>
	{:else if when.kind === 'gain'}
		<Select
			size="sm"
			labelText="Marker"
			selected={when.markerId ?? 0}
			on:update={(e) => set({ ...when, markerId: Number(e.detail) || null })}
		>
			{#if !markers.some((m) => m.id === when.markerId)}
				<SelectItem value={when.markerId ?? 0} text="choose one" />
			{/if}
			{#each markers as m (m.id)}<SelectItem value={m.id} text={m.name} />{/each}
		</Select>
		{@render holds()}
		<MomentField
			label="Until"
			value={when.until}
			now={bench.now}
			{zone}
			bind:unread={momentUnread}
			onchange={(until) => when.kind === 'gain' && set({ ...when, until })}
		/>
		<span class="quiet said">Each student’s family gets it once.</span>
	{:else if when.kind === 'at'}
		<MomentField
			label="Leaves"
			value={when.at}
			now={bench.now}
			{zone}
			bind:unread={momentUnread}
			onchange={(at) => when.kind === 'at' && set({ kind: 'at', at })}
		/>
	{:else if when.kind === 'event'}
		<ByEvent {when} {events} {zone} onchange={set} />
	{:else}
		<MomentField
			label="First"
			value={when.first}
			now={bench.now}
			{zone}
			bind:unread={momentUnread}
			onchange={(first) => when.kind === 'round' && set({ ...when, first })}
		/>
		<RuleField {when} bind:typed={ruleTyped} bind:unread={ruleUnread} onchange={set} />
		<Select
			size="sm"
			labelText="On days without school"
			selected={when.offDays}
			on:update={(e) => set({ ...when, offDays: e.detail as typeof when.offDays })}
		>
			<SelectItem value="skip" text="leave the date out" />
			<SelectItem value="before" text="the school day before" />
			<SelectItem value="after" text="the school day after" />
			<SelectItem value="send" text="send all the same" />
		</Select>
	{/if}
	{#if (when.kind === 'round' || when.kind === 'event') && times && times.moments.length > 0}
		<button class="plain said" onclick={() => (datesOpen = true)}>
			{times.coming}
			{when.kind === 'event'
				? times.coming === 1
					? 'reminder'
					: 'reminders'
				: times.coming === 1
					? 'date'
					: 'dates'}, show them
		</button>
	{/if}
	<button class="plain said" aria-expanded={shown} onclick={() => (more = !more)}>
		End and urgency
	</button>
</div>
{#if when.kind === 'round' && when.feed}
	<div class="whenrow">
		<FeedField
			feed={when.feed}
			{zone}
			onchange={(feed) => when.kind === 'round' && set({ ...when, feed })}
			ontried={() => sheet.count(0)}
		/>
	</div>
{/if}
{#if shown}
	<div class="whenrow">
		<EndAndUrgency {sheet} {zone} {mayUrgent} {suggested} bind:unread={endUnread} />
	</div>
{/if}
<p class="quiet small zone">
	{cityOf(zone)} time{times &&
	times.lastAt !== null &&
	times.firstAt !== null &&
	times.lastAt - times.firstAt >= 60_000
		? `. The first copy leaves ${dayTime(times.firstAt, zone, bench.now)}, the last ${dayTime(times.lastAt, zone, bench.now)}`
		: ''}.{hint ? ` ${hint}` : ''}
</p>

<Modal passiveModal bind:open={datesOpen} modalHeading="When it leaves" size="sm">
	{#if times && datesOpen}
		<RoundDates moments={times.moments} now={bench.now} {zone} />
	{/if}
</Modal>

<style>
	.whenrow {
		display: flex;
		flex-wrap: wrap;
		align-items: flex-end;
		gap: 6px 12px;
	}
	.whenrow + .whenrow {
		margin-top: 6px;
	}
	.whenrow > :global(.bx--form-item) {
		flex: 0 0 auto;
		width: auto;
	}
	.whenrow :global(.bx--label) {
		margin-bottom: 2px;
	}
	.said {
		padding-bottom: 7px;
	}
	.zone {
		margin: 2px 0 0;
	}
</style>
