<script lang="ts">
	import { Button, Checkbox, MultiSelect, TextInput } from 'carbon-components-svelte';
	import { enhance } from '$app/forms';
	import type { LocalTime } from '$lib/core/time/local';
	import type { SchoolEvent } from '$lib/core/time/school-event';
	import { bench } from '../parts/bench.svelte';
	import { endKept } from '../parts/keep-length';
	import MomentField from '../parts/MomentField.svelte';
	import { keepTyped } from '$lib/ui/parts/keep-typed';

	/** An event is made or changed here; its reminders move with it. */
	let {
		event = null,
		schools,
		sections,
		first,
		zone,
		reminders = 0
	}: {
		event?: SchoolEvent | null;
		schools: readonly { id: number; name: string }[];
		sections: readonly { id: number; name: string }[];
		/** The time that a new one begins with. */
		first: LocalTime;
		zone: string;
		reminders?: number;
	} = $props();
	// svelte-ignore state_referenced_locally
	let title = $state(event?.title ?? '');
	// svelte-ignore state_referenced_locally
	let place = $state(event?.place ?? '');
	// svelte-ignore state_referenced_locally
	let allDay = $state(event?.allDay ?? false);
	// svelte-ignore state_referenced_locally
	let starts = $state<LocalTime>(event?.startsLocal ?? first);
	// svelte-ignore state_referenced_locally
	let ends = $state<LocalTime>(event?.endsLocal ?? `${first.slice(0, 11)}20:00`);
	// svelte-ignore state_referenced_locally
	let schoolIds = $state<number[]>([...(event?.schoolIds ?? [])]);
	// svelte-ignore state_referenced_locally
	let sectionIds = $state<number[]>([...(event?.sectionIds ?? [])]);
	let startUnread = $state(false);
	let endUnread = $state(false);
	/** A later start takes the end along, so that it keeps its length. */
	function setStart(next: LocalTime) {
		ends = endKept(next, starts, ends);
		starts = next;
	}
</script>

<form method="POST" action="?/save" class="event" use:enhance={keepTyped}>
	<input type="hidden" name="id" value={event?.id ?? ''} />
	<input type="hidden" name="base" value={event?.changedAt ?? ''} />
	<input type="hidden" name="startsLocal" value={starts} />
	<input type="hidden" name="endsLocal" value={ends} />
	<input type="hidden" name="allDay" value={allDay ? '1' : ''} />
	<input type="hidden" name="schoolIds" value={schoolIds.join()} />
	<input type="hidden" name="sectionIds" value={sectionIds.join()} />
	<TextInput size="sm" labelText="Title" name="title" bind:value={title} maxlength={200} />
	<MomentField
		label="Starts"
		value={starts}
		now={bench.now}
		{zone}
		bind:unread={startUnread}
		onchange={setStart}
	/>
	<MomentField
		label="Ends"
		value={ends}
		now={bench.now}
		{zone}
		bind:unread={endUnread}
		onchange={(v) => (ends = v)}
	/>
	<Checkbox labelText="the whole day" bind:checked={allDay} />
	<TextInput size="sm" labelText="Place" name="place" bind:value={place} maxlength={200} />
	<div class="for">
		<MultiSelect
			size="sm"
			filterable
			labelText="Schools concerned"
			placeholder={schoolIds.length === 0 && sectionIds.length === 0 ? 'whole district' : 'schools'}
			items={schools.map((s) => ({ id: s.id, text: s.name }))}
			bind:selectedIds={schoolIds}
		/>
		<MultiSelect
			size="sm"
			filterable
			labelText="Sections concerned"
			placeholder="sections"
			items={sections.map((s) => ({ id: s.id, text: s.name }))}
			bind:selectedIds={sectionIds}
		/>
	</div>
	<Button size="small" type="submit" disabled={startUnread || endUnread}>
		{event
			? reminders > 0
				? `Change it, and move ${reminders} ${reminders === 1 ? 'reminder' : 'reminders'} with it`
				: 'Change it'
			: 'Put it into the calendar'}
	</Button>
</form>

<style>
	.event {
		display: grid;
		gap: 10px;
		justify-items: start;
		max-width: 500px;
	}
	.event > :global(.bx--form-item),
	.for {
		width: 100%;
	}
	.for {
		display: grid;
		grid-template-columns: 1fr 1fr;
		gap: 10px;
	}
</style>
