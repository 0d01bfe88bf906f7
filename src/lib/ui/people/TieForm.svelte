<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import type { Tie } from '$lib/server/desk/people/types';
	import TieFields from './TieFields.svelte';
	import { keepTyped } from '$lib/ui/parts/keep-typed';

	/** Corrects what an adult is to a student, or ends it; who did it is written down. */
	let { tie, why = '' }: { tie: Tie; why?: string } = $props();
	const ids = $derived([
		['studentId', tie.studentId],
		['personId', tie.adultId]
	] as const);
</script>

<details class="correct" open={why !== ''}>
	<summary class="small">Correct</summary>
	<form method="post" action="?/tie" use:enhance={keepTyped}>
		{#each ids as [name, value] (name)}<input type="hidden" {name} {value} />{/each}
		<TieFields {tie} />
		{#if why}<p class="fail small" role="alert">{why}</p>{/if}
		<Button type="submit" size="small" kind="tertiary">Correct it</Button>
	</form>
	<form method="post" action="?/endTie" use:enhance>
		{#each ids as [name, value] (name)}<input type="hidden" {name} {value} />{/each}
		<Button type="submit" size="small" kind="danger-ghost">No longer {tie.word}</Button>
	</form>
</details>
