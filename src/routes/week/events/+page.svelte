<script lang="ts">
	import { enhance } from '$app/forms';
	import { invalidateAll } from '$app/navigation';
	import {
		Button,
		FileUploaderButton,
		RadioButton,
		RadioButtonGroup,
		Select,
		SelectItem,
		TextInput
	} from 'carbon-components-svelte';
	import { DateTime } from 'luxon';
	import { dayAfter } from '$lib/core/time/local';
	import { dayTime } from '$lib/ui/parts/clock';
	import type { CalendarPreview } from '$lib/server/desk/calendar/types';
	import { postJson } from '$lib/ui/parts/post-json';
	import DayField from '$lib/ui/parts/DayField.svelte';
	import EventForm from '$lib/ui/week/EventForm.svelte';
	import ViewLinks from '$lib/ui/week/ViewLinks.svelte';

	let { data, form } = $props();
	const day = (date: string) =>
		DateTime.fromISO(date, { zone: 'utc' }).setLocale('en-US').toFormat('ccc LLL d, yyyy');
	const stretch = (from: string, to: string) => {
		const last = dayAfter(to, -1);
		return last === from ? day(from) : `${day(from)} to ${day(last)}`;
	};

	// svelte-ignore state_referenced_locally
	let closeFrom = $state(data.today);
	// svelte-ignore state_referenced_locally
	let closeTo = $state(data.today);
	const asks = $derived(form && 'ask' in form && typeof form.ask === 'string' ? form.ask : '');

	// A calendar file is read in the browser, looked at, and only then taken.
	let as = $state<'events' | 'closures'>('events');
	let fileText = $state('');
	let fileName = $state('');
	let preview = $state.raw<(CalendarPreview & { moved: number }) | null>(null);
	let importWhy = $state('');
	let importDone = $state('');
	let busy = $state(false);
	async function read(take: boolean) {
		busy = true;
		importWhy = importDone = '';
		const answer = await postJson<CalendarPreview & { moved: number }>('/week/events/import', {
			text: fileText,
			as,
			take
		});
		busy = false;
		if (!answer.ok) {
			importWhy = answer.status === 0 ? 'No connection, so nothing was changed.' : answer.why;
			return;
		}
		if (!take) {
			preview = answer.body;
			return;
		}
		importDone = `${answer.body.fresh.length} new, ${answer.body.changed.length} changed${answer.body.moved > 0 ? `, ${answer.body.moved} reminders moved with them` : ''}.`;
		preview = null;
		fileText = '';
		await invalidateAll();
	}
	async function choose(files: readonly File[]) {
		const file = files[0];
		preview = null;
		importWhy = importDone = '';
		if (!file) return;
		fileName = file.name;
		if (file.size > 3_000_000) {
			importWhy = `${file.name} is over 3 MB. Export a shorter stretch of time.`;
			return;
		}
		fileText = await file.text();
		await read(false);
	}
</script>

<svelte:head><title>Events and closures · Idle Courier</title></svelte:head>

