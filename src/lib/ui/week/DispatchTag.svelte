<script lang="ts">
	import { clockTime } from '$lib/core/time/zone';
	import type { DispatchLine } from '$lib/server/desk/dispatch-lines';
	import WayMark from '../parts/WayMark.svelte';

	/** A dispatch as a tag: time and ways above the perforation, what and to whom below. */
	let { line, zone }: { line: DispatchLine; zone: string } = $props();
	/** The usual audience goes without saying on a tag; the whole sentence is behind it. */
	const audience = $derived(line.audience.replace(/^Guardians of students in /, ''));
</script>

<a class="tag" href="/reach/{line.id}" title={line.audience}>
	<span class="top">
		<span class="mono">{clockTime(line.leavesAt ?? line.changedAt, zone)}</span>
		<span class="ways"
			>{#each line.ways as way (way)}<WayMark {way} size={14} />{/each}</span
		>
	</span>
	<span class="low">
		<b dir="auto">{line.subject}</b>
		<span class="who">{audience}</span>
		<span class="quiet">
			{#if line.state === 'scheduled'}{line.copies} copies{:else}{line.covered} of {line.students}
				{line.unit === 'people' ? 'read it' : 'covered'}{/if}
		</span>
	</span>
</a>

<style>
	.tag {
		display: block;
		color: var(--ink);
		text-decoration: none;
		background: var(--sheet);
		border: 1px solid var(--line);
		border-radius: 3px;
		font-size: 12.5px;
		line-height: 1.25;
	}
	.tag:hover {
		border-color: var(--line-strong);
	}
	.top {
		display: flex;
		justify-content: space-between;
		align-items: center;
		padding: 4px 8px 3px;
		border-bottom: 1px dashed #bfb49f;
	}
	.ways {
		display: inline-flex;
		gap: 5px;
	}
	.low {
		display: grid;
		padding: 5px 8px 6px;
		overflow-wrap: anywhere;
	}
	.who {
		display: -webkit-box;
		-webkit-box-orient: vertical;
		-webkit-line-clamp: 2;
		line-clamp: 2;
		overflow: hidden;
	}
</style>
