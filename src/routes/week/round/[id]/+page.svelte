<script lang="ts">
	import DateLines from '$lib/ui/week/DateLines.svelte';
	import ViewLinks from '$lib/ui/week/ViewLinks.svelte';

	let { data, form } = $props();
	const round = $derived(data.round);
	const coming = $derived(round.dates.filter((d) => d.state === 'scheduled').length);
	const subject = $derived(round.dates[0]?.subject ?? 'A round');
</script>

<svelte:head><title>{subject} · Idle Courier</title></svelte:head>

<div class="page">
	<div class="page-head start">
		<h1 dir="auto">{subject}</h1>
		<ViewLinks at="list" />
	</div>
	<p>
		{#if round.eventId !== null}<a href="/week/events/{round.eventId}">Reminders of an event</a
			>{:else}{round.rule}{/if}: {coming} still to come, {round.dates.length - coming} sent or called
		back.
		{#if round.dates[0]}To {round.dates[0].audience}.{/if}
		Who gets it is worked out again for each date, shortly before it leaves.
	</p>
	{#if form?.why}<p class="fail" role="alert">{form.why}</p>{/if}
	{#if form?.done}<p role="status">{form.done}</p>{/if}
	<DateLines dates={round.dates} zone={data.zone} />
</div>

<style>
	.page {
		max-width: 1100px;
	}
</style>
