<script lang="ts">
	import { nearTime } from '../parts/clock';
	import { onMount } from 'svelte';

	import { Shelf, type KeptSheet } from '../write/sheet/shelf';
	import UnsavedSheets from '../write/sheet/UnsavedSheets.svelte';
	import type { WeekView } from '$lib/server/desk/week/types';

	/** Waiting for you: drafts, addresses that do not work, dispatches not read for everyone. */
	let {
		waiting,
		userId,
		now,
		zone
	}: { waiting: WeekView['waiting']; userId: number; now: number; zone: string } = $props();

	/** What lies in this browser alone. */
	let unsaved = $state.raw<readonly KeptSheet[]>([]);
	onMount(async () => {
		const shelf = new Shelf(userId);
		await shelf.recover();
		unsaved = shelf.unsaved();
	});
	const broken = $derived(waiting.mend.email + waiting.mend.text);
	const open = $derived(waiting.notCovered.reduce((sum, l) => sum + l.students - l.covered, 0));
	const day = 86_400_000;
	/** Those near their time first, then the newest. */
	const drafts = $derived(
		[...waiting.drafts].sort(
			(a, b) => (a.intendedAt ?? Infinity) - (b.intendedAt ?? Infinity) || b.changedAt - a.changedAt
		)
	);
	const markers = $derived(
		waiting.standing.flatMap((line) =>
			line.waitsFor.kind === 'marker' ? [{ line, name: line.waitsFor.name }] : []
		)
	);
	const feeds = $derived(
		waiting.standing.flatMap((line) =>
			line.waitsFor.kind === 'feed' ? [{ line, feed: line.waitsFor }] : []
		)
	);
	const nothing = $derived(
		waiting.drafts.length === 0 &&
			waiting.answers.length === 0 &&
			waiting.replies.waiting === 0 &&
			broken === 0 &&
			waiting.rosters.length === 0 &&
			waiting.standing.length === 0 &&
			waiting.notCovered.length === 0
	);
</script>

<aside aria-labelledby="waiting">
	<h2 id="waiting">Waiting for you</h2>
	{#if nothing}<p class="quiet small">
			Nothing. Everything sent in the last week was read for every student.
		</p>{/if}
	{#if waiting.answers.length > 0}
		<section>
			<h3>
				<span>Held up, to be answered</span><span class="heed">{waiting.answers.length}</span>
			</h3>
			{#each waiting.answers as line (line.id)}
				<p>
					<a href="/reach/{line.id}" dir="auto">{line.subject}</a>
					<span class="quiet">{nearTime(line.leavesAt!, now, zone)}</span><br />
					{line.waits?.replace(/\. .*$/s, '.')}
				</p>
			{/each}
		</section>
	{/if}
	{#if waiting.replies.waiting > 0}
		<section>
			<h3>
				<a href="/replies">Conversations that wait</a><span class="heed"
					>{waiting.replies.waiting.toLocaleString('en')}</span
				>
			</h3>
			<p>
				{#if waiting.replies.overDay > 0}<a href="/replies?overDay=1"
						>{waiting.replies.overDay.toLocaleString('en')} for over a day</a
					>,{/if}
				the oldest since {nearTime(waiting.replies.oldest!, now, zone)}
			</p>
		</section>
	{/if}
	{#if unsaved.length > 0}
		<section><UnsavedSheets sheets={unsaved} /></section>
	{/if}
	{#if drafts.length > 0}
		<section>
			<h3><a href="/week/list?state=draft">Drafts</a><span>{drafts.length}</span></h3>
			{#each drafts.slice(0, 5) as draft (draft.id)}
				<p>
					<a href="/write?draft={draft.id}" dir="auto">{draft.subject || 'No subject yet'}</a>
					<span
						class="quiet"
						class:heed={draft.intendedAt !== null && draft.intendedAt < now + day}
					>
						{draft.intendedAt === null
							? nearTime(draft.changedAt, now, zone)
							: `meant for ${nearTime(draft.intendedAt, now, zone)}`}
					</span>
				</p>
			{/each}
		</section>
	{/if}
	{#if markers.length > 0}
		<section>
			<h3><span>When a marker is gained</span><span>{markers.length}</span></h3>
			{#each markers as { line, name } (line.id)}
				<p>
					<a href="/week/standing/{line.id}" dir="auto">{line.subject}</a>
					<span class="quiet">until {nearTime(line.endsAt, now, zone)}</span><br />
					<span dir="auto">{name}:</span>
					{#if line.waits}<span class="heed">{line.waits}</span>
					{:else}
						left for {line.students.toLocaleString('en')}, {line.held > 0
							? `held for ${line.held.toLocaleString('en')}, `
							: ''}up to {line.expected.students.toLocaleString('en')} more
					{/if}
				</p>
			{/each}
		</section>
	{/if}
	{#if feeds.length > 0}
		<section>
			<h3><span>From feeds</span><span>{feeds.length}</span></h3>
			{#each feeds as { line, feed } (line.id)}
				<p>
					<a href="/week/standing/{line.id}" dir="auto">{feed.title || line.subject}</a>
					{#if line.waits}<br /><span class="heed">{line.waits}</span>
					{:else if feed.failingSince !== null}
						<br /><span class="heed"
							>cannot be read since {nearTime(feed.failingSince, now, zone)}</span
						>
					{:else if feed.nextAt !== null}
						<span class="quiet">asked {nearTime(feed.nextAt, now, zone)}</span>
					{/if}
				</p>
			{/each}
		</section>
	{/if}
	{#if waiting.rosters.length > 0}
		<section>
			<h3>
				<a href="/people/rosters">Rosters</a><span class="heed">{waiting.rosters.length}</span>
			</h3>
			{#each waiting.rosters.slice(0, 4) as file (file.id)}
				<p>
					<a href="/people/rosters/{file.id}" dir="auto">{file.name}</a>
					<span class={file.state === 'refused' ? 'fail' : 'quiet'}
						>{file.state === 'refused' ? 'cannot be read' : nearTime(file.cameAt, now, zone)}</span
					>
				</p>
			{/each}
		</section>
	{/if}
	{#if broken > 0}
		<section>
			<h3><a href="/people/mend">Addresses to mend</a><span class="fail">{broken}</span></h3>
			<p>
				{waiting.mend.email}
				{waiting.mend.email === 1 ? 'mailbox' : 'mailboxes'},
				{waiting.mend.text}
				{waiting.mend.text === 1 ? 'number' : 'numbers'} do not work.
			</p>
		</section>
	{/if}
	{#if waiting.notCovered.length > 0}
		<section>
			<h3><span>Students not covered</span><span class="heed">{open}</span></h3>
			{#each waiting.notCovered as line (line.id)}
				<p>
					<a href="/reach/{line.id}?state=not-covered" dir="auto">{line.subject}</a>
					<span class="quiet">{line.students - line.covered} of {line.students}</span>
				</p>
			{/each}
			<p class="quiet">The last five of this week and the one before.</p>
		</section>
	{/if}
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
	h2 + section {
		border: 0;
	}
	h3 {
		display: flex;
		justify-content: space-between;
		gap: 8px;
	}
	h3 a {
		color: inherit;
	}
	p {
		font-size: 12.5px;
		margin-top: 4px;
	}
	p a {
		color: var(--ink);
	}
	p .quiet {
		white-space: nowrap;
	}
</style>
