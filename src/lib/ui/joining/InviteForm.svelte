<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, Select, SelectItem, TextArea } from 'carbon-components-svelte';
	import type { Invited } from '$lib/server/desk/joining/types';

	interface Props {
		languages: readonly { readonly tag: string; readonly name: string }[];
		language: string;
		invited: Invited | null;
		why: string;
	}
	/** Invites people by mail, and says who was not invited and why. */
	let { languages, language, invited, why }: Props = $props();
	/** What was typed stays while something of it was not taken. */
	const keeps = $derived(why !== '' || (invited?.not.length ?? 0) > 0);
</script>

<form
	method="post"
	action="?/invite"
	use:enhance={() =>
		({ update }) =>
			update({ reset: !keeps })}
>
	<TextArea
		name="addresses"
		labelText="Mail addresses"
		placeholder="one on each line, or with commas between"
		rows={4}
	/>
	<Select size="sm" name="language" labelText="Language, where none is on file" selected={language}>
		{#each languages as one (one.tag)}<SelectItem value={one.tag} text={one.name} />{/each}
	</Select>
	{#if why}<p class="fail small" role="alert">{why}</p>{/if}
	{#if invited && invited.not.length > 0}
		<ul class="small">
			{#each invited.not.slice(0, 100) as one (one.line)}
				<li class="heed"><span dir="auto">{one.line}</span>: {one.why}</li>
			{/each}
			{#if invited.not.length > 100}<li>and {invited.not.length - 100} more</li>{/if}
		</ul>
	{/if}
	<Button type="submit" size="small" kind="tertiary">Invite them</Button>
</form>

<style>
	li {
		overflow-wrap: anywhere;
	}
</style>
