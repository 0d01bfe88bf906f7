<script lang="ts">
	import { Button, PasswordInput, TextInput } from 'carbon-components-svelte';
	import Door from '$lib/ui/settings/Door.svelte';

	/** Where somebody who was invited, or has forgotten their password, sets one. */
	let { data, form } = $props();
	// svelte-ignore state_referenced_locally
	let userName = $state(form?.userName || (data.kind === 'none' ? '' : data.userName));
</script>

{#if data.kind === 'none'}
	<Door title="This link opens nothing">
		{#snippet after()}
			<p>
				{data.ended
					? 'It has been used, or its day is over.'
					: 'It is not whole, or not one of ours. Look for it in your mail once more.'}
			</p>
			<p>
				If you have an account, <a href="/forgot">ask for a new password</a>. If you were invited,
				ask whoever invited you to send it again.
			</p>
		{/snippet}
	</Door>
{:else}
	<Door
		title={data.kind === 'invite' ? `Welcome, ${data.name}` : 'A new password'}
		action="?/{data.kind}"
		why={form?.why}
	>
		{#if data.kind === 'invite'}
			<p>You were invited to write to the families of {data.district}.</p>
			<TextInput
				name="userName"
				labelText="User name"
				autocomplete="username"
				bind:value={userName}
				maxlength={60}
				required
			/>
		{/if}
		<PasswordInput
			name="password"
			labelText="New password"
			helperText="{data.least} characters or more. A few words in a row are easy to keep in mind; nothing else is asked of it."
			autocomplete="new-password"
			tooltipAlignment="end"
			required
		/>
		<PasswordInput
			name="again"
			labelText="The same once more"
			autocomplete="new-password"
			tooltipAlignment="end"
			required
		/>
		<Button type="submit">Set the password</Button>
	</Door>
{/if}
