<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, Checkbox } from 'carbon-components-svelte';
	import type { SeenCards } from '$lib/server/desk/joining/types';

	/** Cards that were looked at: the groups they would bring people into, to be chosen, and what is wrong with which. */
	let { seen }: { seen: SeenCards } = $props();
	// svelte-ignore state_referenced_locally
	let chosen = $state(seen.groups.map((g) => g.name));
	const most = 100;
</script>

<section class="seen" aria-label="The cards">
	<h2>
		The cards hold {seen.people}
		{seen.people === 1 ? 'person' : 'people'}{seen.known > 0
			? `, ${seen.known} of them on file already`
			: ''}
	</h2>
	{#if seen.wrong.length > 0}
		<ul class="small">
			{#each seen.wrong.slice(0, most) as one (one.line)}
				<li class="heed" dir="auto">Line {one.line}: {one.text}</li>
			{/each}
			{#if seen.wrong.length > most}<li>and {seen.wrong.length - most} more cards.</li>{/if}
		</ul>
	{/if}
	{#if seen.groups.length > 0}
		<form method="post" action="?/takeCards" use:enhance>
			<input type="hidden" name="cards" value={seen.cards} />
			<fieldset>
				<legend class="small">What they belong to</legend>
				{#each seen.groups as group (group.name)}
					<Checkbox
						name="group"
						value={group.name}
						labelText="{group.name}: {group.people}{group.there ? '' : ', a new group'}"
						checked={chosen.includes(group.name)}
						on:check={(e) => {
							chosen = e.detail
								? [...chosen, group.name]
								: chosen.filter((name) => name !== group.name);
						}}
					/>
				{/each}
			</fieldset>
			<p class="small quiet">
				They are written to by mail, and by text once they have opted in. Nobody is told.
			</p>
			<Button type="submit" size="small" disabled={chosen.length === 0}>
				Put them into {chosen.length}
				{chosen.length === 1 ? 'group' : 'groups'}
			</Button>
		</form>
	{/if}
</section>

<style>
	.seen {
		background: var(--sheet);
		border: 1px solid var(--line-strong);
		padding: 12px 16px;
		display: grid;
		gap: 10px;
	}
	form {
		display: grid;
		gap: 10px;
	}
	form :global(.bx--btn) {
		justify-self: start;
	}
</style>
