<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, Select, SelectItem } from 'carbon-components-svelte';
	import { dayName } from '$lib/core/time/zone';
	import ListUpload from '$lib/ui/parts/ListUpload.svelte';
	import PlacePage from '$lib/ui/places/PlacePage.svelte';
	import PutStudentIn from '$lib/ui/places/PutStudentIn.svelte';

	/** A group: its students with their people and ways, how each came in, and what was last sent about it. */
	let { data, form } = $props();
	const g = $derived(data.group);
	const { zone, now } = $derived(data.frame!);
	const correct = $derived(data.mayCorrect && g.goneAt === null);
	const ways = { hand: 'by hand', audience: 'with an audience', list: 'with a list' } as const;
	const howOf = (id: number) => {
		const note = g.cameIn[id];
		return note?.how
			? [ways[note.how], note.by, note.since === null ? '' : dayName(note.since, zone)]
					.filter(Boolean)
					.join(', ')
			: '';
	};
	const place = $derived({
		...g,
		people: g.people.map((line) => ({ ...line, note: howOf(line.studentId) }))
	});
	const seen = $derived(form?.seen ?? null);
</script>

<PlacePage
	{place}
	listed={{ href: '/people/groups', text: 'Groups' }}
	details={[g.kind, g.school || 'the whole district']}
	write="/write?group={g.id}"
	gone={g.goneAt === null ? '' : `Given up ${dayName(g.goneAt, zone)}; what was sent to it stays.`}
	takeOut={correct ? '?/takeOut' : null}
	{zone}
	{now}
	answer={form}
>
	{#snippet above()}
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
	{/snippet}
	{#snippet first()}
		<section>
			<h2>Board</h2>
			<p><a href="/people/boards/group-{g.id}">What stands on its board</a></p>
		</section>
		{#if g.code !== null || g.joined > 0 || correct}
			<section>
				<h2>Joining by a code</h2>
				<p class="small">
					{#if g.code !== null}Open: <b>{g.code}</b>.{/if}
					{#if g.code !== null || g.joined > 0}
						<a href="/people/groups/{g.id}/joining"
							>{g.joined === 1 ? '1 has joined' : `${g.joined} have joined`}</a
						>
					{:else}
						<a href="/people/groups/{g.id}/joining">Open it, so that people can join</a>
					{/if}
				</p>
			</section>
		{/if}
	{/snippet}
	{#snippet beside()}
		{#if g.people.length > 0}
			<p class="small">
				<a href="/people/groups/{g.id}/list" download>The students as a list (CSV)</a>
			</p>
		{/if}
		{#if correct}
			<section>
				<h2>Put students in</h2>
				<PutStudentIn action="?/putIn" />
				<ListUpload words="A list (CSV): numbers or names, one line for each student." />
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
	{/snippet}
</PlacePage>

<style>
	.seen {
		background: var(--sheet);
		border: 1px solid var(--line-strong);
		padding: 12px 16px;
	}
</style>
