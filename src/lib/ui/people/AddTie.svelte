<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import FindPerson from '$lib/ui/parts/FindPerson.svelte';
	import type { FoundPerson } from '$lib/server/desk/people/types';
	import TieFields from './TieFields.svelte';

	/** Ties somebody on file to a student, or leads to adding somebody who is new. */
	let { studentId, why = '' }: { studentId: number; why?: string } = $props();
	let found = $state.raw<FoundPerson | null>(null);
	const usual = {
		...{ word: '', guardian: true, custody: null },
		...{ correspondence: true, emergency: false }
	};
</script>

<details class="correct" open={why !== ''}>
	<summary class="small">Add a contact</summary>
	<FindPerson label="Somebody on file" among="seen" onfound={(p) => (found = p)} />
	<p class="small"><a href="/people/new?for={studentId}">Somebody new</a></p>
	{#if found}
		<form method="post" action="?/addTie" use:enhance>
			<p><b dir="auto">{found.name}</b> <span class="quiet small" dir="auto">{found.note}</span></p>
			<input type="hidden" name="studentId" value={studentId} />
			<input type="hidden" name="personId" value={found.personId} />
			<TieFields tie={usual} />
			{#if why}<p class="fail small" role="alert">{why}</p>{/if}
			<Button type="submit" size="small" kind="tertiary">Add them</Button>
		</form>
	{:else if why}<p class="fail small" role="alert">{why}</p>{/if}
</details>
