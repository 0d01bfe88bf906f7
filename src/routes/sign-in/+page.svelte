<script lang="ts">
	import { browser } from '$app/environment';
	import { Button, PasswordInput, TextInput } from 'carbon-components-svelte';
	import Door from '$lib/ui/settings/Door.svelte';

	let { data, form } = $props();
	/** What was typed before the page had come alive, which would else be emptied by it. */
	const typed = (field: string): string =>
		browser ? (document.querySelector<HTMLInputElement>(`input[name=${field}]`)?.value ?? '') : '';
	// svelte-ignore state_referenced_locally
	let name = $state(typed('name') || (form?.name ?? data.name));
	let password = $state(typed('password'));
</script>

<Door title="Sign in" why={form?.why}>
	{#if data.said}<p role="status">{data.said}</p>{/if}
	{#if data.outside}
		<Button href="/sign-in/outside?to={encodeURIComponent(data.to)}" data-sveltekit-reload
			>Sign in with {data.outside.name}</Button
		>
		<p class="quiet small">
			{data.outside.passwords === 'keepers'
				? 'A password is only for who looks after settings or accounts:'
				: 'or with a password:'}
		</p>
	{/if}
	<TextInput name="name" labelText="User name" autocomplete="username" bind:value={name} required />
	<PasswordInput
		name="password"
		labelText="Password"
		autocomplete="current-password"
		bind:value={password}
		tooltipAlignment="end"
		required
	/>
	<Button type="submit" kind={data.outside ? 'tertiary' : 'primary'}>Sign in</Button>
	<a class="small" href="/forgot">I have forgotten my password</a>
	{#snippet after()}
		{#if data.samples.length > 0}
			<section>
				<h2>Sample sign-ins of the demo</h2>
				<p class="quiet small">The password of each is <span class="mono">slow-ferry</span>.</p>
				<ul>
					{#each data.samples as s (s.userName)}
						<li>
							<button class="door mono" onclick={() => (name = s.userName)}>{s.userName}</button>
							<span>{s.name}</span>
							<span class="quiet">{s.title}</span>
						</li>
					{/each}
				</ul>
			</section>
		{/if}
	{/snippet}
</Door>

<style>
	section {
		border-top: 1px dashed var(--line-strong);
		padding-top: 14px;
	}
	ul {
		margin-top: 8px;
		display: grid;
		gap: 6px;
	}
	li {
		display: grid;
		grid-template-columns: 64px 1fr 1.4fr;
		gap: 10px;
		align-items: baseline;
	}
	li button {
		justify-self: start;
	}
</style>
