<script lang="ts">
	import { goto, invalidateAll } from '$app/navigation';
	import { enhance } from '$app/forms';
	import { page } from '$app/state';
	import {
		Button,
		InlineNotification,
		ProgressBar,
		Search,
		TextInput
	} from 'carbon-components-svelte';
	import { onMount } from 'svelte';
	import { count } from '$lib/core/copy/count';
	import { allCounted, countOf, tabs, tooMuch, whats } from '$lib/core/roster/counts';
	import { nearTime } from '$lib/core/time/zone';
	import { bench } from '$lib/ui/parts/bench.svelte';
	import Pages from '$lib/ui/parts/Pages.svelte';
	import { getJson } from '$lib/ui/parts/post-json';
	import BeforeIn from '$lib/ui/roster/BeforeIn.svelte';
	import ChangeTable from '$lib/ui/roster/ChangeTable.svelte';
	import Effects from '$lib/ui/roster/Effects.svelte';
	import FileFacts from '$lib/ui/roster/FileFacts.svelte';
	import WrongTable from '$lib/ui/roster/WrongTable.svelte';

	/** A roster that comes in: what it is, what would change, what that does, and the one deed. */
	let { data, form } = $props();
	const view = $derived(data.view);
	const looked = $derived(view.state === 'looking' ? null : view.looked);
	// What was asked for may not have begun yet.
	const working = $derived(
		view.state === 'looking' || view.state === 'taking' || data.progress !== null
	);
	let progress = $state.raw<{ done: number; what: string }>({ done: 0, what: '' });
	let typed = $state('');
	const zone = $derived(data.frame!.zone);
	const all = $derived(looked ? allCounted(looked.counts) : 0);
	const must = $derived(looked ? tooMuch(looked.shares, looked.mostShare).length > 0 : false);
	const when = (at: number | null) => (at === null ? '' : nearTime(at, bench.now, zone));

	// Asked for as long as it is worked on; the page can be left, and shows how it stands when it is opened again.
	onMount(() => {
		let gone = false;
		const follow = async () => {
			while (!gone) {
				if (working) {
					const answer = await getJson<{
						state: string;
						underWay: boolean;
						done: number;
						what: string;
					}>(`/people/rosters/${view.id}/progress`);
					if (gone) return;
					if (answer.ok) progress = answer.body;
					const { state, underWay } = answer.body;
					if (answer.ok && (state !== view.state || (!underWay && data.progress !== null)))
						await invalidateAll();
				}
				await new Promise((again) => setTimeout(again, working ? 400 : 1_000));
			}
		};
		void follow();
		return () => (gone = true);
	});

	/** Shows another part of the list. */
	function show(change: Record<string, string>) {
		const next = new URL(page.url);
		next.searchParams.delete('page');
		for (const [name, value] of Object.entries(change)) next.searchParams.set(name, value);
		void goto(next, { keepFocus: true, noScroll: true, replaceState: true });
	}
	// svelte-ignore state_referenced_locally
	let search = $state(data.filter.q);
	let timer: ReturnType<typeof setTimeout> | undefined;
	function searchSoon() {
		clearTimeout(timer);
		timer = setTimeout(() => show({ q: search }), 200);
	}
	const tabWords = {
		people: 'people',
		contacts: 'contacts',
		enrolments: 'enrolments',
		sections: 'sections, courses, schools',
		staff: 'staff'
	} as const;
	const list = $derived(data.changes ?? data.wrong);
	const numbers = $derived(
		looked
			? [
					...whats.map((what) => ({ what, n: countOf(looked.counts, what), label: what })),
					{ what: 'wrong', n: looked.wrong, label: 'wrong, stay out' } as const
				]
			: []
	);
	const head = $derived.by(() => {
		if (!looked) return '';
		const changes =
			all === 0
				? 'nothing changes'
				: `${count(all)} ${all === 1 ? 'thing changes' : 'things change'}`;
		const wrong =
			looked.wrong === 0
				? ''
				: `; ${count(looked.wrong)} ${looked.wrong === 1 ? 'line stays' : 'lines stay'} out`;
		return view.state === 'looked'
			? `If it comes in, ${changes}${wrong}`
			: `${count(all)} changes${wrong}`;
	});
	const button = $derived(
		looked
			? `Take in ${whats.map((what) => `${count(countOf(looked.counts, what))} ${what}`).join(', ')}`
			: ''
	);
