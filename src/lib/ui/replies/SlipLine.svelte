<script lang="ts">
	import { page } from '$app/state';
	import { nameOfLanguage } from '$lib/core/copy/language';
	import { nearTime } from '../parts/clock';
	import type { Shelf, Slip } from '$lib/server/desk/replies/types';
	import WayMark from '../parts/WayMark.svelte';
	import { openHref } from './look';

	/** One conversation as a slip: who, what they wrote, since when, and the two things that are done most. */
	let {
		slip,
		shelf,
		open,
		now,
		zone,
		onaside
	}: {
		slip: Slip;
		shelf: Shelf;
		open: boolean;
		now: number;
		zone: string;
		onaside: () => void;
	} = $props();
	const dayMs = 86_400_000;
	const href = $derived(openHref(page.url.searchParams, open ? null : slip.id));
	const count = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`;
	const with_ = $derived(
		[
			slip.pictures > 0 ? count(slip.pictures, 'picture', 'pictures') : '',
			slip.files > 0 ? count(slip.files, 'file', 'files') : ''
		]
			.filter(Boolean)
			.join(', ')
	);
</script>

<div class="slip" class:open class:new={slip.unread}>
	<div class="who">
		{#if slip.unread}<span class="spoken">not looked at yet</span>{/if}
		{#if slip.personId !== null}
			<a href="/people/{slip.personId}"><b><bdi>{slip.who}</bdi></b></a>
		{:else}<b class="mono">{slip.who}</b>{/if}
		<span class="quiet small"
			>{[slip.relation, slip.language ? `reads ${nameOfLanguage(slip.language)}` : '']
				.filter(Boolean)
				.join(' · ')}</span
		>
		{#if slip.elsewhere}<span class="heed small">from {slip.elsewhere}, not on file</span>{/if}
		{#if slip.guests.length > 0}<span class="quiet small">with {slip.guests.join(', ')}</span>{/if}
	</div>
	<a class="words" {href} data-sveltekit-noscroll data-sveltekit-keepfocus aria-expanded={open}>
		<WayMark way={slip.way} size={13} />
		{#if open}<span class="quiet">{nearTime(slip.at, now, zone)}</span>
		{:else}
			{#if slip.words}<span dir="auto">{slip.words}</span>{/if}
			{#if slip.translated}<span class="quiet" dir="auto"
					>“{slip.translated}”, draft by the translator</span
				>{/if}
			{#if with_}<span class="quiet">{with_}</span>{/if}
			{#if slip.doubt}<span class="heed">perhaps a machine</span>{/if}
		{/if}
	</a>
	<span class="when small" class:heed={shelf === 'waiting' && slip.at < now - dayMs}>
		{#if open}<span class="spoken">open</span>
		{:else if shelf === 'aside' && slip.asideUntil !== null}until {nearTime(
				slip.asideUntil,
				now,
				zone
			)}
		{:else}{nearTime(slip.at, now, zone)}{/if}
	</span>
	<span class="do">
		<a {href} data-sveltekit-noscroll data-sveltekit-keepfocus
			><b>{open ? 'Shut' : shelf === 'waiting' ? 'Answer' : 'Open'}</b></a
		>
		{#if shelf === 'waiting' && !open}
			<button class="plain" onclick={onaside}>Put aside</button>
		{/if}
	</span>
</div>

<style>
	.slip {
		display: grid;
		grid-template-columns: minmax(120px, 200px) minmax(0, 1fr) 116px 126px;
		gap: 4px 12px;
		padding: 8px 14px;
		align-items: baseline;
	}
	/* Not looked at yet: its corner is still folded. */
	.slip.new {
		background: linear-gradient(135deg, var(--heed) 8px, transparent 8.5px);
	}
	.who {
		display: grid;
		overflow-wrap: anywhere;
	}
	.who a {
		color: var(--ink);
		text-decoration: none;
	}
	.who a:hover,
	.words:hover {
		text-decoration: underline;
	}
	.words {
		color: var(--ink);
		text-decoration: none;
		overflow-wrap: anywhere;
		min-height: 24px;
	}
	.do {
		display: flex;
		gap: 12px;
		align-items: baseline;
		justify-content: flex-end;
		font-size: 13px;
	}
	.do a {
		color: var(--ink);
		text-decoration: none;
		min-height: 24px;
	}
	.open .do a {
		color: var(--quiet);
	}
	@media (max-width: 1000px) {
		.slip {
			grid-template-columns: minmax(0, 1fr) auto;
		}
		.words {
			grid-column: 1 / -1;
			grid-row: 2;
		}
		.do {
			grid-column: 1 / -1;
			justify-content: flex-start;
		}
	}
</style>
