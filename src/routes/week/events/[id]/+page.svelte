<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import { dayTime } from '$lib/ui/parts/clock';
	import DateLines from '$lib/ui/week/DateLines.svelte';
	import EventForm from '$lib/ui/week/EventForm.svelte';
	import ViewLinks from '$lib/ui/week/ViewLinks.svelte';

	let { data, form } = $props();
	const event = $derived(data.event);
	const scheduled = $derived(
		data.rounds.flatMap((r) => r.dates).filter((d) => d.state === 'scheduled' && !d.own).length
	);
</script>

<svelte:head><title>{event.title} · Idle Courier</title></svelte:head>

<div class="page">
	<div class="page-head start">
		<h1 dir="auto">{event.title}</h1>
		<ViewLinks at="events" />
	</div>
	<p>
		{event.allDay
			? dayTime(event.startsAt, data.zone).split(',')[0]
			: `${dayTime(event.startsAt, data.zone)} to ${dayTime(event.endsAt, data.zone)}`}{event.place
			? `, ${event.place}`
			: ''}{#if event.calledOff}. <b class="heed">Called off</b>{/if}
	</p>
	{#if form?.why}<p class="fail" role="alert">{form.why}</p>{/if}
	{#if form?.done}<p role="status">{form.done}</p>{/if}
	<div class="halves">
		<section>
			<h2>Reminders</h2>
			{#if data.rounds.length === 0}
				<p class="quiet">None yet.</p>
			{/if}
			{#if data.frame!.mayWrite && !event.calledOff && event.startsAt > data.frame!.now}
				<p><a href="/write?event={event.id}">Write to those it concerns</a></p>
			{/if}
			{#each data.rounds as round (round.id)}
				<DateLines dates={round.dates} zone={data.zone} />
			{/each}
		</section>
		{#if data.mine}
			<section>
				<h2>The event</h2>
				{#key event.changedAt}
					<EventForm
						{event}
						schools={data.schools}
						sections={data.sections}
						first={event.startsLocal}
						zone={data.zone}
						reminders={scheduled}
					/>
				{/key}
				{#if !event.calledOff}
					<form method="POST" action="?/callOff" use:enhance class="off">
						<Button kind="danger-ghost" size="small" type="submit">Call the event off</Button>
					</form>
				{/if}
			</section>
		{/if}
	</div>
</div>

<style>
	.halves {
		display: grid;
		grid-template-columns: minmax(0, 1.5fr) minmax(0, 1fr);
		gap: 36px;
	}
	h2 {
		margin: 14px 0 8px;
	}
	.off {
		margin-top: 12px;
	}
	@media (max-width: 1000px) {
		.halves {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
