<script lang="ts">
	import { PasswordInput, Select, SelectItem, TextInput } from 'carbon-components-svelte';
	import ProviderForm from '$lib/ui/settings/ProviderForm.svelte';

	/** By which server letters leave, tried before it is kept. */
	let { data, form } = $props();
	const server = $derived(data.server);
	const typed = $derived((form && 'typed' in form && form.typed) || {});
	// svelte-ignore state_referenced_locally
	let encryption = $state(typed.encryption ?? data.server.encryption);
	// svelte-ignore state_referenced_locally
	let port = $state(typed.port ?? String(data.server.port));
	// svelte-ignore state_referenced_locally
	let mailFrom = $state(typed.mailFrom ?? data.server.mailFrom);
	// svelte-ignore state_referenced_locally
	let returnDomain = $state(typed.returnDomain ?? data.server.returnDomain);
	const usualPorts: Record<string, string> = {
		'at-once': '465',
		'after-greeting': '587',
		'if-offered': '25'
	};
	/** The port that is usual follows the choice, while it is a usual one. */
	function chosen() {
		if (Object.values(usualPorts).includes(port)) port = usualPorts[encryption]!;
	}
	function suggested() {
		const domain = mailFrom.split('@')[1]?.trim();
		if (domain && returnDomain === '') returnDomain = `return.${domain}`;
	}
</script>

<svelte:head><title>Mail server · Idle Courier</title></svelte:head>

<h1>Mail server</h1>
<p class="quiet">
	Letters to families and to colleagues leave by it. It is tried with a letter to you{data.own
		? `, at ${data.own}`
		: ''}, before it is kept; what is scheduled leaves by it from then on.
</p>

<ProviderForm what="letter" heard={data.heard} {form} trying="Trying it…">
	{#if server.byMachine.server}
		<p>
			Which server it is, is set on the machine itself (<span class="mono">IDLE_COURIER_SMTP</span>)
			and changed there: {server.host}, port {server.port}.
		</p>
		<input type="hidden" name="host" value={server.host} />
		<input type="hidden" name="port" value={server.port} />
		<input type="hidden" name="encryption" value={server.encryption} />
	{:else}
		<TextInput
			name="host"
			labelText="Name of the server"
			placeholder="mail.example"
			value={typed.host ?? server.host}
			required
		/>
		<div class="two">
			<Select
				name="encryption"
				labelText="The connection is encrypted"
				bind:selected={encryption}
				on:change={chosen}
			>
				<SelectItem value="after-greeting" text="after the greeting" />
				<SelectItem value="at-once" text="from its first moment" />
				<SelectItem value="if-offered" text="only if it offers it" />
			</Select>
			<TextInput name="port" labelText="Port" inputmode="numeric" bind:value={port} required />
		</div>
		<div class="two">
			<TextInput
				name="user"
				labelText="User (none where it asks for none)"
				autocomplete="off"
				value={typed.user ?? server.user}
			/>
			<PasswordInput
				name="password"
				labelText="Password"
				helperText={server.hasPassword ? 'One is kept; leave this empty to go on with it.' : ''}
				autocomplete="new-password"
				tooltipAlignment="end"
			/>
		</div>
	{/if}
	<TextInput
		name="mailFrom"
		type="email"
		labelText="Sender that families see"
		placeholder="letters@yourdistrict.example"
		helperText="The name of whoever writes stands before it."
		bind:value={mailFrom}
		on:blur={suggested}
		required
	/>
	{#if server.byMachine.returnDomain}
		<input type="hidden" name="returnDomain" value={server.returnDomain} />
	{:else}
		<TextInput
			name="returnDomain"
			labelText="Domain for what comes back"
			placeholder="return.yourdistrict.example"
			helperText="Answers and notices of letters that could not be delivered come to it. Its mail (the MX record in the DNS) must be led to port {server.returnPort} of this machine."
			bind:value={returnDomain}
			required
		/>
	{/if}
</ProviderForm>
