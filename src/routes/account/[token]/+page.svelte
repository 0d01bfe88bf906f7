<script lang="ts">
	import { Button, PasswordInput, TextInput } from 'carbon-components-svelte';
	import { InlineNotification } from 'carbon-components-svelte';
	import Brand from '$lib/ui/parts/Brand.svelte';

	/** Where somebody who was invited, or has forgotten their password, sets one. */
	let { data, form } = $props();
	// svelte-ignore state_referenced_locally
	let userName = $state(form?.userName || (data.kind === 'none' ? '' : data.userName));
	const title = $derived(
		data.kind === 'invite'
			? `Welcome, ${data.name}`
			: data.kind === 'reset'
				? 'A new password'
				: 'This link opens nothing'
	);
</script>

<svelte:head><title>{title} · Idle Courier</title></svelte:head>

<main class="page">
	<Brand />
	<h1>{title}</h1>
	{#if data.kind === 'none'}
		<p>
			{data.ended
				? 'It has been used, or its day is over.'
				: 'It is not whole, or not one of ours. Look for it in your mail once more.'}
		</p>
		<p>
			If you have an account, <a href="/forgot">ask for a new password</a>. If you were invited, ask
			whoever invited you to send it again.
		</p>
	{:else}
		<form method="post" action="?/{data.kind}">
			{#if form?.why}
				<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
			{/if}
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
		</form>
	{/if}
</main>

<style>
	.page {
		max-width: 440px;
		margin: 8vh auto;
		padding: 0 20px;
		display: grid;
		gap: 20px;
	}
	form {
		display: grid;
		gap: 16px;
		justify-items: start;
		background: var(--sheet);
		border: 1px solid var(--line);
		padding: 20px;
	}
	form > :global(.bx--form-item) {
		width: 100%;
	}
</style>
