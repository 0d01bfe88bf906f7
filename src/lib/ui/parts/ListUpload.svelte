<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, FileUploaderButton } from 'carbon-components-svelte';

	/** A list of students that is looked at by the page's own action before anything is done. */
	let { words }: { words: string } = $props();
</script>

<form method="post" action="?/lookAtList" enctype="multipart/form-data" use:enhance>
	<p class="small">{words}</p>
	<FileUploaderButton
		name="list"
		size="small"
		kind="ghost"
		labelText="Choose a list"
		accept={['.csv', '.txt', '.tsv']}
	/>
	<Button type="submit" size="small" kind="tertiary">Look at the list</Button>
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
