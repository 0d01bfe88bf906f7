<script lang="ts">
	import { Modal, TextInput } from 'carbon-components-svelte';
	import { readClock } from '$lib/core/time/said-clock';
	import DayField from '../../parts/DayField.svelte';

	/** A day, and a time where one is to be said, that each reader gets in their own language. */
	let { onput }: { onput: (field: string) => void } = $props();

	let shown = $state(false);
	let day = $state('');
	let timeTyped = $state('');
	const time = $derived(readClock(timeTyped) ?? '');

	export const open = () => (shown = true);
	function put() {
		if (!/^\d{4}-\d{2}-\d{2}$/.test(day)) return;
		shown = false;
		onput(`date:${day}${/^\d{2}:\d{2}$/.test(time) ? `T${time}` : ''}`);
	}
</script>

<Modal
	bind:open={shown}
	size="sm"
	modalHeading="A date in each reader’s language"
	primaryButtonText="Put it in"
	primaryButtonDisabled={!day || (timeTyped !== '' && time === '')}
	secondaryButtonText="Leave it"
	on:click:button--primary={put}
	on:click:button--secondary={() => (shown = false)}
>
	<div class="date">
		<DayField label="Day" bind:value={day} />
		<TextInput
			size="sm"
			labelText="Time, if one is to be said"
			placeholder="7:05 am"
			bind:value={timeTyped}
			invalid={timeTyped !== '' && time === ''}
			invalidText="Like 7:05 am or 14:15."
		/>
	</div>
</Modal>

<style>
	.date {
		display: flex;
		flex-wrap: wrap;
		gap: 16px;
	}
</style>
