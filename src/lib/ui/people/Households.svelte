<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import FindPerson from '$lib/ui/parts/FindPerson.svelte';
	import type { FoundPerson, PersonView } from '$lib/server/desk/people/types';

	/** Whom a person lives with; a student of two homes has two. */
	let { person, why = '' }: { person: PersonView; why?: string } = $props();
	let found = $state.raw<FoundPerson | null>(null);
	const homes = $derived(person.households);
	const here = $derived(person.mayCorrect && person.goneAt === null);
</script>

{#each homes as home, i (home.id)}
	<section>
		<h2>{homes.length > 1 ? `Household ${i + 1}` : 'Household'}</h2>
		<p dir="auto" class="small">
			{#each home.members as m, n (m.personId)}{n > 0 ? ', ' : ''}<a href="/people/{m.personId}"
					>{m.name}</a
				>{:else}lives alone{/each}
		</p>
		{#if here}
			<form method="post" action="?/moveOut" use:enhance>
				<input type="hidden" name="personId" value={person.id} />
				<input type="hidden" name="householdId" value={home.id} />
				<button class="plain">No longer lives here</button>
			</form>
		{/if}
	</section>
{/each}
{#if here}
	<details class="correct" open={why !== ''}>
		<summary class="small"
			>{homes.length > 0 ? 'Another household' : 'Household'}: lives with</summary
		>
		<FindPerson label="Who lives there" among="seen" onfound={(p) => (found = p)} />
		{#if why}<p class="fail small" role="alert">{why}</p>{/if}
		{#if found}
			<form
				method="post"
				action="?/livesWith"
				use:enhance={() =>
					({ update }) => {
						found = null;
						return update();
					}}
			>
				<input type="hidden" name="personId" value={person.id} />
				<input type="hidden" name="withId" value={found.personId} />
				<Button type="submit" size="small" kind="tertiary">Lives with {found.name}</Button>
			</form>
		{/if}
	</details>
{/if}
