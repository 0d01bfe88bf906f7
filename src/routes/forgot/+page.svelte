<script lang="ts">
	import { Button, TextInput } from 'carbon-components-svelte';
	import Door from '$lib/ui/settings/Door.svelte';

	let { form } = $props();
</script>

<Door title="A new password" why={form?.why}>
	{#if form?.asked}
		<p role="status">
			If there is such an account, a letter with a link is on its way to its mailbox. The link is
			good once, for a day.
		</p>
		<a href="/sign-in">Back to signing in</a>
	{:else}
		<p>A link by which you choose a new one is mailed to you.</p>
		<TextInput
			name="who"
			labelText="User name or mail address"
			autocomplete="username"
			maxlength={320}
			required
		/>
		<Button type="submit">Mail me the link</Button>
		<a class="small" href="/sign-in">Back to signing in</a>
	{/if}
</Door>
