<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, Checkbox, Select, SelectItem, TextInput } from 'carbon-components-svelte';
	import type { Tie } from '$lib/server/desk/people/types';

	/** Corrects what an adult is to a student; who did it is written down. */
	let { tie, why = '' }: { tie: Tie; why?: string } = $props();
	// svelte-ignore state_referenced_locally
	let guardian = $state(tie.guardian);
	// svelte-ignore state_referenced_locally
	let correspondence = $state(tie.correspondence);
	// svelte-ignore state_referenced_locally
	let emergency = $state(tie.emergency);
	const yes = (on: boolean) => (on ? 'yes' : 'no');
</script>

<details open={why !== ''}>
	<summary class="small">Correct</summary>
	<form method="post" action="?/tie" use:enhance>
		<input type="hidden" name="studentId" value={tie.studentId} />
		<input type="hidden" name="personId" value={tie.adultId} />
		<input type="hidden" name="guardian" value={yes(guardian)} />
		<input type="hidden" name="correspondence" value={yes(correspondence)} />
		<input type="hidden" name="emergency" value={yes(emergency)} />
		<TextInput size="sm" labelText="Relation" name="relation" value={tie.word} maxlength={80} />
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
		{#if why}<p class="fail small" role="alert">{why}</p>{/if}
		<Button type="submit" size="small" kind="tertiary">Correct it</Button>
	</form>
</details>

<style>
	form {
		display: grid;
		gap: 8px;
		padding: 8px 0;
	}
	summary {
		color: var(--action);
		cursor: pointer;
	}
</style>
