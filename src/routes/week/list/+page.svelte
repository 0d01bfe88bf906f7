<script lang="ts">
	import { goto } from '$app/navigation';
	import { page } from '$app/state';
	import { Button } from 'carbon-components-svelte';
	import { enhance } from '$app/forms';
	import { dayName } from '$lib/core/time/zone';
	import { dayTime } from '$lib/ui/parts/clock';
	import WayMark from '$lib/ui/parts/WayMark.svelte';
	import { standing } from '$lib/ui/week/standing';
	import ViewLinks from '$lib/ui/week/ViewLinks.svelte';
	import TypedSearch from '$lib/ui/parts/TypedSearch.svelte';
	import Pages from '$lib/ui/parts/Pages.svelte';

	let { data, form } = $props();
	const words = {
		all: 'All',
		draft: 'Drafts',
		scheduled: 'Scheduled',
		sent: 'Sent',
		ended: 'Ended'
	};
	const states = ['all', 'draft', 'scheduled', 'sent', 'ended'] as const;
	function go(over: Record<string, string | number>) {
		const query = new URLSearchParams(
			Object.entries({ ...Object.fromEntries(page.url.searchParams), page: 1, ...over }).map(
				([key, value]) => [key, String(value)]
			)
		);
		void goto(`?${query}`, { keepFocus: true, noScroll: true, replaceState: true });
	}
</script>

<svelte:head><title>Drafts, scheduled, sent, ended · Idle Courier</title></svelte:head>

<div class="page">
	<div class="page-head start">
		<h1>List</h1>
		<ViewLinks at="list" />
	</div>
	{#if form?.why}<p class="fail" role="alert">{form.why}</p>{/if}
	{#if form?.calledBack}<p role="status">
			Called back. <a href="/write?draft={form.calledBack}">It is a draft again</a>.
		</p>{/if}
	<div class="filter-bar">
		<TypedSearch
			label="Search"
			placeholder="Subject, words, audience, sender, or a day like march 9"
			value={data.filter.search}
			onsearch={(search) => go({ search })}
		/>
		<nav aria-label="State">
			{#each states as state (state)}
				<button
					class="plain"
					aria-pressed={data.filter.state === state}
					onclick={() => go({ state })}>{words[state]} {data.list.counts[state]}</button
				>
			{/each}
		</nav>
	</div>
	{#if data.list.day}<p class="quiet">
			Read as a day: {dayTime(Date.parse(`${data.list.day}T12:00Z`), 'UTC').split(',')[0]}.
		</p>{/if}
	{#if data.list.lines.length === 0}
		<p>
			{data.filter.search
				? `Nothing with "${data.filter.search}" in its subject, words, audience or sender. Look for fewer words.`
				: 'Nothing here yet.'}
		</p>
	{:else}
		<table class="lines">
			<thead>
				<tr>
					<th scope="col">When</th>
					<th scope="col">Subject</th>
					<th scope="col">To</th>
					<th scope="col">Ways</th>
					<th scope="col">From</th>
					<th scope="col">State</th>
					<th scope="col"><span class="spoken">What to do</span></th>
				</tr>
			</thead>
			<tbody>
				{#each data.list.lines as l (l.id)}
					<tr>
						<td class="mono when"
							>{dayTime(l.leavesAt ?? l.intendedAt ?? l.changedAt, data.zone, data.now)}</td
						>
						<td dir="auto"
							><a href={l.state === 'draft' ? `/write?draft=${l.id}` : `/reach/${l.id}`}
								>{l.subject || 'No subject yet'}</a
							>
							{#if l.following}
								<button class="plain small" onclick={() => go({ round: l.roundId! })}
									>and {l.following.dates}
									{l.following.dates === 1 ? 'date' : 'dates'} more, to {dayName(
										l.following.lastAt,
										data.zone,
										data.now
									)}</button
								>
							{:else if l.roundId !== null}<a class="small" href="/week/round/{l.roundId}"
									>repeating</a
								>{/if}</td
						>
						<td class="to" title={l.audience}>{l.audience}</td>
						<td class="ways"
							>{#each l.ways as way (way)}<WayMark {way} size={16} />{/each}</td
						>
						<td class="one">{l.sender}</td>
						<td class="one" class:heed={l.waits !== null}
							>{l.ended ? 'ended, ' : l.state === 'scheduled' ? 'scheduled, ' : ''}{standing(l)}</td
						>
						<td class="do">
							<form method="POST" use:enhance>
								<input type="hidden" name="id" value={l.id} />
								{#if l.state === 'draft'}
									<a href="/write?draft={l.id}">Continue</a>
									<button class="plain" formaction="?/throwAway">Delete</button>
								{:else if l.state === 'scheduled' && l.mine}
									<button class="plain" formaction="?/cancel">Call back</button>
								{/if}
								<button class="plain" formaction="?/duplicate">Duplicate</button>
							</form>
						</td>
					</tr>
				{/each}
			</tbody>
		</table>
		<Pages
			all={data.list.found}
			perPage={50}
			page={data.list.page}
			what="Dispatches"
			onturn={(page) => go({ page })}
		/>
	{/if}
	{#if data.frame!.mayWrite}<p><Button size="small" href="/write">Write</Button></p>{/if}
</div>

<style>
	.one {
		white-space: nowrap;
	}
	.filter-bar > :global(.bx--search) {
		width: 420px;
	}
	.filter-bar nav {
		display: flex;
		gap: 14px;
	}
	[aria-pressed='true'] {
		font-weight: 600;
		color: var(--ink);
		text-decoration: none;
		box-shadow: inset 0 -2px 0 var(--action);
	}
	.when,
	.ways {
		white-space: nowrap;
	}
	.to {
		max-width: 320px;
		overflow: hidden;
		text-overflow: ellipsis;
		white-space: nowrap;
	}
	.do form {
		display: flex;
		gap: 12px;
		white-space: nowrap;
		justify-content: flex-end;
	}
	@media (max-width: 1000px) {
		.when {
			white-space: normal;
		}
		.to {
			max-width: 150px;
		}
		.do form {
			flex-direction: column;
			gap: 2px;
			align-items: flex-end;
		}
	}
</style>
