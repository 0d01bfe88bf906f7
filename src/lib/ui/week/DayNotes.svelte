<script lang="ts">
	import { clockTime } from '../parts/clock';
	import type { DayNote } from '$lib/server/desk/week/types';

	/** What stands on a day beside what leaves on it: events, schools that are closed by themselves, feeds that are asked. */
	let {
		notes,
		zone,
		most = 3
	}: { notes: readonly DayNote[]; zone: string; most?: number } = $props();
</script>

{#if notes.length > 0}
	<ul>
		{#each notes.slice(0, most) as note (note.key)}
			<li class:off={note.calledOff}>
				{#if note.href !== null}
					<a href={note.href} title={note.text}>
						{#if note.at !== null && note.kind === 'event'}<span class="mono"
								>{clockTime(note.at, zone)}</span
							>{/if}
						<span dir="auto">{note.text}</span>
					</a>
					{#if note.calledOff}<span class="spoken">called off</span>{/if}
				{:else}
					<span class="quiet" title={note.text} dir="auto">{note.text}</span>
				{/if}
			</li>
		{/each}
		{#if notes.length > most}
			<li><a href="/week/events">{notes.length - most} more</a></li>
		{/if}
	</ul>
{/if}

<style>
	ul {
		margin: 2px 0 0;
		padding: 0;
		list-style: none;
		font-size: 12px;
		line-height: 1.3;
	}
	li {
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
		border-inline-start: 2px solid var(--line-strong);
		padding-inline-start: 5px;
		margin-top: 2px;
	}
	a {
		color: inherit;
		text-decoration: none;
	}
	a:hover {
		text-decoration: underline;
	}
	.off a {
		text-decoration: line-through;
		color: var(--quiet);
	}
</style>
