<script lang="ts">
	import {
		Button,
		Checkbox,
		Modal,
		NumberInput,
		Select,
		SelectItem,
		TextInput
	} from 'carbon-components-svelte';
	import { holdMinutes as hold } from '$lib/core/time/hold';
	import type { LocalTime } from '$lib/core/time/local';
	import { offsetUnits, offsetWords, type Offset } from '$lib/core/time/offset';
	import type { Ends, When } from '$lib/core/time/timing';
	import { clockTime, dayTime } from '$lib/core/time/zone';
	import type { RepetitionRead } from '$lib/core/time/rule-of';
	import { dateOrder } from '../../parts/date-order';
	import type { EventChoice } from '$lib/server/desk/calendar/types';
	import { bench } from '../../parts/bench.svelte';
	import Slip from '../../parts/Slip.svelte';
	import MomentField from '../../parts/MomentField.svelte';
	import RoundDates from './RoundDates.svelte';
	import type { Sheet } from '../sheet/sheet.svelte';

	/** When the sheet leaves: now after a hold, at a time, by an event, or again and again. */
	let {
		sheet,
		zone,
		events,
		mayUrgent,
		suggested,
		hint
	}: {
		sheet: Sheet;
		zone: string;
		events: readonly EventChoice[];
		mayUrgent: boolean;
		/** The time that is suggested: half an hour ahead, or the next allowed one. */
		suggested: () => LocalTime;
		/** When such people read soonest, where enough is known. */
		hint: string;
	} = $props();

	const when = $derived(sheet.timing.when);
	const set = (next: When) => (sheet.timing = { ...sheet.timing, when: next });
	const setEnds = (ends: Ends) => (sheet.timing = { ...sheet.timing, ends });
	/** What was set in another kind is there again when one comes back to it. */
	const before: Partial<Record<When['kind'], When>> = {};
	const usual = (kind: When['kind']): When => {
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
			case 'round':
				return { kind, first: suggested(), rule: '', offDays: 'skip' };
		}
	};
	function choose(kind: When['kind']) {
		before[when.kind] = when;
		set(before[kind] ?? usual(kind));
	}

	const leaves = $derived(clockTime(bench.now + sheet.holdMinutes * 60_000, zone));
	const times = $derived(sheet.landing?.times ?? null);

	// A repetition as it is typed, and as it was understood.
	let ruleTyped = $state<string | null>(null);
	let ruleWhy = $state('');
	let ruleSaid = $state('');
	let ruleChoices = $state.raw<readonly RepetitionRead[]>([]);
	let ruleUnread = $state(false);
	let momentUnread = $state(false);
	let endUnread = $state(false);
	$effect(() => {
		const [rule, except] = when.kind === 'round' ? [when.rule, when.except] : ['', []];
		if (rule === '') ruleSaid = '';
		else
			void import('$lib/core/time/rule-of').then(
				(m) => (ruleSaid = m.repetitionWords(rule, except))
			);
	});
	// What cannot be read disarms the button: nothing leaves by a time or a rule that stands there no more.
	$effect(() => {
		sheet.unread = momentUnread
			? 'The time cannot be read'
			: when.kind === 'round' && ruleUnread
				? 'The repetition cannot be read'
				: endUnread
					? 'The end cannot be read'
					: '';
	});
	const reader = () => import('$lib/core/time/read-rule');
	async function takeRule(text: string, ended: boolean) {
		if (when.kind !== 'round') return;
		ruleTyped = text;
		ruleUnread = true;
		const { readRule } = await reader();
		// A later key has come meanwhile.
		if (ruleTyped !== text || when.kind !== 'round') return;
		const read = readRule(text, when.first, dateOrder());
		ruleWhy = read.ok || !ended ? '' : read.why;
		ruleChoices = read.ok || !ended ? [] : read.choices;
		ruleUnread = !read.ok;
		if (read.ok) setRule(read, ended);
	}
	function setRule(read: RepetitionRead, ended: boolean) {
		if (when.kind !== 'round') return;
		ruleUnread = false;
		if (ended) {
			ruleTyped = null;
			ruleWhy = '';
			ruleChoices = [];
		}
		const first = `${read.starts ?? when.first.slice(0, 10)}T${read.time ?? when.first.slice(11)}`;
		const offDays = read.schoolDays && when.offDays === 'send' ? 'skip' : when.offDays;
		set({
			kind: 'round',
			first,
			rule: read.rule,
			offDays,
			...(read.except.length > 0 ? { except: [...read.except] } : {})
		});
	}

	let amount = $state(3);
	let unit = $state<Offset['unit']>('hours');
	let place = $state<`${Offset['side']} ${Offset['of']}`>('before start');
	function addOffset() {
		if (when.kind !== 'event') return;
		const [side, of] = place.split(' ') as [Offset['side'], Offset['of']];
		const next: Offset = { amount: Math.round(amount) || 0, unit, side, of };
		if (when.offsets.some((o) => offsetWords(o) === offsetWords(next))) return;
		set({ ...when, offsets: [...when.offsets, next].slice(0, 10) });
	}

	const endsKind = $derived(sheet.timing.ends?.kind ?? 'never');
	const endsAfterHours = $derived(
		sheet.timing.ends?.kind === 'after' ? sheet.timing.ends.minutes / 60 : 24
	);
	let more = $state(false);
	let datesOpen = $state(false);
	const shown = $derived(more || sheet.timing.ends !== null || sheet.timing.urgent);
