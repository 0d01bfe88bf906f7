<script lang="ts">
	import { onMount } from 'svelte';
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import BoardWording from '$lib/ui/write/wording/BoardWording.svelte';
	import { loneSheet } from '$lib/ui/write/sheet/lone-sheet';
	import type { Sheet } from '$lib/ui/write/sheet/sheet.svelte';

	/** What boards say of an announcement, changed there alone; what is typed is kept in this browser until it is put up. */
	let { data, form } = $props();
	// svelte-ignore state_referenced_locally
	const sheet: Sheet = loneSheet(data.userId, data.wording);
	const boards = $derived(data.on.boards);
	// svelte-ignore state_referenced_locally
	const place = `board-${data.userId}-${data.id}-${data.base}`;
	let restored = $state(false);
	let ready = $state(false);
	const unchanged = $derived(JSON.stringify(sheet.wording) === JSON.stringify(data.wording));
	onMount(() => {
		const kept = localStorage.getItem(place);
		if (kept !== null) {
			sheet.wording = JSON.parse(kept) as typeof data.wording;
			restored = true;
		}
		ready = true;
	});
	$effect(() => {
		const said = JSON.stringify(sheet.wording);
		if (!ready) return;
		sheet.note(sheet.data);
		if (unchanged) localStorage.removeItem(place);
		else localStorage.setItem(place, said);
	});
	function giveUp() {
		sheet.wording = data.wording;
		restored = false;
	}
</script>

<svelte:head><title>What boards say · Reach · Idle Courier</title></svelte:head>

<div class="page">
	<header>
		<p class="quiet">
			<a href="/reach">Reach</a> · <a href="/reach/{data.id}">this announcement</a>
		</p>
		<h1>Change what {boards.length === 1 ? 'the board says' : `${boards.length} boards say`}</h1>
		<p class="quiet">
			On {boards.map((b) => b.name).join(', ')}. Copies that were sent stay as they are; whoever
			reads it there sees when it was changed, and what it said before.
		</p>
	</header>
	{#if restored}
		<p class="heed" role="status">
			What you typed here before is back.
			<button class="plain" onclick={giveUp}>Begin from what stands there</button>
		</p>
	{/if}
	{#if form?.why}<p class="fail" role="alert">{form.why}</p>{/if}
	<BoardWording {sheet} fileLimit={data.fileLimit} />
	<form
		method="post"
		use:enhance={() =>
			async ({ result, update }) => {
				if (result.type === 'redirect') localStorage.removeItem(place);
				await update({ reset: false });
			}}
	>
		<input type="hidden" name="base" value={data.base} />
		<input type="hidden" name="wording" value={JSON.stringify(sheet.wording)} />
		<Button type="submit" disabled={unchanged}
			>{unchanged
				? 'Nothing is changed'
				: `Put it on ${boards.length === 1 ? 'the board' : `${boards.length} boards`} now`}</Button
		>
	</form>
</div>

<style>
	.page {
		max-width: 860px;
	}
</style>
