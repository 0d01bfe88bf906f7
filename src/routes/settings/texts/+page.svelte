<script lang="ts">
	import { PasswordInput, Select, SelectItem, TextInput } from 'carbon-components-svelte';
	import ProviderForm from '$lib/ui/settings/ProviderForm.svelte';

	/** By which provider texts leave, tried before it is kept. */
	let { data, form } = $props();
	const provider = $derived(data.provider);
	const typed = $derived((form && 'typed' in form && form.typed) || {});
</script>

<svelte:head><title>Text provider · Idle Courier</title></svelte:head>

<h1>Text provider</h1>
<p class="quiet">
	Texts leave by it, and it says whether they arrived (SMPP 3.4, as a transceiver). It is tried with
	a text to you before it is kept. A district without one writes by mail and to inboxes.
</p>

<ProviderForm what="text" heard={data.heard} {form} trying="Trying it, half a minute at most…">
	{#if provider.byMachine}
		<p>
			Which provider it is, is set on the machine itself (<span class="mono">IDLE_COURIER_SMPP</span
			>) and changed there: {provider.host}, port {provider.port}.
		</p>
		<input type="hidden" name="host" value={provider.host} />
		<input type="hidden" name="port" value={provider.port} />
		<input type="hidden" name="encrypted" value={provider.encrypted ? 'yes' : 'no'} />
		<input type="hidden" name="systemId" value={provider.systemId} />
	{:else}
		<TextInput
			name="host"
			labelText="Name of the provider’s machine"
			placeholder="smpp.example"
			value={typed.host ?? provider.host}
			required
		/>
		<div class="two">
			<Select
				name="encrypted"
				labelText="The connection is encrypted"
				selected={typed.encrypted ?? (provider.encrypted || provider.host === '' ? 'yes' : 'no')}
			>
				<SelectItem value="yes" text="from its first moment" />
				<SelectItem value="no" text="never" />
			</Select>
			<TextInput
				name="port"
				labelText="Port"
				inputmode="numeric"
				value={typed.port ?? String(provider.port)}
				required
			/>
		</div>
		<div class="two">
			<TextInput
				name="systemId"
				labelText="System id"
				autocomplete="off"
				value={typed.systemId ?? provider.systemId}
				required
			/>
			<PasswordInput
				name="password"
				labelText="Password"
				helperText={provider.hasPassword ? 'One is kept; leave this empty to go on with it.' : ''}
				autocomplete="new-password"
				tooltipAlignment="end"
			/>
		</div>
	{/if}
	<TextInput
		name="textFrom"
		labelText="Number that texts come from"
		helperText="As the provider gave it to you. From a name no family can answer."
		value={typed.textFrom ?? provider.textFrom}
		required
	/>
	<TextInput
		name="to"
		type="tel"
		labelText="Your phone, for the text that is tried"
		autocomplete="tel"
		value={typed.to ?? ''}
		required
	/>
</ProviderForm>
