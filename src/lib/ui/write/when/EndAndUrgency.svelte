<script lang="ts">
	import { Checkbox, NumberInput, Select, SelectItem } from 'carbon-components-svelte';
	import type { LocalTime } from '$lib/core/time/local';
	import type { Ends } from '$lib/core/time/timing';
	import { bench } from '../../parts/bench.svelte';
	import MomentField from '../../parts/MomentField.svelte';
	import type { Sheet } from '../sheet/sheet.svelte';

	/** Until when copies may still leave, and whether they pass over quiet hours. */
	let {
		sheet,
		zone,
		mayUrgent,
		suggested,
		unread = $bindable(false)
	}: {
		sheet: Sheet;
		zone: string;
		mayUrgent: boolean;
		suggested: () => LocalTime;
		/** Whether the end cannot be read. */
		unread: boolean;
	} = $props();
	const when = $derived(sheet.timing.when);
	const setEnds = (ends: Ends) => (sheet.timing = { ...sheet.timing, ends });
	const endsKind = $derived(sheet.timing.ends?.kind ?? 'never');
	const endsAfterHours = $derived(
		sheet.timing.ends?.kind === 'after' ? sheet.timing.ends.minutes / 60 : 24
	);
</script>

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
	{#if when.kind === 'now' || when.kind === 'at'}<SelectItem value="at" text="after a time" />{/if}
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
		bind:unread
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

<style>
	.urgent {
		padding-bottom: 4px;
	}
</style>
