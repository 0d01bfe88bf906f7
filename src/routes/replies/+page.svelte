<script lang="ts">
	import { nearTime } from '$lib/core/time/zone';
	import WayMark from '$lib/ui/parts/WayMark.svelte';

	/** What came back from families, and the letters to whoever looks. */
	let { data } = $props();
	const view = $derived(data.view);
	const obeyed = {
		stop: 'Texts to this number are stopped.',
		start: 'Texts to this number go again.',
		help: 'Asked who writes.',
		code: 'Asked to join an open group.',
		join: 'Joined an open group.'
	} as const;
	let open = $state<number | null>(null);
</script>

<svelte:head><title>Replies · Idle Courier</title></svelte:head>

<div class="page">
	<div class="page-head start"><h1>Replies</h1></div>
	<div class="two">
		<section aria-labelledby="from-families">
			<h2 id="from-families">From families</h2>
			<p class="quiet small">
				Answers by email are passed on to whoever sent the dispatch and kept here; texts that phones
				send are kept here. Nothing can be answered from this page yet.
			</p>
			{#if view.replies.length === 0}
				<p class="quiet">Nothing has come back yet.</p>
			{:else}
				<ul>
					{#each view.replies as reply (reply.key)}
						<li class="slip">
							<div class="top">
								<WayMark way={reply.way} size={14} />
								{#if reply.personId !== null}
									<a href="/people/{reply.personId}" dir="auto">{reply.from}</a>
								{:else}<span class="mono">{reply.from}</span>{/if}
								<span class="quiet">{nearTime(reply.at, view.now, view.zone)}</span>
								{#if reply.dispatch}
									<span class="quiet"
										>to <a href="/reach/{reply.dispatch.id}" dir="auto">{reply.dispatch.subject}</a
										></span
									>
								{/if}
							</div>
							<p class="words" dir="auto">{reply.words}</p>
							{#if reply.doubtful}<p class="small heed">A machine may have written this.</p>{/if}
							{#if reply.command}<p class="small heed">{obeyed[reply.command]}</p>{/if}
						</li>
					{/each}
				</ul>
			{/if}
		</section>
		<section aria-labelledby="to-you">
			<h2 id="to-you">Letters to you</h2>
			<p class="quiet small">Reports of what has ended, answers passed on, addresses to mend.</p>
			{#if view.letters.length === 0}
				<p class="quiet">None yet.</p>
			{:else}
				<ul>
					{#each view.letters as letter (letter.id)}
						<li class="slip">
							<button
								class="plain head"
								aria-expanded={open === letter.id}
								onclick={() => (open = open === letter.id ? null : letter.id)}
							>
								<b dir="auto">{letter.subject}</b>
								<span class="quiet">{nearTime(letter.at, view.now, view.zone)}</span>
							</button>
							{#if open === letter.id}
								<!-- Written by us: escaped paragraphs. -->
								<!-- eslint-disable-next-line svelte/no-at-html-tags -->
								<div class="words" dir="auto">{@html letter.html}</div>
								{#if letter.dispatchId !== null}
									<p class="small"><a href="/reach/{letter.dispatchId}">Open it in Reach</a></p>
								{/if}
							{/if}
						</li>
					{/each}
				</ul>
			{/if}
		</section>
	</div>
</div>

<style>
	.two {
		display: grid;
		grid-template-columns: minmax(0, 3fr) minmax(0, 2fr);
		gap: 24px;
		align-items: start;
	}
	ul {
		list-style: none;
		padding: 0;
		margin: 10px 0 0;
		display: grid;
		gap: 8px;
	}
	.slip {
		background: var(--sheet);
		border: 1px solid var(--line);
		border-radius: 2px;
		padding: 8px 12px;
		overflow-wrap: anywhere;
	}
	.top {
		display: flex;
		flex-wrap: wrap;
		align-items: center;
		gap: 2px 10px;
	}
	.words {
		margin: 4px 0 0;
		white-space: pre-line;
	}
	.head {
		display: flex;
		flex-wrap: wrap;
		justify-content: space-between;
		gap: 2px 12px;
		width: 100%;
		text-align: start;
		text-decoration: none;
		color: inherit;
		min-height: 24px;
	}
	@media (max-width: 900px) {
		.two {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
