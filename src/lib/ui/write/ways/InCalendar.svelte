<script lang="ts">
	import { Checkbox, TextInput } from 'carbon-components-svelte';
	import { DateTime } from 'luxon';
	import { onDestroy } from 'svelte';
	import { someNames } from '$lib/core/plan/check';
	import { placeLocal } from '$lib/core/time/local';
	import { bench } from '../../parts/bench.svelte';
	import { dayTime } from '../../parts/clock';
	import { endKept } from '../../parts/keep-length';
	import MomentField from '../../parts/MomentField.svelte';
	import type { Sheet } from '../sheet/sheet.svelte';
	import Folded from './Folded.svelte';

	/** Whether it puts an event into the calendar of those it names: what, from when until when, and where. */
	let { sheet, zone }: { sheet: Sheet; zone: string } = $props();
	const event = $derived(sheet.event);
	const change = (part: Partial<NonNullable<Sheet['event']>>) => {
		if (event) sheet.event = { ...event, ...part };
	};
	const hours = (at: DateTime, n: number) => at.plus({ hours: n }).toFormat("yyyy-MM-dd'T'HH:mm");
	function put(on: boolean) {
		const evening = DateTime.fromMillis(bench.now, { zone }).plus({ days: 7 }).startOf('day');
		sheet.event = on
			? {
					...{ title: '', allDay: false, place: '' },
					...{ startsLocal: hours(evening, 18), endsLocal: hours(evening, 20) }
				}
			: null;
	}
	/** A later start takes the end along. */
	function setStart(next: string) {
		if (!event) return;
		const { startsLocal, endsLocal } = event;
		change({ startsLocal: next, endsLocal: endKept(next, startsLocal, endsLocal) });
	}
	let startUnread = $state(false);
	let endUnread = $state(false);
	$effect(() => {
		sheet.sayUnread(
			'event',
			event && (startUnread || endUnread) ? 'A time of the event cannot be read' : ''
		);
	});
	onDestroy(() => sheet.sayUnread('event', ''));
	const says = $derived.by(() => {
		if (!event) return 'nothing';
		const names = sheet.landing?.event?.names ?? [];
		const title = event.title.trim() || sheet.subject.trim() || 'an event';
		return [
			`“${title}”`,
			dayTime(placeLocal(event.startsLocal, zone).at, zone, bench.now),
			...(names.length > 0 ? [`for ${someNames(names, 2)}`] : [])
		].join(', ');
	});
</script>

<Folded label="Into the calendar" {says}>
	{#snippet before()}
		<Checkbox
			labelText="Puts an event into the calendar of the sections and schools picked, from when it leaves"
			checked={event !== null}
			on:check={(e) => put(e.detail)}
		/>
	{/snippet}
	{#snippet fields()}
		{#if event}
			<TextInput
				size="sm"
				labelText="Title"
				placeholder={sheet.subject.trim() || 'as the subject'}
				maxlength={200}
				value={event.title}
				on:input={(e) => change({ title: String(e.detail ?? '') })}
			/>
			<TextInput
				size="sm"
				labelText="Place"
				maxlength={200}
				value={event.place}
				on:input={(e) => change({ place: String(e.detail ?? '') })}
			/>
			<MomentField
				label="It begins"
				value={event.startsLocal}
				now={bench.now}
				{zone}
				bind:unread={startUnread}
				onchange={setStart}
			/>
			<MomentField
				label="It ends"
				value={event.endsLocal}
				now={bench.now}
				{zone}
				bind:unread={endUnread}
				onchange={(at) => change({ endsLocal: at })}
			/>
		{/if}
	{/snippet}
	{#snippet after()}
		{#if event}
			<Checkbox
				labelText="All day"
				checked={event.allDay}
				on:check={(e) => change({ allDay: e.detail })}
			/>
		{/if}
	{/snippet}
</Folded>
