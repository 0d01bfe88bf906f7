<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, TextInput } from 'carbon-components-svelte';

	/** Asks for the figures of what was sent to try a provider: that it left is not that it arrived. */
	let {
		what,
		heard,
		why
	}: { what: string; heard: 'open' | 'here' | 'none'; why?: string | undefined } = $props();
</script>

{#if heard === 'open'}
	<section aria-labelledby="arrived">
		<h2 id="arrived">Has it arrived?</h2>
		<p>The {what} that was tried has six figures in it. Write them here when it is there.</p>
		<form method="post" action="?/heard" class="row" use:enhance>
			<TextInput
				size="sm"
				name="code"
				labelText="The six figures"
				inputmode="numeric"
				autocomplete="off"
				invalid={!!why}
				invalidText={why ?? ''}
			/>
			<Button type="submit" size="small" kind="tertiary">It has arrived</Button>
		</form>
	</section>
{:else if heard === 'here'}
	<p class="good">The {what} that was tried has arrived.</p>
{/if}

<style>
	section {
		border: 1px dashed var(--line-strong);
		padding: 12px 16px;
		max-width: 760px;
		margin-bottom: 18px;
	}
	.row {
		display: flex;
		flex-wrap: wrap;
		gap: 10px;
		align-items: flex-end;
		margin-top: 8px;
	}
</style>
