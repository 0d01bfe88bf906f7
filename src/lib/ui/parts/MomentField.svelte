<script lang="ts">
	import { page } from '$app/state';
	import { DatePicker, DatePickerInput, TextInput, TimePicker } from 'carbon-components-svelte';
	import { DateTime } from 'luxon';
	import { onDestroy } from 'svelte';
	import { floating, localOf, type LocalTime } from '$lib/core/time/local';
	import {
		localWords,
		readMoment,
		type DateOrder,
		type MomentChoice
	} from '$lib/core/time/read-moment';
	import { clockWords } from '$lib/core/time/zone';
	import { readClock } from '$lib/core/time/said-clock';
	import { clockStyle } from './clock';
	import { dateOrder } from './date-order';

	/** A local time, by typing it as one says it or by the pickers; both show the same one. */
	let {
		label,
		value,
		now,
		zone,
		onchange,
		unread = $bindable(false)
	}: {
		label: string;
		value: LocalTime;
		now: number;
		zone: string;
		onchange: (value: LocalTime) => void;
		/** Whether what stands in it is no time, so that nothing may be done by the old one. */
		unread?: boolean;
	} = $props();

	const order: DateOrder = dateOrder();
	// A field that is gone holds nothing up.
	onDestroy(() => (unread = false));
	const pickerFormat = order === 'day-first' ? 'd/m/Y' : 'm/d/Y';
	const placeholder = order === 'day-first' ? 'dd/mm/yyyy' : 'mm/dd/yyyy';

	const shown = $derived(floating(value).setLocale('en-US'));
	const style = $derived(clockStyle());
	const written = $derived(localWords(value, localOf(now, zone), style));
	let typed = $state<string | null>(null);
	let why = $state('');
	let choices = $state.raw<readonly MomentChoice[]>([]);
	/** What it was before the typing began: its time of day is the usual one. */
	let before: LocalTime | null = null;
	const date = $derived(shown.toFormat(order === 'day-first' ? 'dd/MM/yyyy' : 'MM/dd/yyyy'));
	const time = $derived(clockWords(value.slice(11), style));

	function settle(next: LocalTime) {
		why = '';
		choices = [];
		unread = false;
		if (next !== value) onchange(next);
	}
	/** Read at each key, so that the time that stands is the one that is meant; what is wrong is said once the typing ends. */
	function type(text: string) {
		before ??= value;
		typed = text;
		why = '';
		choices = [];
		const read = readMoment(text, { now, zone, order, style }, before);
		unread = !read.ok;
		if (read.ok) settle(read.local);
	}
	function take(text: string) {
		if (typed === null && text === written) return;
		const read = readMoment(text, { now, zone, order, style }, before ?? value);
		if (!read.ok) {
			typed = text;
			unread = true;
			why = read.why;
			choices = read.choices;
			return;
		}
		finish(read.local);
	}
	function finish(next: LocalTime) {
		settle(next);
		typed = null;
		before = null;
	}
	function takeDate(text: unknown) {
		if (typeof text !== 'string' || text === date) return;
		const day = DateTime.fromFormat(text, order === 'day-first' ? 'dd/MM/yyyy' : 'MM/dd/yyyy');
		if (day.isValid) finish(`${day.toISODate()}${value.slice(10)}`);
	}
	let timeWhy = $state('');
	function takeTime(text: string) {
		const clock = readClock(text);
		if (clock !== null) {
			timeWhy = '';
			finish(`${value.slice(0, 11)}${clock}`);
			return;
		}
		timeWhy = 'Like 7:05 am or 14:15.';
		unread = true;
	}
</script>

<div class="moment" role="group" aria-label={label}>
	<TextInput
		size="sm"
		labelText={label}
		value={typed ?? written}
		invalid={why !== ''}
		invalidText={why}
		autocomplete="off"
		on:input={(e) => type(String(e.detail ?? ''))}
		on:change={(e) => take(String(e.detail ?? ''))}
		on:keydown={(e) => {
			if (e.key !== 'Enter') return;
			// Here it ends the typing, not the form around it.
			e.preventDefault();
			take((e.target as HTMLInputElement).value);
		}}
	/>
	<DatePicker
		datePickerType="single"
		flatpickrProps={{ locale: { firstDayOfWeek: page.data.frame?.weekStart ?? 1 } }}
		dateFormat={pickerFormat}
		value={date}
		on:change={(e) => takeDate((e.detail as { dateStr?: unknown } | undefined)?.dateStr)}
	>
		<DatePickerInput size="sm" labelText="Day" {placeholder} />
	</DatePicker>
	<TimePicker
		size="sm"
		labelText="Time"
		placeholder={style === '24' ? 'hh:mm' : 'h:mm am'}
		value={time}
		invalid={timeWhy !== ''}
		invalidText={timeWhy}
		pattern=".*"
		maxlength={8}
		on:change={(e) => takeTime((e.target as HTMLInputElement).value)}
	/>
</div>
{#if choices.length > 0}
	<div class="choices" role="group" aria-label="Which is meant">
		{#each choices as choice (choice.local)}
			<button type="button" class="plain" onclick={() => finish(choice.local)}
				>{choice.words}</button
			>
		{/each}
	</div>
{/if}

<style>
	.choices {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 12px;
		padding-bottom: 4px;
	}
	.moment {
		display: flex;
		flex-wrap: wrap;
		align-items: flex-end;
		gap: 6px 8px;
	}
	.moment > :global(.bx--form-item) {
		flex: 0 0 auto;
	}
	.moment > :global(.bx--text-input-wrapper) {
		width: 190px;
	}
	.moment :global(.bx--time-picker__input-field) {
		width: 104px;
	}
</style>
