<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, Select, SelectItem, TextInput } from 'carbon-components-svelte';
	import DayField from '$lib/ui/parts/DayField.svelte';
	import type { PersonAddress } from '$lib/server/desk/people/types';

	/** Changes an address and what was said of it, or adds one. */
	let {
		personId,
		address = null,
		why = ''
	}: { personId: number; address?: PersonAddress | null; why?: string } = $props();
	// svelte-ignore state_referenced_locally
	let way = $state(address?.way ?? 'email');
	// svelte-ignore state_referenced_locally
	let consent = $state<string>(address?.consent ?? 'unknown');
</script>

<details class="correct" open={why !== ''}>
	<summary class="small">{address ? 'Change' : 'Add an address'}</summary>
	<form
		method="post"
		action={address ? '?/changeAddress' : '?/addAddress'}
		use:enhance={() =>
			({ update, result }) =>
				update({ reset: result.type === 'success' && address === null })}
	>
		{#if address}
			<input type="hidden" name="id" value={address.id} />
		{:else}
			<input type="hidden" name="personId" value={personId} />
			<Select size="sm" labelText="Way" name="way" bind:selected={way}>
				<SelectItem value="email" text="email" />
				<SelectItem value="text" text="text" />
			</Select>
		{/if}
		<TextInput
			size="sm"
			labelText={way === 'email' ? 'Email address' : 'Number'}
			name="value"
			value={address?.value ?? ''}
			maxlength={320}
		/>
		<Select
			size="sm"
			labelText={way === 'email' ? 'Email to this address' : 'Texts to this number'}
			name="consent"
			bind:selected={consent}
		>
			{#if way === 'text'}
				<SelectItem value="unknown" text="not opted in" />
				<SelectItem value="in" text="opted in" />
				<SelectItem value="out" text="wants no texts" />
			{:else}
				<SelectItem value="unknown" text="may be sent" />
				{#if consent === 'in'}<SelectItem value="in" text="asked for" />{/if}
				<SelectItem value="out" text="wants no email" />
			{/if}
		</Select>
		{#if consent !== 'unknown'}
			<TextInput
				size="sm"
				labelText="Who said so, or on which paper"
				name="said"
				value={address?.consentSaid ?? ''}
				maxlength={200}
				placeholder="enrolment form"
			/>
			<DayField label="On which day; empty for today" name="on" />
		{:else}
			<input type="hidden" name="said" value="" />
			<input type="hidden" name="on" value="" />
		{/if}
		{#if why}<p class="fail small" role="alert">{why}</p>{/if}
		<Button type="submit" size="small" kind="tertiary">{address ? 'Change it' : 'Add it'}</Button>
	</form>
	{#if address}
		<form method="post" action="?/takeAddress" use:enhance>
			<input type="hidden" name="id" value={address.id} />
			<Button type="submit" size="small" kind="danger-ghost">Take it off the file</Button>
		</form>
	{/if}
</details>
