<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, Checkbox } from 'carbon-components-svelte';
	import type { ListedMark, SeenMarks } from '$lib/server/desk/markers/types';

	/** What a list would do to a marker, before anything is done. */
	let { seen, name }: { seen: SeenMarks; name: string } = $props();
	let complete = $state(false);
	const changes = $derived(seen.set.length + (complete ? seen.absent.length : 0));
	const shown = 20;
	const words = (value: string | null) => value ?? 'lacks it';
</script>

{#snippet marks(list: readonly ListedMark[])}
	<ul class="small">
		{#each list.slice(0, shown) as m (m.id)}
			<li dir="auto">
				{m.name} <span class="quiet">{m.note}</span>
				<span class="quiet">{words(m.before)} →</span> <b>{words(m.value)}</b>
			</li>
		{/each}
		{#if list.length > shown}<li>and {(list.length - shown).toLocaleString('en')} more.</li>{/if}
	</ul>
{/snippet}

<section class="seen" aria-label="The list">
	<h2>
		The list changes {name} for {seen.set.length.toLocaleString('en')}
		{seen.set.length === 1 ? 'student' : 'students'}; for {seen.same.toLocaleString('en')} it is so already
	</h2>
	<p class="quiet small">
		{seen.column === null
			? 'No column says more: whoever stands on it has the marker.'
			: `Read from its column “${seen.column}”.`} Nothing has changed yet.
	</p>
	{#if seen.set.length > 0}{@render marks(seen.set)}{/if}
	{#if seen.stays.length > 0}
		<h3>Set otherwise by hand, and stays so until the list itself says something new</h3>
		{@render marks(seen.stays)}
	{/if}
	{#if seen.wrong.length > 0}
		<h3>Lines that stay out</h3>
		<ul class="small">
			{#each seen.wrong.slice(0, shown) as line, i (i)}
				<li class="heed" dir="auto">Line {line.line}: {line.text}</li>
			{/each}
			{#if seen.wrong.length > shown}<li>and {seen.wrong.length - shown} more lines.</li>{/if}
		</ul>
	{/if}
	<form method="post" action="?/takeList" use:enhance>
		<input type="hidden" name="said" value={JSON.stringify(seen.said)} />
		<input type="hidden" name="complete" value={complete ? 'yes' : 'no'} />
		{#if seen.absent.length > 0}
			<Checkbox
				bind:checked={complete}
				labelText="The list is complete: {seen.absent.length.toLocaleString(
					'en'
				)} who are not on it lose the marker"
			/>
			{#if complete}{@render marks(seen.absent)}{/if}
		{/if}
		<Button type="submit" size="small" disabled={changes === 0 && seen.said.length === 0}>
			{changes === 0
				? 'Keep what it says'
				: `Change it for ${changes.toLocaleString('en')} ${changes === 1 ? 'student' : 'students'}`}
		</Button>
	</form>
</section>

<style>
	.seen {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 8px;
		background: var(--sheet);
		border: 1px solid var(--line-strong);
		padding: 12px 16px;
	}
	form {
		display: grid;
		gap: 8px;
		justify-items: start;
	}
</style>
