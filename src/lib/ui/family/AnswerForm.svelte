<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import { onMount } from 'svelte';
	import type { FamilyPhrases } from '$lib/core/copy/family-phrases';

	/** The box in which somebody answers on their page. What is typed is kept in this browser until it has arrived, so that a lost connection loses nothing. */
	let {
		action,
		place,
		fields,
		words: w,
		label,
		note,
		said
	}: {
		/** The form action that takes it: "?/answer". */
		action: string;
		/** What names this box among others in this browser. */
		place: string;
		/** What goes with it, by name. */
		fields: Readonly<Record<string, string>>;
		words: FamilyPhrases;
		label: string;
		/** To whom it goes. */
		note: string;
		/** What the server said of it last. */
		said: { readonly ok: string; readonly bad: string };
	} = $props();

	let typed = $state('');
	let key = $state('');
	let sending = $state(false);
	let lost = $state(false);
	let box: HTMLFormElement | undefined = $state();
	onMount(() => {
		typed = localStorage.getItem(place) ?? '';
		key = crypto.randomUUID();
	});
	function keep() {
		if (typed.trim()) localStorage.setItem(place, typed);
		else localStorage.removeItem(place);
	}
	const id = $derived(`answer-${place.replace(/\W+/g, '-')}`);
</script>

<form
	bind:this={box}
	method="post"
	{action}
	enctype="multipart/form-data"
	use:enhance={() => {
		sending = true;
		lost = false;
		return async ({ result, update }) => {
			sending = false;
			// Without an answer nothing is known of it: the page stays, and what was typed in it.
			if (result.type === 'error') {
				lost = true;
				return;
			}
			if (result.type === 'success') {
				typed = '';
				keep();
				key = crypto.randomUUID();
				await update();
				return;
			}
			await update({ reset: false });
		};
	}}
>
	{#each Object.entries(fields) as [name, value] (name)}
		<input type="hidden" {name} {value} />
	{/each}
	<input type="hidden" name="key" value={key} />
	<label for={id}>{label}</label>
	<textarea {id} name="words" rows="3" maxlength="5000" dir="auto" bind:value={typed} oninput={keep}
	></textarea>
	<label class="files">
		<span>{w.files}</span>
		<input type="file" name="files" multiple accept="image/*,application/pdf" />
	</label>
	<p class="quiet note">{note}</p>
	<Button type="submit" kind="tertiary" class="wide" disabled={sending}>{w.send}</Button>
	{#if lost}<p class="fail" role="alert">{w.noConnection}</p>{/if}
	{#if said.bad}<p class="fail" role="alert">{said.bad}</p>{/if}
	{#if said.ok && !lost}<p class="good" role="status">{said.ok}</p>{/if}
</form>

<style>
	form {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 8px;
		margin-top: 14px;
	}
	label {
		font-size: 15px;
	}
	textarea {
		resize: vertical;
	}
	.files {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 4px;
	}
	.files input {
		font: inherit;
		font-size: 15px;
		max-width: 100%;
		min-height: 32px;
	}
	.note {
		font-size: 14.5px;
	}
</style>
