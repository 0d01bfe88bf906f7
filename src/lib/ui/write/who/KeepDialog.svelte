<script lang="ts">
	import { Modal, RadioButton, RadioButtonGroup, TextInput } from 'carbon-components-svelte';
	import { invalidateAll } from '$app/navigation';
	import { postJson } from '../../parts/post-json';
	import KeptMark from './KeptMark.svelte';
	import type { Sheet } from '../sheet/sheet.svelte';

	/** Keeps the audience under a name: as a rule, or as the fixed list of the people it comes to now. */
	let { sheet, open = $bindable() }: { sheet: Sheet; open: boolean } = $props();
	let name = $state('');
	let form = $state<'rule' | 'list'>('rule');
	let why = $state('');
	let done = $state('');
	let busy = $state(false);

	$effect(() => {
		if (!open) return;
		name = '';
		form = 'rule';
		why = '';
		done = '';
	});
	async function keep() {
		busy = true;
		const answer = await postJson('/write/keep', { name, form, audience: sheet.audience });
		why = answer.why;
		if (answer.ok) {
			done = `“${name.trim()}” is kept.`;
			await invalidateAll();
			open = false;
		}
		busy = false;
	}
</script>

<Modal
	bind:open
	size="sm"
	modalHeading="Keep this audience"
	primaryButtonText={form === 'rule' ? 'Keep the rule' : 'Keep the list'}
	secondaryButtonText="Do not keep it"
	primaryButtonDisabled={busy || name.trim() === ''}
	selectorPrimaryFocus="#kept-name"
	on:click:button--secondary={() => (open = false)}
	on:submit={keep}
>
	<TextInput
		id="kept-name"
		labelText="Name"
		bind:value={name}
		invalid={why !== ''}
		invalidText={why}
		autocomplete="off"
		dir="auto"
	/>
	<div class="forms">
		<RadioButtonGroup legendText="Keep it as" bind:selected={form} orientation="vertical">
			<RadioButton value="rule" labelText="a rule, worked out again at each sending" />
			<RadioButton value="list" labelText="a fixed list of the people it comes to now" />
		</RadioButtonGroup>
		<p class="small quiet">
			<KeptMark {form} />
			{form === 'rule'
				? 'Whoever joins these sections later is in; whoever leaves them is not.'
				: 'Nobody comes in later. Who loses custody is still not written to.'}
		</p>
	</div>
	<span class="spoken" role="status">{done}</span>
</Modal>

<style>
	.forms {
		display: grid;
		gap: 10px;
		margin-top: 16px;
	}
</style>
