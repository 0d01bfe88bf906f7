<script lang="ts">
	import { goto } from '$app/navigation';
	import { enhance } from '$app/forms';
	import FindPerson from '$lib/ui/parts/FindPerson.svelte';
	import { Button } from 'carbon-components-svelte';
	import type { FormLists } from '$lib/server/desk/hand/types';
	import type { OwnFields } from '$lib/server/desk/people/types';
	import PersonFields from './PersonFields.svelte';
	import { keepTyped } from '$lib/ui/parts/keep-typed';

	/** Corrects what a person is called, reads, and where they are; or ends them. */
	let {
		own,
		id,
		student,
		lists,
		why = '',
		whyNotEnded = ''
	}: {
		own: OwnFields;
		id: number;
		student: boolean;
		lists: FormLists;
		why?: string;
		whyNotEnded?: string;
	} = $props();
</script>

<details class="correct" open={why + whyNotEnded !== ''}>
	<summary class="small">Correct names, language{student ? ', school' : ''}</summary>
	<form method="post" action="?/correct" use:enhance={keepTyped}>
		<input type="hidden" name="id" value={id} />
		<PersonFields {own} {student} {lists} />
		{#if why}<p class="fail small" role="alert">{why}</p>{/if}
		<Button type="submit" size="small" kind="tertiary">Correct it</Button>
	</form>
	<FindPerson
		label="On file twice"
		among="seen"
		onfound={(p) => void goto(`/people/${id}/same?with=${p.personId}`)}
	/>
	<form method="post" action="?/end" use:enhance>
		<input type="hidden" name="id" value={id} />
		<p class="small quiet">
			Whoever is no longer at the schools leaves every audience. Log and evidence stay, and it can
			be taken back.
		</p>
		{#if whyNotEnded}<p class="fail small" role="alert">{whyNotEnded}</p>{/if}
		<Button type="submit" size="small" kind="danger-ghost">No longer at the schools</Button>
	</form>
</details>