</script>

<svelte:head><title>{view.name} · Rosters · Idle Courier</title></svelte:head>

<div class="sheet">
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
		{#if view.state === 'looked' && view.why}
			<InlineNotification kind="warning" lowContrast hideCloseButton title={view.why} />
		{/if}
		{#if working}
			<h2>{view.state === 'looking' ? 'It is being looked at' : 'It is coming in'}</h2>
			<ProgressBar
				value={Math.round(progress.done * 100)}
				labelText={progress.what || 'It waits for its turn'}
				helperText="This page can be left; it goes on."
			/>
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
		{#if looked && view.state !== 'taking'}
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
			<div class="numbers" role="group" aria-label="Which changes are shown">
				{#each numbers as { what, n, label } (what)}
					<button
						type="button"
						class:bad={what === 'wrong' && n > 0}
						aria-pressed={data.filter.what === what}
						onclick={() => show({ what })}
					>
						<b>{count(n)}</b>
						<span>{label}</span>
					</button>
				{/each}
			</div>
			{#if data.filter.what !== 'wrong'}
				<div class="tabs" role="group" aria-label="Of what">
					{#each tabs as tab (tab)}
						<button
							type="button"
							aria-pressed={data.filter.tab === tab}
							onclick={() => show({ tab })}
						>
							{tabWords[tab]}
							{count(looked.counts[data.filter.what][tab])}
						</button>
					{/each}
				</div>
			{/if}
			{#if list === null}
				<p>
					What was seen is no longer at hand{view.state === 'looked'
						? ''
						: ', since it was decided on'}.
				</p>
				{#if view.state === 'looked'}
					<form method="post" action="?/look" use:enhance>
						<Button type="submit" size="small" kind="tertiary">Look at it again</Button>
					</form>
				{/if}
			{:else}
				<Search
					size="sm"
					labelText="Search these lines"
					placeholder="Name, address, section"
					bind:value={search}
					on:input={searchSoon}
					on:clear={() => show({ q: '' })}
				/>
				{#if list.found === 0}
					<p class="quiet">{data.filter.q ? 'No line has these words.' : 'None.'}</p>
				{:else if data.changes && data.filter.what !== 'wrong'}
					<ChangeTable lines={data.changes.lines} what={data.filter.what} />
				{:else if data.wrong}
					<WrongTable lines={data.wrong.lines} />
				{/if}
				<Pages
					all={list.found}
					perPage={data.linesOnPage}
					page={data.filter.page}
					what="Lines"
					onturn={(p) => show({ page: String(p) })}
				/>
			{/if}
		{/if}
	</section>

	<aside aria-label="What follows">
		{#if looked && view.state !== 'taking'}
			<h2>What it does to what is planned</h2>
			<Effects effects={looked.effects} {zone} />
			{#if view.state === 'looked' && !working}
				<h2>Before it comes in</h2>
				<BeforeIn {looked} questions={data.questions ?? []} custody={view.custody} />
			{/if}
		{/if}
	</aside>

	<footer>
		{#if view.state === 'looked' && looked && !working}
			<p class="quiet">
				Nothing has been changed yet. Afterwards it can be taken back until the next roster.
			</p>
			<form method="post" action="?/giveUp" use:enhance>
				<Button type="submit" kind="ghost" size="small">Give it up</Button>
			</form>
			{#if looked.wrong + looked.partly > 0}
				<Button kind="tertiary" href="/people/rosters/{view.id}/to-mend" download>
					Write out the {count(looked.wrong + looked.partly)}
					{looked.wrong + looked.partly === 1 ? 'line' : 'lines'} as CSV
				</Button>
			{/if}
			<form
				method="post"
				action="?/take"
				class="take"
				use:enhance={() =>
					async ({ update }) => {
						typed = '';
						await update({ reset: false });
					}}
			>
				{#if must}
					<TextInput
						name="typed"
						size="sm"
						labelText="Type {count(all)}"
						inputmode="numeric"
						autocomplete="off"
						bind:value={typed}
					/>
				{/if}
				<Button type="submit" disabled={must && typed.replace(/[\s,]/g, '') !== String(all)}
					>{button}</Button
				>
			</form>
		{:else if view.state === 'taken' && view.canGoBack}
			<p class="quiet">
				Until the next roster of this source comes in, this one can be taken back.
			</p>
			<form method="post" action="?/back" use:enhance>
				<Button type="submit" kind="tertiary">Take it back</Button>
			</form>
			<Button href="/people">To People</Button>
		{:else}
			<p class="quiet">
				{working ? 'Nothing has been changed yet.' : 'There is nothing to do here any more.'}
			</p>
			<Button href="/people/rosters" kind="tertiary">To the rosters</Button>
		{/if}
	</footer>
</div>

<style>
	.sheet {
		display: grid;
		grid-template-columns: 296px minmax(0, 1fr) 296px;
		grid-template-rows: minmax(0, 1fr) auto;
		height: 100%;
	}
	.file,
	aside {
		padding: 14px 20px;
		overflow: auto;
		min-height: 0;
	}
	aside {
		border-inline-start: 1px solid var(--line);
		display: grid;
		gap: 8px;
		align-content: start;
	}
	aside h2:not(:first-child) {
		margin-top: 12px;
	}
	.file {
		border-inline-end: 1px solid var(--line);
		display: grid;
		gap: 6px;
		align-content: start;
	}
	.changes {
		background: var(--sheet);
		padding: 14px 24px;
		overflow: auto;
		min-height: 0;
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
	.numbers {
		display: grid;
		grid-template-columns: repeat(4, minmax(0, 1fr));
		border: 1px solid var(--line);
	}
	.numbers button {
		display: grid;
		text-align: start;
		padding: 8px 14px;
		background: none;
		border: 0;
		border-inline-end: 1px solid var(--line);
		font: inherit;
		color: inherit;
		cursor: pointer;
	}
	.numbers button:last-child {
		border: 0;
	}
	.numbers b {
		font-size: 28px;
		line-height: 1.15;
	}
	.numbers .bad {
		color: var(--fail);
	}
	.numbers [aria-pressed='true'],
	.tabs [aria-pressed='true'] {
		box-shadow: inset 0 -2px 0 var(--action);
	}
	.tabs {
		display: flex;
		flex-wrap: wrap;
	}
	.tabs button {
		font: inherit;
		font-size: 13px;
		padding: 5px 11px;
		min-height: 28px;
		background: none;
		border: 1px solid var(--line);
		margin-inline-end: -1px;
		cursor: pointer;
		color: inherit;
	}
	.tabs [aria-pressed='true'] {
		font-weight: 650;
	}
	footer {
		grid-column: 1 / 4;
		border-top: 1px solid var(--line);
		background: var(--wash);
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 8px 12px;
		padding: 9px 20px;
	}
	footer p {
		flex: 1 1 260px;
	}
	.take {
		display: flex;
		align-items: flex-end;
		gap: 10px;
	}
	@media (max-width: 1000px), (max-height: 600px) {
		.sheet {
			grid-template-rows: none;
			height: auto;
			min-height: 100%;
		}
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
		.sheet {
			grid-template-columns: minmax(0, 1fr);
		}
		footer {
			grid-column: 1;
		}
		.file,
		aside {
			border: 0;
			border-bottom: 1px solid var(--line);
		}
	}
</style>
