<script lang="ts">
	import { invalidateAll } from '$app/navigation';
	import { Button, TextArea } from 'carbon-components-svelte';
	import { dayAfter, localOf, placeLocal } from '$lib/core/time/local';
	import { nearTime } from '../parts/clock';
	import type { AwayNote } from '$lib/server/desk/replies/types';
	import MomentField from '../parts/MomentField.svelte';
	import { deleteJson, postJson } from '../parts/post-json';

	/** The away note of whoever looks: from when to when, and what whoever writes meanwhile is told, once each. */
	let { note, now, zone }: { note: AwayNote | null; now: number; zone: string } = $props();
	let open = $state(false);
	let why = $state('');
	// svelte-ignore state_referenced_locally
	let from = $state(localOf(now, zone));
	// svelte-ignore state_referenced_locally
	let to = $state(`${dayAfter(localOf(now, zone).slice(0, 10), 7)}T08:00`);
	let words = $state('');
	let unread = $state(false);
	const until = $derived(placeLocal(to, zone).at);

	async function set() {
		const done = await postJson('/replies/away', {
			from: placeLocal(from, zone).at,
			to: until,
			words
		});
		why = done.why;
		if (!done.ok) return;
		open = false;
		await invalidateAll();
	}
	async function end() {
		why = (await deleteJson('/replies/away', {})).why;
		await invalidateAll();
	}
</script>

<section>
	<h2>Away</h2>
	{#if note}
		<p>
			{note.startsAt > now ? `From ${nearTime(note.startsAt, now, zone)} until` : 'Until'}
			{nearTime(note.endsAt, now, zone)} whoever writes to you is told, once each and never at night:
			“<span dir="auto">{note.words}</span>”. {note.told.toLocaleString('en')} told so far.
		</p>
		<button class="plain" onclick={end}>End it now</button>
	{:else}
		<p class="quiet">No away note. Families are told nothing by themselves.</p>
		<button class="plain" aria-expanded={open} onclick={() => (open = !open)}>Set one</button>
	{/if}
	{#if open && !note}
		<form
			onsubmit={(event) => {
				event.preventDefault();
				void set();
			}}
		>
			<MomentField
				label="Away from"
				value={from}
				{now}
				{zone}
				onchange={(v) => (from = v)}
				bind:unread
			/>
			<MomentField label="until" value={to} {now} {zone} onchange={(v) => (to = v)} bind:unread />
			<TextArea
				labelText="What whoever writes is told"
				placeholder="I am back on Monday. For what cannot wait, call the office."
				rows={3}
				bind:value={words}
			/>
			<Button type="submit" size="small" kind="secondary" disabled={unread || !words.trim()}
				>Tell it until {nearTime(until, now, zone)}</Button
			>
		</form>
	{/if}
	{#if why}<p class="fail" role="alert">{why}</p>{/if}
</section>

<style>
	section {
		padding: 11px 0;
		border-top: 1px solid var(--line);
	}
	p {
		font-size: 13px;
		overflow-wrap: anywhere;
	}
	form {
		display: grid;
		gap: 8px;
	}
</style>
