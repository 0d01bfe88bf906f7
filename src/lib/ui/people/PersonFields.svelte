<script lang="ts">
	import { Checkbox, Select, SelectItem, TextInput } from 'carbon-components-svelte';
	import type { FormLists } from '$lib/server/desk/hand/types';
	import type { OwnFields } from '$lib/server/desk/people/types';

	/** The fields of a form that say what a person is called and reads, and where a student is. */
	let { own, student, lists }: { own: OwnFields; student: boolean; lists: FormLists } = $props();
	// svelte-ignore state_referenced_locally
	let inbox = $state(own.hasInbox);
</script>

<TextInput
	size="sm"
	labelText="Given name"
	name="givenName"
	value={own.givenName}
	maxlength={200}
/>
<TextInput
	size="sm"
	labelText="Family name"
	name="familyName"
	value={own.familyName}
	maxlength={200}
/>
<Select size="sm" labelText="Reads" name="language" selected={own.language}>
	{#each lists.languages as l (l.tag)}<SelectItem value={l.tag} text={l.name} />{/each}
</Select>
{#if student}
	<Select size="sm" labelText="School" name="schoolId" selected={String(own.schoolId ?? '')}>
		{#if own.schoolId === null}<SelectItem value="" text="Choose" />{/if}
		{#each lists.schools as s (s.id)}<SelectItem value={String(s.id)} text={s.name} />{/each}
		{#if own.schoolId !== null && !lists.schools.some((s) => s.id === own.schoolId)}
			<SelectItem value={String(own.schoolId)} text="another school, as it is" />
		{/if}
	</Select>
	<TextInput
		size="sm"
		labelText="Grade"
		name="gradeLevel"
		value={own.gradeLevel}
		maxlength={60}
		placeholder="K, 7, Pre-K"
	/>
{:else}
	<input type="hidden" name="schoolId" value="" />
	<input type="hidden" name="gradeLevel" value="" />
{/if}
<TextInput
	size="sm"
	labelText="District number, if there is one"
	name="identifier"
	value={own.identifier}
	maxlength={100}
/>
<input type="hidden" name="hasInbox" value={inbox ? 'yes' : 'no'} />
<Checkbox labelText="has an inbox" bind:checked={inbox} />
