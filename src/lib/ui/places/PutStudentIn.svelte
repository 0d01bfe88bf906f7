<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import FindPerson from '$lib/ui/parts/FindPerson.svelte';
	import type { FoundPerson } from '$lib/server/desk/people/types';

	/** Finds a student by name and puts them in by the page's own action. */
	let { action }: { action: string } = $props();
	let found = $state.raw<FoundPerson | null>(null);
</script>

<FindPerson label="A student" among="students" onfound={(p) => (found = p)} />
{#if found}
	<form
		method="post"
		{action}
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
