<script lang="ts">
	import { Button, TextInput } from 'carbon-components-svelte';
	import Door from '$lib/ui/settings/Door.svelte';

	let { form } = $props();
</script>

<Door title="Your second factor" why={form?.why}>
	<p>Write the six figures that your app shows now, or one of the codes on your paper.</p>
	<TextInput
		name="code"
		labelText="Code"
		autocomplete="one-time-code"
		inputmode="text"
		maxlength={40}
		required
	/>
	<Button type="submit">Go on</Button>
	<a class="small" href="/sign-in">Sign in as somebody else</a>
</Door>
