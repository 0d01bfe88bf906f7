<script lang="ts">
	import { page } from '$app/state';
	import { nearTime } from '../parts/clock';
	import { ways } from '$lib/core/roster/way';
	import type { RepliesView } from '$lib/server/desk/replies/types';
	import AwayField from './AwayField.svelte';
	import WayMark from '../parts/WayMark.svelte';
	import { lookHref } from './look';

	/** How conversations stand, each count a door to them. */
	let { view }: { view: RepliesView } = $props();
	const { counts } = $derived(view);
	const here = $derived(page.url.searchParams);
	const when = (at: number) => nearTime(at, view.now, view.zone);
	const current = (key: string, value: string) => (here.get(key) === value ? 'page' : undefined);
</script>

<aside aria-label="How conversations stand">
	<section>
		<h2>
			<a
				href="/replies"
				aria-current={view.shelf === 'waiting' && here.size === 0 ? 'page' : undefined}>Waiting</a
			><span class:heed={counts.waiting > 0}>{counts.waiting.toLocaleString('en')}</span>
		</h2>
		{#if counts.overDay > 0}
			<p><a href="/replies?overDay=1">over a day</a><b>{counts.overDay.toLocaleString('en')}</b></p>
		{/if}
		{#if counts.unread > 0}
			<p><span>not looked at yet</span><b>{counts.unread.toLocaleString('en')}</b></p>
		{/if}
		{#if counts.oldest !== null}
			<p class="quiet">the oldest since {when(counts.oldest)}</p>
		{/if}
	</section>
	<section>
		<h2>
			<a href="/replies?shelf=aside" aria-current={current('shelf', 'aside')}>Put aside</a><span
				>{counts.aside.toLocaleString('en')}</span
			>
		</h2>
		{#if counts.asideNext !== null}
			<p class="quiet">the next comes back {when(counts.asideNext)}</p>
		{/if}
	</section>
	<section>
		<h2>
			<a href="/replies?shelf=settled" aria-current={current('shelf', 'settled')}>Settled</a><span
				>{counts.moreSettled ? 'over ' : ''}{counts.settled.toLocaleString('en')}</span
			>
		</h2>
	</section>
	{#if counts.doubtful > 0}
		<section>
			<h2>
				<a href="/replies?shelf=doubtful" aria-current={current('shelf', 'doubtful')}
					>Perhaps machines</a
				><span>{counts.doubtful.toLocaleString('en')}</span>
			</h2>
			<p class="quiet">Absence notes and the like. They count as nobody’s answer.</p>
		</section>
	{/if}
	{#if counts.sections.length > 0}
		<section>
			<h2>By section</h2>
			{#each counts.sections as section (section.id)}
				<p>
					<a
						href={lookHref(here, 'section', String(section.id))}
						aria-current={current('section', String(section.id))}
						dir="auto">{section.name}</a
					><b>{section.n.toLocaleString('en')}</b>
				</p>
			{/each}
			{#if counts.moreSections > 0}
				<p class="quiet">
					and {counts.moreSections.toLocaleString('en')} more {counts.moreSections === 1
						? 'section'
						: 'sections'}
				</p>
			{/if}
		</section>
	{/if}
	{#if counts.waiting > 0}
		<section>
			<h2>By way</h2>
			{#each ways as way (way)}
				{#if counts.ways[way] > 0}
					<p>
						<a href={lookHref(here, 'way', way)} aria-current={current('way', way)}
							><WayMark {way} word size={14} /></a
						><b>{counts.ways[way].toLocaleString('en')}</b>
					</p>
				{/if}
			{/each}
		</section>
	{/if}
	<AwayField note={view.away} now={view.now} zone={view.zone} />
</aside>

<style>
	aside {
		padding: 18px 16px 24px 20px;
		border-right: 1px solid var(--line);
		overflow: auto;
	}
	section {
		padding: 11px 0;
		border-top: 1px solid var(--line);
	}
	section:first-child {
		border: 0;
		padding-top: 0;
	}
	h2,
	p {
		display: flex;
		justify-content: space-between;
		gap: 8px;
	}
	h2 span {
		font-weight: 650;
	}
	h2 a,
	p a {
		color: inherit;
		text-decoration: none;
		min-height: 24px;
		overflow-wrap: anywhere;
	}
	a:hover {
		text-decoration: underline;
	}
	a[aria-current] {
		box-shadow: inset 0 -2px 0 var(--action);
	}
	p {
		font-size: 13px;
	}
	@media (max-width: 900px) {
		aside {
			border-right: 0;
			border-bottom: 1px solid var(--line);
			display: flex;
			flex-wrap: wrap;
			gap: 0 28px;
		}
		section {
			border: 0;
			padding: 4px 0;
		}
	}
</style>
