<script lang="ts">
	import { page } from '$app/state';
	import { DatePicker, DatePickerInput } from 'carbon-components-svelte';
	import { DateTime } from 'luxon';
	import { dateOrder } from './date-order';

	/** A day, in the viewer's order of figures; a form gets it as an ISO date, empty where it is none. */
	let {
		label,
		name = '',
		value = $bindable('')
	}: { label: string; name?: string; value?: string } = $props();

	const dayFirst = dateOrder() === 'day-first';
	const format = dayFirst ? 'dd/MM/yyyy' : 'MM/dd/yyyy';
	const shown = $derived(value === '' ? '' : DateTime.fromISO(value).toFormat(format));
	let typed = $state<string | null>(null);

	function take(text: string) {
		const day = DateTime.fromFormat(text.trim(), format);
		value = day.isValid ? day.toISODate()! : '';
		typed = day.isValid ? null : text;
	}
</script>

<div class="day">
	<DatePicker
		datePickerType="single"
		flatpickrProps={{ locale: { firstDayOfWeek: page.data.frame?.weekStart ?? 1 } }}
		dateFormat={dayFirst ? 'd/m/Y' : 'm/d/Y'}
		value={shown}
		on:change={(e) => {
			const text = (e.detail as { dateStr?: unknown } | undefined)?.dateStr;
			if (typeof text === 'string' && text !== '') take(text);
		}}
	>
		<DatePickerInput
			size="sm"
			labelText={label}
			placeholder={dayFirst ? 'dd/mm/yyyy' : 'mm/dd/yyyy'}
			invalid={typed !== null && typed !== ''}
			invalidText="There is no such day."
			on:input={(e) => take((e.target as HTMLInputElement).value)}
		/>
	</DatePicker>
	{#if name}<input type="hidden" {name} {value} />{/if}
</div>
