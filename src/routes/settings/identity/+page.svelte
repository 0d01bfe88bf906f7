<script lang="ts">
	import {
		Button,
		Checkbox,
		PasswordInput,
		Select,
		SelectItem,
		TextInput
	} from 'carbon-components-svelte';
	import ProviderForm from '$lib/ui/settings/ProviderForm.svelte';
	import { count } from '$lib/core/copy/count';

	/** By which of the district's own sign-ins colleagues come in, tried before it is kept. */
	let { data, form } = $props();
	const provider = $derived(data.provider);
	const typed = $derived((form && 'typed' in form && form.typed) || {});
</script>

<svelte:head><title>Identity provider · Idle Courier</title></svelte:head>

<h1>Identity provider</h1>
<p class="quiet">
	Colleagues come in by the sign-in that the district has already (OpenID Connect). It finds out who
	they are; what they may do stays here. Families never need it.
</p>

{#if provider.state === 'to-prove'}
	<section class="state">
		<h2>Not on the sign-in page yet</h2>
		<p>Go there once: it stands on the sign-in page when you come back as yourself.</p>
		<Button size="small" href="/settings/identity/prove" data-sveltekit-reload>
			See whom it says you are
		</Button>
	</section>
{:else if provider.state === 'open'}
	<section class="state">
		<p>
			<b>{provider.name} stands on the sign-in page.</b>
			{provider.known === 1
				? 'One person has come in by it.'
				: `${count(provider.known)} people have come in by it.`}
		</p>
		<form method="post" action="?/close">
			<Button size="small" kind="tertiary" type="submit" name="how" value="off">
				Take it off the sign-in page
			</Button>
			<a class="small" href="/settings/identity/prove" data-sveltekit-reload
				>See whom it says you are</a
			>
		</form>
	</section>
{/if}

<p>
	It asks for our address; enter there, to the letter:
	<span class="mono">{data.back}</span>
</p>

<ProviderForm heard="none" what="sign-in" {form} trying="Trying it…">
	<TextInput
		name="name"
		labelText="How colleagues call it"
		helperText="Stands on the button: “Sign in with …”."
		value={typed.name ?? provider.name}
		required
	/>
	<TextInput
		name="issuer"
		labelText="Its issuer"
		placeholder="https://sign-in.example/district"
		helperText="The address under which it says what it can do."
		value={typed.issuer ?? provider.issuer}
		required
	/>
	<div class="two">
		<TextInput
			name="clientId"
			labelText="Client id"
			autocomplete="off"
			value={typed.clientId ?? provider.clientId}
			required
		/>
		<PasswordInput
			name="password"
			labelText="Client secret (none where it gave none)"
			helperText={provider.hasSecret ? 'One is kept; leave this empty to go on with it.' : ''}
			autocomplete="new-password"
			tooltipAlignment="end"
		/>
	</div>
	<div class="two">
		<TextInput
			name="claim"
			labelText="People are found by its claim"
			helperText="One that the district gives out, and nobody can write for themselves."
			value={typed.claim ?? provider.claim}
			required
		/>
		<Select name="fits" labelText="which is here" selected={typed.fits ?? provider.fits}>
			<SelectItem value="mail" text="their mail address" />
			<SelectItem value="user-name" text="their user name" />
			<SelectItem value="number" text="their number in the roster" />
		</Select>
	</div>
	<Checkbox
		name="unconfirmed"
		value="yes"
		checked={form && 'typed' in form ? typed.unconfirmed === 'yes' : provider.unconfirmed}
		labelText="Take an address although it does not say that it has confirmed it"
	/>
	<Select
		name="teachers"
		labelText="Teachers of the roster"
		selected={typed.teachers ?? provider.teachers}
	>
		<SelectItem value="roster" text="come in without being invited" />
		<SelectItem value="invited" text="have to be invited first" />
	</Select>
	<Select
		name="passwords"
		labelText="Passwords are for"
		selected={typed.passwords ?? provider.passwords}
	>
		<SelectItem value="everybody" text="everybody who has one" />
		<SelectItem
			value="keepers"
			text="only who looks after settings or accounts, for the day it fails"
		/>
	</Select>
</ProviderForm>

{#if provider.state !== 'none'}
	<form method="post" action="?/close">
		<Button size="small" kind="danger-ghost" type="submit" name="how" value="forget">
			Delete this provider
		</Button>
	</form>
{/if}

<style>
	.state {
		border: 1px dashed var(--line-strong);
		padding: 12px 16px;
		max-width: 760px;
		margin: 14px 0;
		display: grid;
		gap: 8px;
		justify-items: start;
	}
	.state form {
		display: flex;
		flex-wrap: wrap;
		gap: 16px;
		align-items: center;
	}
	.mono {
		overflow-wrap: anywhere;
	}
</style>
