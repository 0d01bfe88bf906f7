<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, FileUploaderButton, Select, SelectItem } from 'carbon-components-svelte';
	import { dayName } from '$lib/core/time/zone';
	import FindPerson from '$lib/ui/parts/FindPerson.svelte';
	import LastSent from '$lib/ui/places/LastSent.svelte';
	import ReachStrip from '$lib/ui/places/ReachStrip.svelte';
	import StudentsAndPeople from '$lib/ui/places/StudentsAndPeople.svelte';
	import type { FoundPerson } from '$lib/server/desk/people/types';
	import type { ReachLine } from '$lib/server/desk/places/types';

	/** A group: its students with their people and ways, how each came in, and what was last sent about it. */
	let { data, form } = $props();
	const g = $derived(data.group);
	const zone = $derived(data.frame!.zone);
	const correct = $derived(data.mayCorrect && g.goneAt === null);
	let found = $state.raw<FoundPerson | null>(null);
	const ways = { hand: 'by hand', audience: 'with an audience', list: 'with a list' } as const;
	const howOf = (id: number) => {
		const note = g.cameIn[id];
		return note?.how
			? [ways[note.how], note.by, note.since === null ? '' : dayName(note.since, zone)]
					.filter(Boolean)
					.join(', ')
			: '';
	};
	const lines = $derived(g.people.map((line) => ({ ...line, note: howOf(line.studentId) })));
	const seen = $derived(form?.seen ?? null);
</script>

<svelte:head><title>{g.name} · People · Idle Courier</title></svelte:head>

{#snippet out(line: ReachLine)}
	<form method="post" action="?/takeOut" use:enhance>
		<input type="hidden" name="studentId" value={line.studentId} />
		<button class="plain" aria-label="Take out {line.name}">take out</button>
	</form>
{/snippet}

<div class="page">
	<div class="page-head">
		<header>
			<p class="quiet"><a href="/people">People</a> · <a href="/people/groups">Groups</a></p>
			<h1 dir="auto">{g.name}</h1>
			<p class="quiet">{[g.kind, g.school || 'the whole district'].join(' · ')}</p>
		</header>
		{#if g.goneAt === null}
			<Button size="small" href="/write?group={g.id}">Write to them</Button>
		{/if}
	</div>
	{#if g.goneAt !== null}
		<p class="heed">Given up {dayName(g.goneAt, zone)}; what was sent to it stays.</p>
	{/if}
	{#if form?.said}<p class="good" role="status">{form.said}</p>{/if}
	{#if form?.why}<p class="fail" role="alert">{form.why}</p>{/if}
	<ReachStrip line={g.reach} />
	<div class="two">
		<div class="members">
			{#if seen}
				<section class="seen" aria-label="The list">
					<h2>
						The list names {seen.found.length}
						{seen.found.length === 1 ? 'student who is' : 'students who are'} not in it yet{seen.already >
						0
							? `, and ${seen.already} who ${seen.already === 1 ? 'is' : 'are'}`
							: ''}
					</h2>
					{#if seen.wrong.length > 0}
						<ul class="small">
							{#each seen.wrong.slice(0, 100) as line (line.line)}
								<li class="heed" dir="auto">Line {line.line}: {line.text}</li>
							{/each}
							{#if seen.wrong.length > 100}<li>and {seen.wrong.length - 100} more lines.</li>{/if}
						</ul>
					{/if}
					{#if seen.found.length > 0}
						<p class="small" dir="auto">
							{seen.found
								.slice(0, 40)
								.map((s) => s.name)
								.join(', ')}{seen.found.length > 40 ? ` and ${seen.found.length - 40} more` : ''}
						</p>
						<form method="post" action="?/putInMany" use:enhance>
							<input type="hidden" name="ids" value={seen.found.map((s) => s.id).join(',')} />
							<Button type="submit" size="small">
								Put {seen.found.length}
								{seen.found.length === 1 ? 'student' : 'students'} in
							</Button>
						</form>
					{/if}
				</section>
			{/if}
			{#if lines.length === 0}<p class="quiet">Nobody is in it yet.</p>
			{:else}<StudentsAndPeople {lines} deed={correct ? out : undefined} />{/if}
		</div>
		<aside>
			<LastSent sent={g.sent} {zone} now={data.frame!.now} />
			{#if correct}
				<section>
					<h2>Put students in</h2>
					<FindPerson label="A student" among="students" onfound={(p) => (found = p)} />
					{#if found}
						<form
							method="post"
							action="?/putIn"
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
					<form method="post" action="?/lookAtList" enctype="multipart/form-data" use:enhance>
						<p class="small">A list (CSV): numbers or names, one line for each student.</p>
						<FileUploaderButton
							name="list"
							size="small"
							kind="ghost"
							labelText="Choose a list"
							accept={['.csv', '.txt', '.tsv']}
						/>
						<Button type="submit" size="small" kind="tertiary">Look at the list</Button>
					</form>
					{#if g.kept.length > 0}
						<form method="post" action="?/fromAudience" use:enhance>
							<Select size="sm" labelText="The students of a kept audience" name="keptId">
								{#each g.kept as kept (kept.id)}
									<SelectItem value={String(kept.id)} text={kept.name} />
								{/each}
							</Select>
							<Button type="submit" size="small" kind="tertiary">Put them in</Button>
						</form>
					{/if}
				</section>
				<form method="post" action="?/giveUp" use:enhance>
					<Button type="submit" size="small" kind="danger-ghost">Give this group up</Button>
				</form>
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
	aside,
	.members {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 18px;
	}
	section,
	form {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 8px;
	}
	section :global(.bx--btn),
	form :global(.bx--btn) {
		justify-self: start;
	}
	section > form {
		margin-top: 8px;
	}
	.seen {
		background: var(--sheet);
		border: 1px solid var(--line-strong);
		padding: 12px 16px;
	}
	@media (max-width: 900px) {
		.two {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
