<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button, InlineNotification, TextInput } from 'carbon-components-svelte';
	import { keepTyped } from '$lib/ui/parts/keep-typed';

	/** Erases somebody, after their name was written once more. */
	let { data, form } = $props();
	const who = $derived(data.who);
	let name = $state('');
	const number = (n: number, one: string, more: string) =>
		`${n.toLocaleString('en')} ${n === 1 ? one : more}`;
</script>

<svelte:head><title>Erase {who.name} · People · Idle Courier</title></svelte:head>

<div class="page">
	{#if form?.left}
		<p class="quiet"><a href="/people">People</a></p>
		<h1>Erased</h1>
		<p role="status">
			Nothing here says any more who they were. What was counted is still counted.
			{form.left.length === 0 ? 'Their name and addresses stand nowhere in the database.' : ''}
		</p>
		{#if form.left.length > 0}
			<p>Their name or an address of theirs still stands in what others wrote:</p>
			<ul>
				{#each form.left as l (l.table)}
					<li>{number(l.rows, 'row', 'rows')} of <span class="mono">{l.table}</span>: {l.about}</li>
				{/each}
			</ul>
		{/if}
		<p>Backups that were made before hold them: throw those away when their time has come.</p>
	{:else if who.erased}
		<p class="quiet"><a href="/people">People</a></p>
		<h1>They have been erased</h1>
	{:else}
		<p class="quiet"><a href="/people">People</a> · <a href="/people/{who.id}">{who.name}</a></p>
		<h1>Erase {who.name}?</h1>
		<p>
			Their names, addresses, ties, answers ({who.answers.toLocaleString('en')}), choices and log go
			from every table, file and index, for good. {number(who.copies, 'copy', 'copies')} that went to
			them stay counted, and say no more to whom. It cannot be taken back.
		</p>
		<p>
			Take everything about them out first, on <a href="/people/{who.id}">their page</a>, if they
			have asked for it.
		</p>
		{#if who.here}
			<InlineNotification
				kind="warning"
				lowContrast
				hideCloseButton
				title="They are on the roster, and the next file would bring them back. End them on their page first; where a student system names them, there as well."
			/>
		{:else}
			<form method="post" use:enhance={keepTyped}>
				{#if form?.why}
					<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
				{/if}
				<TextInput
					size="sm"
					name="name"
					labelText="Write their name, {who.name}"
					bind:value={name}
					autocomplete="off"
				/>
				<Button type="submit" size="small" kind="danger" disabled={name.trim() !== who.name}
					>Erase them for good</Button
				>
			</form>
		{/if}
	{/if}
</div>

<style>
	.page {
		max-width: 760px;
		gap: 12px;
	}
	form {
		display: grid;
		gap: 12px;
		justify-items: start;
		max-width: 420px;
	}
	form > :global(.bx--form-item) {
		width: 100%;
	}
</style>
