<script lang="ts">
	import type { WayOut } from '$lib/core/roster/way';
	import { enhance } from '$app/forms';
	import { Button, TextInput } from 'carbon-components-svelte';
	import { keepTyped } from '$lib/ui/parts/keep-typed';

	/** An address is given another value, or is used again as it is. */
	let {
		id,
		way,
		value,
		typed = '',
		why = '',
		action = ''
	}: {
		id: number;
		way: WayOut;
		value: string;
		/** What was typed and refused. */
		typed?: string;
		why?: string;
		/** Where the form goes; the page itself if empty. */
		action?: string;
	} = $props();
</script>

<form method="post" {action} use:enhance={keepTyped}>
	<input type="hidden" name="id" value={id} />
	<TextInput
		size="sm"
		hideLabel
		labelText={way === 'email' ? `New mail address for ${value}` : `New number for ${value}`}
		placeholder={way === 'email' ? 'new mail address' : 'new number'}
		name="value"
		value={typed}
		invalid={why !== ''}
		invalidText={why}
	/>
	<Button type="submit" size="small" kind="tertiary">Use it</Button>
	<button
		class="plain"
		onclick={(e) => {
			const input = e.currentTarget.form?.querySelector<HTMLInputElement>('input[name=value]');
			if (input) input.value = '';
		}}>the old one works again</button
	>
</form>

<style>
	form {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 8px;
		min-width: 200px;
		align-items: center;
	}
	form :global(.bx--form-item) {
		flex: 0 1 190px;
	}
</style>
