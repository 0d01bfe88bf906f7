<script lang="ts">
	import { enhance } from '$app/forms';
	import { count } from '$lib/core/copy/count';
	import type { OnBoards } from '$lib/server/desk/boards/types';
	import { nearTime } from '../parts/clock';

	/** On which boards an announcement stands, until when, and who has read it there. */
	let {
		on,
		id,
		students,
		zone,
		now
	}: {
		on: OnBoards;
		/** The dispatch. */
		id: number;
		/** How many students it is about. */
		students: number;
		zone: string;
		/** Instant of the page, ms. */
		now: number;
	} = $props();
	/** So many are named; the others are counted. */
	const most = 4;
	const people = (n: number) => `${count(n)} ${n === 1 ? 'person' : 'people'}`;
	const over = $derived(on.until !== null && on.until <= now);
	const ahead = $derived(on.from > now);
	const until = $derived(on.until === null ? '' : ` until ${nearTime(on.until, now, zone)}`);
</script>

<div class="boards">
	<span>
		{#if over}Stood on
		{:else if ahead}Will stand from {nearTime(on.from, now, zone)}{until} on
		{:else}Stands{until} on{/if}
		{on.boards.length === 1 ? 'the board of' : `${count(on.boards.length)} boards:`}
		{#each on.boards.slice(0, most) as board, i (i)}{i > 0 ? ', ' : ''}{#if board.key}<a
					href="/people/boards/{board.key}"
					dir="auto">{board.name}</a
				>{:else}<span dir="auto">{board.name}</span>{/if}{/each}{on.boards.length > most
			? ` and ${count(on.boards.length - most)} more`
			: ''}{on.pinned && !over ? ', pinned' : ''}.
		{#if !ahead}
			{on.readers === 0
				? 'Nobody has read it there yet.'
				: `Read there by ${people(on.readers)}, for ${count(on.students)} of ${count(students)} students${on.without > 0 ? `; ${people(on.without)} of them ${on.without === 1 ? 'has' : 'have'} no copy` : ''}.`}
		{/if}
		{#if on.changedAt !== null}
			<span class="heed">What it says there was changed {nearTime(on.changedAt, now, zone)}.</span>
		{/if}
	</span>
	{#if on.mine && !over}
		<span class="deeds">
			<a href="/reach/{id}/board">Change what it says there</a>
			<form method="post" action="?/takeOff" use:enhance>
				<button class="plain">Take it off</button>
			</form>
		</span>
	{/if}
</div>

<style>
	.boards {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 18px;
	}
	.deeds {
		display: inline-flex;
		flex-wrap: wrap;
		gap: 4px 14px;
		align-items: baseline;
	}
</style>