<div class="page">
	<div class="page-head start">
		<h1>Events and closures</h1>
		<ViewLinks at="events" />
		<a href="/week/events/file" download>As an iCalendar file</a>
	</div>
	{#if form?.why}<p class="fail" role="alert">{form.why}</p>{/if}
	{#if form?.done}<p role="status">{form.done}</p>{/if}
	<div class="halves">
		<section>
			<h2>Ahead</h2>
			{#if data.events.length === 0}
				<p class="quiet">No event is ahead. Put one in, or bring a calendar file in.</p>
			{:else}
				<table class="lines">
					<thead>
						<tr>
							<th scope="col">When</th>
							<th scope="col">What</th>
							<th scope="col">Whom it concerns</th>
							<th scope="col">Reminders</th>
						</tr>
					</thead>
					<tbody>
						{#each data.events as event (event.id)}
							<tr class:off={event.calledOff}>
								<td class="mono">
									{event.allDay
										? dayTime(event.startsAt, data.zone).split(',')[0]
										: dayTime(event.startsAt, data.zone)}
								</td>
								<td>
									<a href="/week/events/{event.id}" dir="auto">{event.title}</a>
									{#if event.calledOff}<span class="heed">called off</span>{/if}
									{#if event.place}<br /><span class="quiet">{event.place}</span>{/if}
								</td>
								<td>{event.concerns}</td>
								<td>{event.reminders || ''}</td>
							</tr>
						{/each}
					</tbody>
				</table>
			{/if}
			<h2>Days without school</h2>
			{#if data.closures.length === 0}<p class="quiet">None is known.</p>{/if}
			<ul class="closures">
				{#each data.closures as c (c.id)}
					<li>
						<span class="mono">{stretch(c.startsOn, c.endsOn)}</span>
						<span>{c.name}</span>
						<span class="quiet">{c.school ?? 'all schools'}</span>
						{#if data.mayImport}
							<form method="POST" action="?/open" use:enhance>
								<input type="hidden" name="id" value={c.id} />
								<button class="plain">Take out<span class="spoken"> {c.name}</span></button>
							</form>
						{/if}
					</li>
				{/each}
			</ul>
			<form
				method="POST"
				action="?/close"
				class="close"
				use:enhance={() =>
					({ result, update }) =>
						// What is asked about stays as it was written.
						update({ reset: result.type === 'success' })}
			>
				<TextInput size="sm" labelText="Why there is no school" name="name" />
				<DayField label="First day" name="startsOn" bind:value={closeFrom} />
				<DayField label="Last day" name="lastOn" bind:value={closeTo} />
				<Select size="sm" labelText="School" name="schoolId">
					{#if data.mayImport}<SelectItem value="" text="all schools" />{/if}
					{#each data.schools as s (s.id)}<SelectItem value={s.id} text={s.name} />{/each}
				</Select>
				<Button kind="tertiary" size="small" type="submit">No school then</Button>
				{#if asks}
					<p class="heed ask" role="alert">{asks}</p>
					<Button kind="danger-tertiary" size="small" type="submit" name="sure" value="1"
						>Yes, no school then</Button
					>
				{/if}
			</form>
		</section>
		<section>
			<h2>A new event</h2>
			<EventForm
				schools={data.schools}
				sections={data.sections}
				first={data.first}
				zone={data.zone}
			/>
			{#if data.mayImport}
				<h2>From a calendar file</h2>
				<RadioButtonGroup
					legendText="Its entries are"
					bind:selected={as}
					on:change={() => fileText && read(false)}
				>
					<RadioButton value="events" labelText="events" />
					<RadioButton value="closures" labelText="days without school" />
				</RadioButtonGroup>
				<FileUploaderButton
					kind="tertiary"
					size="small"
					labelText="Choose an iCalendar file"
					disableLabelChanges
					accept={['.ics', 'text/calendar']}
					on:change={(e) => choose(e.detail)}
				/>
				{#if fileName}<span class="quiet small">{fileName}</span>{/if}
				{#if importWhy}<p class="fail" role="alert">{importWhy}</p>{/if}
				{#if importDone}<p role="status">{importDone}</p>{/if}
				{#if preview}
					<div class="preview" role="status">
						<p>
							<b>{fileName}</b>: {preview.fresh.length} new, {preview.changed.length} changed,
							{preview.same} as they are, {preview.problems.length} not usable.
						</p>
						<ul>
							{#each [...preview.fresh, ...preview.changed].slice(0, 8) as e (e.uid)}
								<li dir="auto">
									<span class="mono">{e.startsLocal.replace('T', ' ')}</span>
									{e.title}{e.calledOff ? ', called off' : ''}
								</li>
							{/each}
						</ul>
						{#if preview.fresh.length + preview.changed.length > 8}<p class="quiet">
								and {preview.fresh.length + preview.changed.length - 8} more
							</p>{/if}
						{#each preview.problems.slice(0, 20) as p, i (i)}
							<p class="heed"><b dir="auto">{p.where}</b> {p.text}</p>
						{/each}
						<Button
							size="small"
							disabled={busy || preview.fresh.length + preview.changed.length === 0}
							on:click={() => read(true)}
						>
							Take {preview.fresh.length + preview.changed.length} in
						</Button>
					</div>
				{/if}
			{/if}
		</section>
	</div>
</div>

<style>
	.halves {
		display: grid;
		grid-template-columns: minmax(0, 1.3fr) minmax(0, 1fr);
		gap: 36px;
	}
	h2 {
		margin: 14px 0 8px;
	}
	.off td:first-child {
		text-decoration: line-through;
	}
	.closures {
		list-style: none;
		padding: 0;
	}
	.closures li {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 14px;
		padding: 5px 0;
		border-top: 1px solid var(--line);
	}
	.closures form {
		margin-inline-start: auto;
	}
	.close {
		display: flex;
		flex-wrap: wrap;
		align-items: flex-end;
		gap: 10px;
		margin-top: 10px;
	}
	.close > :global(.bx--form-item) {
		flex: 0 0 190px;
	}
	.ask {
		flex-basis: 100%;
	}
	.preview {
		margin-top: 10px;
		padding: 10px 12px;
		border: 1px solid var(--line);
		background: var(--sheet);
	}
	@media (max-width: 1000px) {
		.halves {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
