<script lang="ts">
	import { goto, invalidateAll } from '$app/navigation';
	import { navigating, page } from '$app/state';
	import { bench } from '$lib/ui/parts/bench.svelte';
	import LineEnded from '$lib/ui/parts/LineEnded.svelte';
	import { untilEnded } from '$lib/ui/parts/until-ended';
	import TypedSearch from '$lib/ui/parts/TypedSearch.svelte';
	import { postJson } from '$lib/ui/parts/post-json';
	import AlikeRow from '$lib/ui/replies/AlikeRow.svelte';
	import AsideField from '$lib/ui/replies/AsideField.svelte';
	import HeadTag from '$lib/ui/replies/HeadTag.svelte';
	import OpenTalk from '$lib/ui/replies/OpenTalk.svelte';
	import ShelfColumn from '$lib/ui/replies/ShelfColumn.svelte';
	import SlipLine from '$lib/ui/replies/SlipLine.svelte';
	import StaffLetters from '$lib/ui/replies/StaffLetters.svelte';
	import { fromHref, openHref } from '$lib/ui/replies/look';

	/** What came back from families, under what it answers. */
	let { data } = $props();
	const view = $derived(data.view);
	const look = $derived(data.look);
	const opened = $derived(data.opened);
	/** The slip that is put aside without being opened. */
	let asideOf = $state<number | null>(null);
	let why = $state('');
	const n = (count: number) => count.toLocaleString('en');
	const title = $derived.by(() => {
		const { counts } = view;
		if (look.person !== null) return 'What they wrote, and what they were answered';
		if (look.search.trim()) return `Answers with “${look.search.trim()}”`;
		switch (view.shelf) {
			case 'waiting':
				return counts.waiting === 0
					? 'Nobody waits for an answer'
					: `${n(counts.waiting)} ${counts.waiting === 1 ? 'conversation waits' : 'conversations wait'} for an answer`;
			case 'aside':
				return `${n(counts.aside)} put aside`;
			case 'settled':
				return `${n(counts.settled)} settled`;
			case 'doubtful':
				return `${n(counts.doubtful)} perhaps by machines`;
		}
	});
	const narrowed = $derived(
		[
			look.section === null
				? ''
				: (view.counts.sections.find((s) => s.id === look.section)?.name ?? 'one section'),
			look.person === null ? '' : 'all with one person',
			look.way ?? '',
			look.overDay ? 'over a day' : '',
			look.alike === null ? '' : 'those that say the same',
			look.dispatch === null || look.alike !== null ? '' : 'one dispatch'
		].filter(Boolean)
	);
	const listed = $derived(view.heads.flatMap((h) => h.slips.map((s) => s.id)));
	const search = (words: string) =>
		goto(words ? `/replies?search=${encodeURIComponent(words)}` : '/replies', {
			keepFocus: true,
			replaceState: true
		});
	// What is said comes by itself; whoever has a conversation open is there for its family.
	const openId = $derived(opened?.id ?? null);
	let endedAt = $state<number | null>(null);
	$effect(() => {
		endedAt = null;
		const lines = new EventSource(`/replies/live${openId === null ? '' : `?open=${openId}`}`);
		let timer: ReturnType<typeof setTimeout> | undefined;
		lines.addEventListener('change', () => {
			// Several at once are one look.
			clearTimeout(timer);
			timer = setTimeout(
				// Whoever is on the way to another page must not be held here by it.
				() => void (navigating.to === null && invalidateAll()),
				openId === null ? 800 : 120
			);
		});
		untilEnded(lines, () => (endedAt = bench.now));
		return () => {
			clearTimeout(timer);
			lines.close();
		};
	});
	async function putAside(id: number, until: number) {
		why = (await postJson(`/replies/${id}`, { act: 'aside', until })).why;
		asideOf = null;
		await invalidateAll();
	}
</script>

<svelte:head><title>Replies · Idle Courier</title></svelte:head>

{#snippet talk()}
	{#if opened}
		<OpenTalk
			talk={opened}
			now={view.now}
			zone={view.zone}
			userId={data.userId}
			translator={data.translator}
			fileLimit={data.fileLimit}
			mayAnswer={data.frame!.mayAnswer}
			there={data.there}
		/>
	{/if}
{/snippet}

<div class="replies">
	<ShelfColumn {view} />
	<div class="list">
		<div class="page-head">
			<div>
				<h1>{title}</h1>
				{#if narrowed.length > 0}
					<p class="quiet">
						{narrowed.join(', ')} · <a href="/replies?shelf={view.shelf}">all of them</a>
					</p>
				{/if}
			</div>
			<div class="find">
				<TypedSearch
					label="Find in all answers"
					placeholder="Find in all answers"
					value={look.search}
					onsearch={search}
				/>
			</div>
		</div>
		<LineEnded at={endedAt} zone={view.zone} />
		{#if data.missing}
			<p class="fail" role="alert">
				This conversation is not here, or is not yours to see. It may have been taken back.
			</p>
		{/if}
		{#if why}<p class="fail" role="alert">{why}</p>{/if}
		{#if opened && !listed.includes(opened.id)}
			<section class="alone" aria-label="The open conversation">
				<p class="small"><a href={openHref(page.url.searchParams, null)}>Shut</a></p>
				{@render talk()}
			</section>
		{/if}
		{#each view.heads as head (head.key)}
			<HeadTag {head} now={view.now} zone={view.zone}>
				{#each head.slips as slip (slip.id)}
					<div class="one">
						<SlipLine
							{slip}
							shelf={view.shelf}
							open={opened?.id === slip.id}
							now={view.now}
							zone={view.zone}
							onaside={() => (asideOf = asideOf === slip.id ? null : slip.id)}
						/>
						{#if asideOf === slip.id}
							<div class="within">
								<AsideField
									now={view.now}
									zone={view.zone}
									onaside={(until) => putAside(slip.id, until)}
								/>
							</div>
						{/if}
						{#if opened?.id === slip.id}{@render talk()}{/if}
					</div>
				{/each}
				{#each head.alike as line (line.likeness)}
					<AlikeRow {line} dispatchId={head.dispatchId!} mayAnswer={data.frame!.mayAnswer} />
				{/each}
			</HeadTag>
		{:else}
			<p class="quiet none">
				{#if look.search.trim()}No answer has these words, of those that you may see.
				{:else if view.shelf === 'waiting' && narrowed.length === 0}
					Everything is answered, put aside or settled. What families send back by email, text or on
					their page stands here.
				{:else}Nothing here.{/if}
			</p>
		{/each}
		{#if view.next !== null}<p>
				<a href={fromHref(page.url.searchParams, view.next)}>The next ones</a>
			</p>{/if}
		<StaffLetters letters={view.letters} now={view.now} zone={view.zone} />
	</div>
</div>

<style>
	.replies {
		display: grid;
		grid-template-columns: 236px minmax(0, 1fr);
		min-height: 100%;
	}
	.list {
		display: grid;
		gap: 12px;
		align-content: start;
		padding: 14px 22px 40px;
	}
	.find {
		flex: 0 1 280px;
	}
	.alone {
		background: var(--sheet);
		border: 1px solid var(--line);
		padding-top: 8px;
	}
	.alone > p {
		padding: 0 14px;
	}
	.within {
		padding: 0 14px 8px 36px;
	}
	.none {
		padding: 16px 0;
	}
	@media (max-width: 900px) {
		.replies {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
