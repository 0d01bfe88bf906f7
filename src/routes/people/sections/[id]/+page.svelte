<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, Checkbox, TextInput } from 'carbon-components-svelte';
	import { dayName } from '$lib/core/time/zone';
	import AccessSheets from '$lib/ui/places/AccessSheets.svelte';
	import PlacePage from '$lib/ui/places/PlacePage.svelte';
	import PutStudentIn from '$lib/ui/places/PutStudentIn.svelte';
	import { keepTyped } from '$lib/ui/parts/keep-typed';

	/** A section: its students with their people and ways, its staff, and what was last sent about it. */
	let { data, form } = $props();
	const s = $derived(data.section);
	const { zone, now } = $derived(data.frame!);
	const correct = $derived(s.mayCorrect && s.goneAt === null);
</script>

<PlacePage
	place={s}
	listed={{ href: '/people/sections', text: 'Sections' }}
	details={[s.course, s.school, s.term, s.period]}
	write="/write?section={s.id}"
	gone={s.goneAt === null
		? ''
		: `No longer on the roster since ${dayName(s.goneAt, zone)}; what was sent about it stays.`}
	takeOut={correct ? '?/unenrol' : null}
	{zone}
	{now}
	answer={form}
>
	{#snippet first()}
		<section>
			<h2>Board</h2>
			<p><a href="/people/boards/section-{s.id}">What stands on its board</a></p>
		</section>
		<section>
			<h2>Staff</h2>
			<p>
				{#each s.staff as one, i (one.personId)}{i > 0 ? ', ' : ''}<a
						href="/people/{one.personId}"
						dir="auto">{one.name}</a
					>{:else}<span class="quiet">Nobody on file.</span>{/each}
			</p>
		</section>
	{/snippet}
	{#snippet beside()}
		{#if data.markers.length > 0 && s.goneAt === null}
			<section>
				<h2>Set a marker</h2>
				<ul>
					{#each data.markers.slice(0, 20) as m (m.id)}
						<li>
							<a href="/people/markers/{m.id}?section={s.id}" dir="auto">{m.name}</a>
						</li>
					{/each}
				</ul>
			</section>
		{/if}
		{#if data.sheets > 0}
			<section>
				<h2>Only an inbox</h2>
				<p class="small">
					{data.sheets}
					{data.sheets === 1 ? 'person here has' : 'people here have'} an inbox and no address that works.
					On paper they get the way to it, each in their language.
				</p>
				<AccessSheets
					action="/people/sections/{s.id}/sheets"
					words="Print {data.sheets} {data.sheets === 1 ? 'sheet' : 'sheets'}"
				/>
			</section>
		{/if}
		{#if s.goneAt === null}
			<section>
				<h2>Families write to its staff</h2>
				<form method="post" action="?/talk" use:enhance={keepTyped} class="talk">
					<Checkbox name="open" labelText="They may begin by themselves" checked={data.talk.open} />
					<TextInput
						size="sm"
						name="hours"
						labelText="When it is read, as they see it"
						placeholder="Read on school days from 8 to 4"
						maxlength={200}
						value={data.talk.hours}
					/>
					<Button type="submit" size="small" kind="tertiary">Set it</Button>
				</form>
			</section>
		{/if}
		{#if correct}
			<section>
				<h2>Put a student in</h2>
				<PutStudentIn action="?/enrol" />
			</section>
		{/if}
	{/snippet}
</PlacePage>

<style>
	.talk {
		display: grid;
		gap: 8px;
	}
	.talk :global(.bx--btn) {
		justify-self: start;
	}
</style>
