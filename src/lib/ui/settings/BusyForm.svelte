<script lang="ts">
	import type { Snippet } from 'svelte';
	import { enhance } from '$app/forms';

	/** A form of the settings, one field under another: it keeps what was typed, and says that it is at work. */
	let {
		action,
		fields
	}: {
		/** Where it goes, unless a button says otherwise. */
		action?: string;
		fields: Snippet<[busy: boolean]>;
	} = $props();
	let busy = $state(false);
</script>

<form
	method="post"
	{action}
	use:enhance={() => {
		busy = true;
		return async ({ update }) => {
			await update({ reset: false });
			busy = false;
		};
	}}
>
	{@render fields(busy)}
</form>

<style>
	form {
		display: grid;
		gap: 14px;
		justify-items: start;
		width: min(100%, 620px);
		margin-top: 14px;
	}
	form > :global(.bx--form-item) {
		width: 100%;
	}
	/* Fields that belong together, beside each other. */
	form > :global(.two) {
		display: grid;
		grid-template-columns: repeat(2, minmax(0, 1fr));
		gap: 14px;
		width: 100%;
	}
</style>
