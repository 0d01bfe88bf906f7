<script lang="ts">
	import { Checkbox, Select, SelectItem, TextInput } from 'carbon-components-svelte';
	import type { Tie } from '$lib/server/desk/people/types';

	/** The fields of a form that say what an adult is to a student. */
	let {
		tie
	}: { tie: Pick<Tie, 'word' | 'guardian' | 'custody' | 'correspondence' | 'emergency'> } =
		$props();
	// svelte-ignore state_referenced_locally
	let guardian = $state(tie.guardian);
	// svelte-ignore state_referenced_locally
	let correspondence = $state(tie.correspondence);
	// svelte-ignore state_referenced_locally
	let emergency = $state(tie.emergency);
	const yes = (on: boolean) => (on ? 'yes' : 'no');
</script>

<input type="hidden" name="guardian" value={yes(guardian)} />
<input type="hidden" name="correspondence" value={yes(correspondence)} />
<input type="hidden" name="emergency" value={yes(emergency)} />
<TextInput
	size="sm"
	labelText="Relation"
	name="relation"
	value={tie.word}
	maxlength={80}
	placeholder="mother, uncle, neighbour"
/>
<Checkbox labelText="guardian" bind:checked={guardian} />
<Select
	size="sm"
	labelText="Custody"
	name="custody"
	selected={tie.custody === null ? 'unsaid' : yes(tie.custody)}
>
	<SelectItem value="yes" text="has custody" />
	<SelectItem value="no" text="has none" />
	<SelectItem value="unsaid" text="nobody has said" />
</Select>
<Checkbox labelText="gets correspondence" bind:checked={correspondence} />
<Checkbox labelText="emergency contact" bind:checked={emergency} />
