<script lang="ts">
	import type { Snippet } from 'svelte';
	import { nearTime } from '../parts/clock';
	import type { TalkHead } from '$lib/server/desk/replies/types';
	import WayMark from '../parts/WayMark.svelte';

	/** What some conversations are about, as the head of a tag; their slips hang below it. */
	let {
		head,
		now,
		zone,
		children
	}: { head: TalkHead; now: number; zone: string; children: Snippet } = $props();
	const n = (count: number) => count.toLocaleString('en');
</script>

<section class="tag" aria-label={head.subject || undefined}>
	<header>
		{#if head.kind === 'dispatch'}
			<span class="ways"
				>{#each head.ways as way (way)}<WayMark {way} size={14} />{/each}</span
			>
			<h2>
				{#if head.inReach}<a href="/reach/{head.dispatchId}" dir="auto"
						>{head.subject || 'No subject'}</a
					>{:else}<bdi>{head.subject || 'No subject'}</bdi>{/if}
			</h2>
			<span class="quiet small">
				{head.sender ?? 'yours'}{head.leftAt === null
					? ''
					: ` · ${nearTime(head.leftAt, now, zone)}`}
				· {n(head.people)}
				{head.people === 1 ? 'person' : 'people'} · {n(head.answered)} answered, {head.waiting === 0
					? 'none waits'
					: `${n(head.waiting)} ${head.waiting === 1 ? 'waits' : 'wait'}`}
				{#if head.announcement}
					· an announcement: whoever writes is told where to{/if}
			</span>
		{:else if head.kind === 'begun'}
			<h2>Begun by families</h2>
			<span class="quiet small">to the staff of their sections</span>
		{:else}
			<h2>From phones that were not written to lately</h2>
			<span class="quiet small">nothing is known of what they answer</span>
		{/if}
	</header>
	<div class="slips">{@render children()}</div>
</section>

<style>
	.tag {
		background: var(--sheet);
		border: 1px solid var(--line);
		border-radius: 3px;
	}
	header {
		display: flex;
		flex-wrap: wrap;
		align-items: baseline;
		gap: 2px 12px;
		padding: 9px 14px;
		border-bottom: 1px dashed var(--dash);
	}
	.ways {
		display: inline-flex;
		gap: 3px;
	}
	h2 a {
		color: inherit;
		text-decoration: none;
		overflow-wrap: anywhere;
	}
	h2 a:hover {
		text-decoration: underline;
	}
	.slips > :global(* + *) {
		border-top: 1px solid var(--line);
	}
</style>
