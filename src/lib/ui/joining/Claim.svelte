<script lang="ts">
	import { enhance } from '$app/forms';
	import FindPerson from '$lib/ui/parts/FindPerson.svelte';
	import type { FoundPerson } from '$lib/server/desk/people/types';
	import type { JoinerLine } from '$lib/server/desk/joining/types';

	/** A student whom somebody names, until the office says which one it is, or that it is none. */
	let { line, correct }: { line: JoinerLine; correct: boolean } = $props();
	const claim = $derived(line.claim!);
	let other = $state(false);
	let found = $state.raw<FoundPerson | null>(null);
</script>

{#snippet say(studentId: number | '', words: string, label: string)}
	<form method="post" action="?/claim" use:enhance>
		<input type="hidden" name="id" value={line.id} />
		<input type="hidden" name="studentId" value={studentId} />
		<button class="plain" aria-label="{words}: {label}">{words}</button>
	</form>
{/snippet}

<span class:quiet={claim.refused}>
	<span dir="auto">{claim.words}</span>
	<span class="small quiet">{claim.refused ? 'the office said no' : 'claimed'}</span>
</span>
{#if correct}
	<span class="deeds small">
		{#if !claim.refused}
			{#each line.fitting as fit (fit.id)}
				{@render say(
					fit.id,
					`Yes: ${fit.note}`,
					`${line.name} is there for ${fit.name}, ${fit.note}`
				)}
			{/each}
		{/if}
		<button class="plain" onclick={() => (other = !other)}
			>{line.fitting.length > 0 && !claim.refused ? 'another' : 'find them'}</button
		>
		{#if !claim.refused}
			{@render say('', 'no', `${line.name} is not there for ${claim.words}`)}
		{/if}
	</span>
	{#if other}
		<FindPerson label="The student" among="students" onfound={(p) => (found = p)} />
		{#if found}{@render say(
				found.personId,
				`Yes: ${found.name}`,
				`${line.name} is there for ${found.name}`
			)}{/if}
	{/if}
{/if}

<style>
	.deeds {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 12px;
	}
</style>
