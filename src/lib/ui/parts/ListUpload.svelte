<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, FileUploaderButton } from 'carbon-components-svelte';

	/** A list of students, or another file, that is looked at by the page's own action before anything is done. */
	let {
		words,
		action = '?/lookAtList',
		what = 'list',
		accept = ['.csv', '.txt', '.tsv']
	}: { words: string; action?: string; what?: string; accept?: string[] } = $props();
</script>

<form method="post" {action} enctype="multipart/form-data" use:enhance>
	<p class="small">{words}</p>
	<FileUploaderButton name="list" size="small" kind="ghost" labelText="Choose a {what}" {accept} />
	<Button type="submit" size="small" kind="tertiary">Look at the {what}</Button>
</form>

<style>
	form {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 8px;
	}
	form :global(.bx--btn) {
		justify-self: start;
	}
</style>
