<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, TextInput } from 'carbon-components-svelte';
	import { count } from '$lib/core/copy/count';
	import { allCounted, countOf, tooMuch, whats } from '$lib/core/roster/counts';
	import type { FileView } from '$lib/server/desk/roster/types';

	/** What can be done with a roster file as it stands: taken in with its numbers, taken back, given up. */
	let { view, working }: { view: FileView; working: boolean } = $props();
	let typed = $state('');
	const looked = $derived(view.looked);
	const all = $derived(looked ? allCounted(looked.counts) : 0);
	/** So much at once has to be typed. */
	const must = $derived(looked ? tooMuch(looked.shares, looked.mostShare).length > 0 : false);
	const wrong = $derived(looked ? looked.wrong + looked.partly : 0);
</script>

{#if working}
	<p class="quiet">Nothing has been changed yet.</p>
	<Button href="/people/rosters" kind="tertiary">To the rosters</Button>
{:else if view.state === 'looked' && looked}
	<p class="quiet">
		Nothing has been changed yet. Afterwards it can be taken back until the next roster.
	</p>
	<form method="post" action="?/giveUp" use:enhance>
		<Button type="submit" kind="ghost" size="small">Give it up</Button>
	</form>
	{#if wrong > 0}
		<Button kind="tertiary" href="/people/rosters/{view.id}/to-mend" download>
			Write out the {count(wrong)}
			{wrong === 1 ? 'line' : 'lines'} as CSV
		</Button>
	{/if}
	<form
		method="post"
		action="?/take"
		class="take"
		use:enhance={() =>
			async ({ update }) => {
				typed = '';
				await update({ reset: false });
			}}
	>
		{#if must}
			<TextInput
				name="typed"
				size="sm"
				labelText="Type {count(all)}"
				inputmode="numeric"
				autocomplete="off"
				bind:value={typed}
			/>
		{/if}
		<Button type="submit" disabled={must && typed.replace(/[\s,]/g, '') !== String(all)}>
			Take in {whats.map((what) => `${count(countOf(looked.counts, what))} ${what}`).join(', ')}
		</Button>
	</form>
{:else if view.state === 'columns'}
	<p class="quiet">Nothing has been changed yet, and nothing is by looking.</p>
	<form method="post" action="?/giveUp" use:enhance>
		<Button type="submit" kind="ghost" size="small">Give it up</Button>
	</form>
	<Button type="submit" form="columns">Look at it with these columns</Button>
{:else if view.state === 'taken' && view.canGoBack}
	<p class="quiet">Until the next roster of this source comes in, this one can be taken back.</p>
	<form method="post" action="?/back" use:enhance>
		<Button type="submit" kind="tertiary">Take it back</Button>
	</form>
	<Button href="/people">To People</Button>
{:else}
	<p class="quiet">There is nothing to do here any more.</p>
	<Button href="/people/rosters" kind="tertiary">To the rosters</Button>
{/if}

<style>
	p {
		flex: 1 1 260px;
	}
	.take {
		display: flex;
		align-items: flex-end;
		gap: 10px;
	}
</style>
