<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import { dayName } from '$lib/core/time/zone';
	import FindPerson from '$lib/ui/parts/FindPerson.svelte';
	import LastSent from '$lib/ui/places/LastSent.svelte';
	import ReachStrip from '$lib/ui/places/ReachStrip.svelte';
	import StudentsAndPeople from '$lib/ui/places/StudentsAndPeople.svelte';
	import type { FoundPerson } from '$lib/server/desk/people/types';
	import type { ReachLine } from '$lib/server/desk/places/types';

	/** A section: its students with their people and ways, its staff, and what was last sent about it. */
	let { data, form } = $props();
	const s = $derived(data.section);
	const zone = $derived(data.frame!.zone);
	const correct = $derived(s.mayCorrect && s.goneAt === null);
	let found = $state.raw<FoundPerson | null>(null);
</script>

<svelte:head><title>{s.name} · People · Idle Courier</title></svelte:head>

{#snippet out(line: ReachLine)}
	<form method="post" action="?/unenrol" use:enhance>
		<input type="hidden" name="studentId" value={line.studentId} />
		<button class="plain" aria-label="Take out {line.name}">take out</button>
	</form>
{/snippet}

<div class="page">
	<div class="page-head">
		<header>
			<p class="quiet">
				<a href="/people">People</a> · <a href="/people/sections">Sections</a>
			</p>
			<h1 dir="auto">{s.name}</h1>
			<p class="quiet">
				{[s.course, s.school, s.term, s.period].filter(Boolean).join(' · ')}
			</p>
		</header>
		{#if s.goneAt === null}
			<Button size="small" href="/write?section={s.id}">Write to them</Button>
		{/if}
	</div>
	{#if s.goneAt !== null}
		<p class="heed">
			No longer on the roster since {dayName(s.goneAt, zone)}; what was sent about it stays.
		</p>
	{/if}
	{#if form?.said}<p class="good" role="status">{form.said}</p>{/if}
	{#if form?.why}<p class="fail" role="alert">{form.why}</p>{/if}
	<ReachStrip line={s.reach} />
	<div class="two">
		<div>
			{#if s.people.length === 0}<p class="quiet">Nobody is in it yet.</p>
			{:else}<StudentsAndPeople lines={s.people} deed={correct ? out : undefined} />{/if}
		</div>
		<aside>
			<section>
				<h2>Staff</h2>
				<p>
					{#each s.staff as one, i (one.personId)}{i > 0 ? ', ' : ''}<a
							href="/people/{one.personId}"
							dir="auto">{one.name}</a
						>{:else}<span class="quiet">Nobody on file.</span>{/each}
				</p>
			</section>
			<LastSent sent={s.sent} {zone} now={data.frame!.now} />
			{#if correct}
				<section>
					<h2>Put a student in</h2>
					<FindPerson label="A student" among="students" onfound={(p) => (found = p)} />
					{#if found}
						<form
							method="post"
							action="?/enrol"
							use:enhance={() =>
								({ update }) => {
									found = null;
									return update();
								}}
						>
							<input type="hidden" name="studentId" value={found.personId} />
							<Button type="submit" size="small" kind="tertiary">Put {found.name} in</Button>
						</form>
					{/if}
				</section>
			{/if}
		</aside>
	</div>
</div>

<style>
	.two {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 280px;
		gap: 32px;
		align-items: start;
	}
	aside {
		display: grid;
		gap: 18px;
	}
	section {
		display: grid;
		gap: 6px;
	}
	@media (max-width: 900px) {
		.two {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
