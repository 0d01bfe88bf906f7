<script lang="ts">
	import { Button } from 'carbon-components-svelte';
	import Door from './Door.svelte';

	/** A sign-in by the identity provider that came to nothing: why, and what else there is. */
	let { name, why }: { name: string; why: string } = $props();
</script>

<Door title="{name} did not bring you in" {why} form={false}>
	<Button href="/sign-in/outside" data-sveltekit-reload>Begin once more</Button>
	<a href="/sign-in">Back to the sign-in page</a>
</Door>