</script>

<div class="whenrow">
	<Select
		size="sm"
		labelText="When"
		selected={when.kind}
		on:update={(e) => choose(e.detail as When['kind'])}
	>
		<SelectItem value="now" text="now, after a hold" />
		<SelectItem value="at" text="at a time" />
		<SelectItem value="event" text="by an event" />
		<SelectItem value="round" text="repeating" />
	</Select>
	{#if when.kind === 'now'}
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
		<span class="quiet said">
			{sheet.holdMinutes === 0
				? 'Leaves at once and cannot be called back.'
				: `Can be called back until ${leaves}.`}
		</span>
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
		{#if events.length === 0}
			<span class="quiet said">
				No event is ahead. <a href="/week/events">Put one into the calendar</a>; what you wrote here
				is kept.
			</span>
		{:else}
			<Select
				size="sm"
				labelText="Event"
				selected={when.eventId ?? ''}
				on:update={(e) => set({ ...when, eventId: Number(e.detail) || null })}
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
							onremove={() => set({ ...when, offsets: when.offsets.filter((o) => o !== offset) })}
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
	{:else}
		<MomentField
			label="First"
			value={when.first}
			now={bench.now}
			{zone}
			bind:unread={momentUnread}
			onchange={(first) => when.kind === 'round' && set({ ...when, first })}
		/>
		<div class="rule">
			<TextInput
				size="sm"
				labelText="Repeats"
				placeholder="every tuesday until june 11, 2027"
				value={ruleTyped ?? ruleSaid}
				invalid={ruleWhy !== ''}
				invalidText={ruleWhy}
				autocomplete="off"
				on:input={(e) => void takeRule(String(e.detail ?? ''), false)}
				on:change={(e) => {
					const text = String(e.detail ?? '');
					if (ruleTyped !== null || text !== ruleSaid) void takeRule(text, true);
				}}
			/>
			{#each ruleChoices as choice (choice.rule)}
				<button type="button" class="plain" onclick={() => setRule(choice, true)}
					>{choice.words}</button
				>
			{/each}
		</div>
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
{#if shown}
	<div class="whenrow">
		<Select
			size="sm"
			labelText="Not sent any more"
			selected={endsKind}
			on:update={(e) => {
				if (e.detail === 'never') setEnds(null);
				else if (e.detail === 'after') setEnds({ kind: 'after', minutes: 24 * 60 });
				else setEnds({ kind: 'at', at: suggested() });
			}}
		>
			<SelectItem value="never" text="never stale" />
			<SelectItem value="after" text="so many hours after it leaves" />
			{#if when.kind === 'now' || when.kind === 'at'}<SelectItem
					value="at"
					text="after a time"
				/>{/if}
		</Select>
		{#if sheet.timing.ends?.kind === 'after'}
			<NumberInput
				size="sm"
				labelText="Hours"
				min={1}
				max={8760}
				value={endsAfterHours}
				hideSteppers
				on:change={(e) =>
					setEnds({ kind: 'after', minutes: Math.max(1, Math.round(Number(e.detail) * 60) || 60) })}
			/>
		{:else if sheet.timing.ends?.kind === 'at'}
			<MomentField
				label="End"
				value={sheet.timing.ends.at}
				now={bench.now}
				{zone}
				bind:unread={endUnread}
				onchange={(at) => setEnds({ kind: 'at', at })}
			/>
		{/if}
		{#if mayUrgent}
			<div class="urgent">
				<Checkbox
					labelText="urgent, also in quiet hours"
					checked={sheet.timing.urgent}
					on:check={(e) => (sheet.timing = { ...sheet.timing, urgent: e.detail })}
				/>
			</div>
		{/if}
	</div>
{/if}
<p class="quiet small zone">
	{zone.split('/').at(-1)?.replace('_', ' ')} time{times &&
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
	.rule {
		width: 300px;
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
	.urgent {
		padding-bottom: 4px;
	}
	.zone {
		margin: 2px 0 0;
	}
</style>
