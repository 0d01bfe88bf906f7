<script lang="ts">
	import { clockTime } from '../parts/clock';
	import type { DispatchLine } from '$lib/server/desk/week/types';
	import { cityOf } from '$lib/core/time/zone';
	import { ways } from '$lib/core/roster/way';
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
	/** "7:42 am New York": by the clock that it is meant by, where that shows another time than the one it is seen by. */
	const there = $derived.by(() => {
		const own = clockTime(at, line.clockZone);
		return own === clockTime(at, zone) ? '' : `${own} ${cityOf(line.clockZone)}`;
	});
	/** "1,204" as it is, "12.4k" where it would be too wide for a tag. */
	const shortly = (n: number) =>
		n < 10_000 ? n.toLocaleString('en-US') : `${(n / 1000).toFixed(1)}k`;
	/** What is to leave shows its copies by way; of what has left, the reading matters. */
	const counted = $derived(line.state === 'scheduled' && line.waits === null);
	const byWay = $derived(ways.filter((way) => line.byWay[way]));
</script>

<div class="tag" class:draft class:waits={line.waits !== null}>
	<span class="top">
		<span class="mono time">{clockTime(at, zone)}</span>
		<span class="ways">
			{#each counted && byWay.length > 0 ? byWay : line.ways as way (way)}<WayMark
					{way}
					size={13}
				/>{/each}
		</span>
		{#if there}<span class="mono quiet there">{there}</span>{/if}
	</span>
	<span class="low">
		<a
			href={draft ? `/write?draft=${line.id}` : `/reach/${line.id}`}
			title="{line.subject || 'No subject yet'}: {line.audience}"
			dir="auto"
			draggable="false"><b>{line.subject || 'No subject yet'}</b></a
		>
		<span class="foot">
			<span class="who quiet" dir="auto">
				{#if draft}draft, not scheduled
				{:else if line.waits !== null}<span class="heed">waits for you</span>
				{:else if line.ways.length === 0}on boards alone
				{:else if counted}{line.about ? 'about ' : ''}{shortly(line.copies)} to {audience}
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
		padding: 2px 7px 1px;
		gap: 0 4px;
		border-bottom: 1px dashed var(--dash);
	}
	.time {
		white-space: nowrap;
		font-size: 12px;
	}
	.there {
		flex-basis: 100%;
		font-size: 11px;
		overflow-wrap: anywhere;
	}
	.ways {
		display: inline-flex;
		align-items: center;
		gap: 5px;
	}
	.low {
		display: grid;
		padding: 3px 7px 4px;
	}
	.low a,
	.who {
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.low a {
		color: inherit;
		text-decoration: none;
		min-height: 18px;
	}
	.low a:hover {
		text-decoration: underline;
	}
	.foot {
		display: flex;
		justify-content: space-between;
		align-items: baseline;
		gap: 0 6px;
		min-width: 0;
	}
	.who {
		min-width: 0;
	}
	.foot button {
		font-size: 12px;
		min-height: 24px;
		margin-block: -4px;
	}
</style>
