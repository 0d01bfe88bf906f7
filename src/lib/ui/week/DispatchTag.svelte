<script lang="ts">
	import { clockTime } from '$lib/core/time/zone';
	import type { DispatchLine } from '$lib/server/desk/dispatch-lines';
	import { ways } from '$lib/core/plan/manifest';
	import WayMark from '../parts/WayMark.svelte';

	/** A dispatch as a tag: time and ways above the perforation, what and to whom below. */
	let {
		line,
		zone,
		onmove
	}: { line: DispatchLine; zone: string; onmove?: (line: DispatchLine) => void } = $props();
	/** The usual audience goes without saying on a tag; the whole sentence is behind it. */
	const audience = $derived(line.audience.replace(/^Guardians of students in /, ''));
	const draft = $derived(line.state === 'draft');
	const at = $derived(line.leavesAt ?? line.intendedAt ?? line.changedAt);
	/** What is to leave shows its copies by way; of what has left, the reading matters. */
	const counted = $derived(line.state === 'scheduled' && line.waits === null);
	const byWay = $derived(
		ways.flatMap((way) => (line.byWay[way] ? [{ way, n: line.byWay[way] }] : []))
	);
</script>

<div class="tag" class:draft class:waits={line.waits !== null}>
	<span class="top">
		<span class="mono time">{clockTime(at, zone)}</span>
		{#if !counted}
			<span class="ways"
				>{#each line.ways as way (way)}<WayMark {way} size={14} />{/each}</span
			>
		{/if}
	</span>
	<span class="low">
		<a
			href={draft ? `/write?draft=${line.id}` : `/reach/${line.id}`}
			title={line.audience}
			dir="auto"
			draggable="false"><b>{line.subject || 'No subject yet'}</b></a
		>
		<span class="who">{audience}</span>
		<span class="quiet foot">
			<span class="said">
				{#if draft}draft, not scheduled
				{:else if line.waits !== null}<span class="heed">waits for your answer</span>
				{:else if counted}
					{#if line.about}about{/if}
					{#each byWay as { way, n } (way)}<span class="n"><WayMark {way} size={13} />{n}</span
						>{/each}
				{:else}{line.covered} of {line.students}
					{line.unit === 'people' ? 'read it' : 'covered'}{/if}
			</span>
			{#if onmove}
				<button class="plain" onclick={() => onmove(line)}
					>Move<span class="spoken"> {line.subject}</span></button
				>
			{/if}
		</span>
	</span>
</div>

<style>
	.tag {
		display: block;
		color: var(--ink);
		background: var(--sheet);
		border: 1px solid var(--line);
		border-radius: 3px;
		font-size: 12.5px;
		line-height: 1.25;
		cursor: default;
	}
	.tag:hover {
		border-color: var(--line-strong);
	}
	.draft {
		border-style: dashed;
		background: transparent;
	}
	.waits {
		border-color: var(--heed);
	}
	.top {
		display: flex;
		flex-wrap: wrap;
		justify-content: space-between;
		align-items: center;
		padding: 4px 8px 3px;
		border-bottom: 1px dashed #bfb49f;
	}
	.time {
		white-space: nowrap;
	}
	.ways {
		display: inline-flex;
		align-items: center;
		gap: 3px;
	}
	.n {
		display: inline-flex;
		gap: 3px;
		align-items: center;
		margin-inline-end: 7px;
		font-variant-numeric: tabular-nums;
	}
	.low {
		display: grid;
		padding: 5px 8px 6px;
		overflow-wrap: anywhere;
	}
	.low a {
		color: inherit;
		text-decoration: none;
	}
	.low a:hover {
		text-decoration: underline;
	}
	.who {
		display: -webkit-box;
		-webkit-box-orient: vertical;
		-webkit-line-clamp: 2;
		line-clamp: 2;
		overflow: hidden;
	}
	.foot {
		display: flex;
		flex-wrap: wrap;
		justify-content: space-between;
		gap: 0 6px;
	}
	.foot button {
		font-size: 12px;
	}
</style>
