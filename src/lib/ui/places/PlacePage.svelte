<script lang="ts">
	import type { Snippet } from 'svelte';
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import LastSent from './LastSent.svelte';
	import ReachStrip from './ReachStrip.svelte';
	import StudentsAndPeople from './StudentsAndPeople.svelte';
	import type { PlaceOfPeople, ReachLine } from '$lib/server/desk/places/types';

	interface Props {
		place: PlaceOfPeople;
		/** The page it is listed on. */
		listed: { readonly href: string; readonly text: string };
		details: readonly string[];
		/** Where a sheet to them begins, while the place is there. */
		write: string;
		/** Since when and how it is gone, in words. */
		gone: string;
		/** The action that takes a student out; null where that may not be done. */
		takeOut: string | null;
		zone: string;
		now: number;
		/** What the last act came to. */
		answer: { readonly said?: string; readonly why?: string } | null;
		/** Above the students. */
		above?: Snippet;
		/** Beside them, before and after what was last sent. */
		first?: Snippet;
		beside?: Snippet;
	}
	/** One place of people, a section or a group. */
	let {
		place,
		listed,
		details,
		write,
		gone,
		takeOut,
		zone,
		now,
		answer,
		above,
		first,
		beside
	}: Props = $props();
</script>

<svelte:head><title>{place.name} · People · Idle Courier</title></svelte:head>

{#snippet out(line: ReachLine)}
	<form method="post" action={takeOut} use:enhance>
		<input type="hidden" name="studentId" value={line.studentId} />
		<button class="plain" aria-label="Take out {line.name}">take out</button>
	</form>
{/snippet}

<div class="page">
	<div class="page-head">
		<header>
			<p class="quiet"><a href="/people">People</a> · <a href={listed.href}>{listed.text}</a></p>
			<h1 dir="auto">{place.name}</h1>
			<p class="quiet">{details.filter(Boolean).join(' · ')}</p>
		</header>
		{#if place.goneAt === null}<Button size="small" href={write}>Write to them</Button>{/if}
	</div>
	{#if place.goneAt !== null}<p class="heed">{gone}</p>{/if}
	{#if answer?.said}<p class="good" role="status">{answer.said}</p>{/if}
	{#if answer?.why}<p class="fail" role="alert">{answer.why}</p>{/if}
	<ReachStrip line={place.reach} />
	<div class="with-aside">
		<div class="block">
			{@render above?.()}
			{#if place.people.length === 0}<p class="quiet">Nobody is in it yet.</p>
			{:else}<StudentsAndPeople
					lines={place.people}
					deed={takeOut === null ? undefined : out}
				/>{/if}
		</div>
		<aside class="block">
			{@render first?.()}
			<LastSent sent={place.sent} {zone} {now} />
			{@render beside?.()}
		</aside>
	</div>
</div>

<style>
	.block {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 18px;
	}
	.block :global(section),
	.block :global(section form),
	aside > :global(form) {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 8px;
	}
	.block :global(section .bx--btn),
	aside > :global(form .bx--btn) {
		justify-self: start;
	}
	.block :global(section > form) {
		margin-top: 8px;
	}
</style>
