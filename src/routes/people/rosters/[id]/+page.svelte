<script lang="ts">
	import { goto, invalidateAll } from '$app/navigation';
	import { enhance } from '$app/forms';
	import { page } from '$app/state';
	import { Button, InlineNotification, ProgressBar } from 'carbon-components-svelte';
	import { onMount } from 'svelte';
	import { count } from '$lib/core/copy/count';
	import { allCounted } from '$lib/core/roster/counts';
	import { nearTime } from '$lib/ui/parts/clock';
	import { bench } from '$lib/ui/parts/bench.svelte';
	import BeforeIn from '$lib/ui/roster/BeforeIn.svelte';
	import Columns from '$lib/ui/roster/Columns.svelte';
	import Deed from '$lib/ui/roster/Deed.svelte';
	import Effects from '$lib/ui/roster/Effects.svelte';
	import FileFacts from '$lib/ui/roster/FileFacts.svelte';
	import SeenLines from '$lib/ui/roster/SeenLines.svelte';
	import { followFile } from '$lib/ui/roster/follow-file';

	import type { Looked } from '$lib/server/desk/roster/types';

	/** A roster that comes in: what it is, what would change, what that does, and the one deed. */
	let { data, form } = $props();
	const view = $derived(data.view);
	// What was asked for may not have begun yet.
	const working = $derived(
		view.state === 'looking' || view.state === 'taking' || data.progress !== null
	);
	const looked = $derived(
		['looking', 'taking', 'columns'].includes(view.state) ? null : view.looked
	);
	let progress = $state.raw<{ done: number; what: string }>({ done: 0, what: '' });
	const zone = $derived(data.frame!.zone);
	const when = (at: number | null) => (at === null ? '' : nearTime(at, bench.now, zone));

	onMount(() =>
		followFile(view.id, {
			working: () => working,
			heard: async (now) => {
				progress = now;
				if (now.state !== view.state || (!now.underWay && data.progress !== null))
					await invalidateAll();
			}
		})
	);

	/** Shows another part of the list. */
	function show(change: Record<string, string>) {
		const next = new URL(page.url);
		next.searchParams.delete('page');
		for (const [name, value] of Object.entries(change)) next.searchParams.set(name, value);
		void goto(next, { keepFocus: true, noScroll: true, replaceState: true });
	}
	const head = $derived.by(() => {
		if (!looked) return '';
		const all = allCounted(looked.counts);
		const wrong =
			looked.wrong === 0
				? ''
				: `; ${count(looked.wrong)} ${looked.wrong === 1 ? 'line stays' : 'lines stay'} out`;
		if (view.state !== 'looked') return `${count(all)} ${all === 1 ? 'change' : 'changes'}${wrong}`;
		const changes =
			all === 0
				? 'nothing changes'
				: `${count(all)} ${all === 1 ? 'thing changes' : 'things change'}`;
		return `If it comes in, ${changes}${wrong}`;
	});
</script>

<svelte:head><title>{view.name} · Rosters · Idle Courier</title></svelte:head>

{#snippet before(seen: Looked)}
	{#if view.state === 'looked' && !working}
		<h2>Before it comes in</h2>
		<BeforeIn looked={seen} questions={data.questions ?? []} custody={view.custody} />
	{/if}
{/snippet}

<div class="three roster">
	<section class="file" aria-label="The file">
		<p class="quiet small">
			<a href="/people">People</a> · <a href="/people/rosters">Rosters</a> · A roster comes in
		</p>
		<h1 dir="auto">{view.name}</h1>
		<p class="quiet small">
			<span dir="auto">{view.source}</span>, came {when(view.cameAt)}{view.by
				? `, ${view.by}`
				: ' by night'}
		</p>
		<FileFacts {view} />
	</section>

	<section class="changes" aria-label="What would change">
		{#if form?.why}<InlineNotification
				kind="error"
				lowContrast
				hideCloseButton
				title={form.why}
			/>{/if}
		{#if view.state === 'looked' && view.why && !working}
			<InlineNotification kind="warning" lowContrast hideCloseButton title={view.why} />
		{/if}
		{#if working}
			<h2>{view.state === 'looking' ? 'It is being looked at' : 'It is coming in'}</h2>
			<ProgressBar
				value={Math.round(progress.done * 100)}
				labelText={progress.what || 'It waits for its turn'}
				helperText="This page can be left; it goes on."
			/>
		{:else if view.state === 'columns' && view.columns}
			<Columns view={view.columns} />
		{:else if view.state === 'refused'}
			<h2 class="fail">It cannot be read; nothing has changed</h2>
			<p dir="auto">{view.why}</p>
		{:else if view.state === 'coming'}
			<h2>It has not come whole</h2>
			<p>The browser that brought it broke off. Bring it once more; nothing has changed.</p>
		{:else if view.state === 'given-up'}
			<h2>It was given up</h2>
			<p>Nothing of it has come in.</p>
		{/if}
		{#if looked}
			{#if view.state === 'taken'}
				<p class="good" role="status">
					<b>It came in</b>
					{when(view.takenAt)}{view.takenBy ? `, by ${view.takenBy}` : ', by itself'}.
				</p>
			{:else if view.state === 'taken-back'}
				<p role="status">
					<b>It was taken back</b>
					{when(view.backAt)}: everything is as it was before.
				</p>
			{/if}
			<h2 class="head">{head}</h2>
			<SeenLines
				{looked}
				filter={data.filter}
				changes={data.changes}
				wrong={data.wrong}
				perPage={data.linesOnPage}
				onshow={show}
			>
				{#snippet away()}
					{#if view.state === 'looked'}
						<p>What was seen is no longer at hand.</p>
						<form method="post" action="?/look" use:enhance>
							<Button type="submit" size="small" kind="tertiary">Look at it again</Button>
						</form>
					{:else}
						<p class="quiet">Line by line it is no longer at hand, since it was decided on.</p>
					{/if}
				{/snippet}
			</SeenLines>
		{/if}
	</section>

	<aside aria-label="What follows">
		{#if looked}
			<!-- Who comes in twice is seen first: it weighs on everything below. -->
			{#if looked.sameTies > 0}{@render before(looked)}{/if}
			<h2>What it does to what is planned</h2>
			<Effects effects={looked.effects} {zone} />
			{#if looked.sameTies === 0}{@render before(looked)}{/if}
		{/if}
	</aside>

	<footer><Deed {view} {working} /></footer>
</div>

<style>
	.file,
	aside {
		padding: 14px 20px;
		overflow: auto;
		display: grid;
		align-content: start;
	}
	.file {
		border-inline-end: 1px solid var(--line);
		gap: 6px;
	}
	aside {
		border-inline-start: 1px solid var(--line);
		gap: 8px;
	}
	aside h2:not(:first-child) {
		margin-top: 12px;
	}
	.changes {
		background: var(--sheet);
		padding: 14px 24px;
		overflow: auto;
		display: grid;
		gap: 10px;
		align-content: start;
	}
	.head {
		font-size: 20px;
	}
	h1 {
		overflow-wrap: anywhere;
	}
	@media (max-width: 1000px), (max-height: 600px) {
		.file,
		aside,
		.changes {
			overflow: visible;
		}
		footer {
			position: sticky;
			bottom: 0;
			z-index: 5;
		}
	}
	@media (max-width: 1000px) {
		.file,
		aside {
			border: 0;
			border-bottom: 1px solid var(--line);
		}
	}
</style>
