<script lang="ts">
	import { Button, Select, SelectItem } from 'carbon-components-svelte';

	/** Asks for sheets of paper with the way to the inbox, in each reader's language. */
	let { action, words }: { action: string; words: string } = $props();
</script>

<form method="post" {action} target="_blank">
	<Select size="sm" labelText="Paper" name="paper">
		<SelectItem value="letter" text="Letter" />
		<SelectItem value="a4" text="A4" />
	</Select>
	<Button type="submit" size="small" kind="tertiary">{words}</Button>
</form>

<style>
	form {
		display: flex;
		flex-wrap: wrap;
		gap: 8px;
		align-items: flex-end;
	}
	form > :global(.bx--form-item) {
		flex: 0 0 110px;
	}
</style>
