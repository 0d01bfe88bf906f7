<script lang="ts">
	import { DatePicker, DatePickerInput, TextInput, TimePicker } from 'carbon-components-svelte';
	import { DateTime } from 'luxon';
	import { floating, type LocalTime } from '$lib/core/time/local';
	import type { DateOrder } from '$lib/core/time/read-moment';

	/** A local time, by typing it as one says it or by the pickers; both show the same one. */
	let {
		label,
		value,
		now,
		zone,
		onchange
	}: {
		label: string;
		value: LocalTime;
		now: number;
		zone: string;
		onchange: (value: LocalTime) => void;
	} = $props();

	/** The viewer's own order of day and month, as their browser writes a date. */
	const order: DateOrder =
		new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'numeric' })
			.formatToParts(new Date(2027, 2, 12))
			.find((p) => p.type === 'day' || p.type === 'month')?.type === 'day'
			? 'day-first'
			: 'month-first';
	const pickerFormat = order === 'day-first' ? 'd/m/Y' : 'm/d/Y';
	const placeholder = order === 'day-first' ? 'dd/mm/yyyy' : 'mm/dd/yyyy';

	const shown = $derived(floating(value).setLocale('en-US'));
	const written = $derived(
		`${shown.toFormat('ccc LLL d')}, ${shown.toFormat('h:mm a').toLowerCase()}`
	);
	let typed = $state<string | null>(null);
	let why = $state('');
	const date = $derived(shown.toFormat(order === 'day-first' ? 'dd/MM/yyyy' : 'MM/dd/yyyy'));
	const time = $derived(shown.toFormat('h:mm a').toLowerCase());

	async function take(text: string) {
		// What it was when it was typed: the reader is loaded meanwhile.
		const before = value;
		if (text === written) return;
		const { readMoment } = await import('$lib/core/time/read-moment');
		const read = readMoment(text, now, zone, order, before);
		if (read.ok) {
			typed = null;
			why = '';
			if (read.local !== before) onchange(read.local);
		} else why = read.why;
	}
	function takeDate(text: unknown) {
		if (typeof text !== 'string' || text === date) return;
		const day = DateTime.fromFormat(text, order === 'day-first' ? 'dd/MM/yyyy' : 'MM/dd/yyyy');
		if (day.isValid) {
			typed = null;
			why = '';
			onchange(`${day.toISODate()}${value.slice(10)}`);
		}
	}
	let timeWhy = $state('');
	function takeTime(text: string) {
		for (const format of ['h:mm a', 'h:mma', 'H:mm', 'h a', 'ha']) {
			const t = DateTime.fromFormat(text.trim().toLowerCase(), format, { locale: 'en-US' });
			if (!t.isValid) continue;
			timeWhy = '';
			typed = null;
			onchange(`${value.slice(0, 11)}${t.toFormat('HH:mm')}`);
			return;
		}
		timeWhy = 'Like 7:05 am or 14:15.';
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
		on:input={(e) => (typed = String(e.detail ?? ''))}
		on:change={(e) => void take(String(e.detail ?? ''))}
		on:keydown={(e) => {
			if (e.key !== 'Enter') return;
			// Here it ends the typing, not the form around it.
			e.preventDefault();
			void take((e.target as HTMLInputElement).value);
		}}
	/>
	<DatePicker
		datePickerType="single"
		dateFormat={pickerFormat}
		value={date}
		on:change={(e) => takeDate((e.detail as { dateStr?: unknown } | undefined)?.dateStr)}
	>
		<DatePickerInput size="sm" labelText="Day" {placeholder} />
	</DatePicker>
	<TimePicker
		size="sm"
		labelText="Time"
		placeholder="h:mm am"
		value={time}
		invalid={timeWhy !== ''}
		invalidText={timeWhy}
		pattern=".*"
		maxlength={8}
		on:change={(e) => takeTime((e.target as HTMLInputElement).value)}
	/>
</div>

<style>
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
	.moment :global(.bx--date-picker-container),
	.moment :global(.bx--date-picker),
	.moment :global(.bx--date-picker--single .bx--date-picker__input) {
		width: 138px;
	}
	.moment :global(.bx--date-picker__input),
	.moment :global(.bx--time-picker__input-field) {
		font-family: inherit;
		font-size: 14px;
		letter-spacing: 0;
		background: var(--sheet);
		border: 1px solid var(--line-strong);
		border-radius: 2px;
	}
	.moment :global(.bx--time-picker__input-field) {
		width: 104px;
	}
</style>
