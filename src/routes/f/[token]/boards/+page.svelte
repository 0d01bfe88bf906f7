<script lang="ts">
	import { enhance } from '$app/forms';
	import { page } from '$app/state';
	import { boardPhrases } from '$lib/core/copy/board-phrases';
	import { languageDirection } from '$lib/core/copy/direction';
	import { fillPhrase, pageLanguage } from '$lib/core/copy/phrases';
	import Board from '$lib/ui/boards/Board.svelte';
	import { sayRead } from '$lib/ui/boards/say-read';
	import FamilyHead from '$lib/ui/family/FamilyHead.svelte';
	import { readerTimes } from '$lib/ui/parts/reader-when';

	/** The boards of a family’s students, one below the other. */
	let { data, form } = $props();
	const b = $derived(data.boards);
	const language = $derived(pageLanguage(b.language));
	const words = $derived(boardPhrases(language));
	const when = $derived(readerTimes(b).when);
	const filled = $derived(
		b.boards.filter((x) => x.pinned.length + x.front.length + x.earlier.length > 0)
	);
	const empty = $derived(b.boards.filter((x) => !filled.includes(x)));
	const own = $derived(`/f/${page.params.token}`);
	/** Of a term that is over nobody asks any more who has read what. */
	const shown = $derived(sayRead(`${own}/boards/read`));
</script>

<svelte:head><title>{words.boards} · {b.district}</title></svelte:head>

<div class="own-page boards" lang={language} dir={languageDirection(language)}>
	<FamilyHead district={b.district} links={[{ href: own, text: words.back }]}>
		<h1>{words.boards}</h1>
	</FamilyHead>
	<main>
		{#if b.termId !== null}
			<p>
				<b>{b.terms.find((t) => t.id === b.termId)?.name ?? ''}</b> ·
				<a href="?">{words.nowRunning}</a>
			</p>
		{/if}
		{#if form && 'why' in form}<p class="fail" role="alert">{form.why}</p>{/if}
		{#each filled as board (board.key)}
			<Board
				{board}
				{words}
				{when}
				asks={data.asks}
				{...b.termId === null ? { shown } : {}}
				file={(id) => `${own}/file/${id}`}
				whole={(id) => `?${b.termId === null ? '' : `term=${b.termId}&`}post=${id}`}
			/>
		{/each}
		{#if filled.length === 0}
			<p class="quiet">{words.empty}</p>
		{:else if empty.length > 0}
			<p class="quiet small">
				{fillPhrase(words.emptyOn, { names: empty.map((e) => e.name).join(', ') })}
			</p>
		{/if}
		{#if b.termId === null && b.boards.length > 0}
			<details class="small follow" open={form !== null && 'followed' in form}>
				<summary>{words.follow}</summary>
				<p>{words.followSays}</p>
				<ul>
					{#each b.boards as board (board.key)}
						{@const path = data.followed[board.key]}
						<li>
							<b><bdi>{board.name}</bdi></b>
							<form method="post" action="?/follow" use:enhance>
								<input type="hidden" name="board" value={board.key} />
								<button
									class="plain"
									name="follows"
									value={path ? 'no' : 'yes'}
									aria-label="{path ? words.endFollow : words.makeFollow}: {board.name}"
									>{path ? words.endFollow : words.makeFollow}</button
								>
							</form>
							{#if path}
								<dl>
									<dt>{words.feed}</dt>
									<dd dir="ltr"><code>{data.publicUrl}{path}/news.atom</code></dd>
									<dt>{words.calendar}</dt>
									<dd dir="ltr"><code>{data.publicUrl}{path}/calendar.ics</code></dd>
								</dl>
							{/if}
						</li>
					{/each}
				</ul>
			</details>
		{/if}
		{#if b.terms.length > 0}
			<nav aria-label={words.termsOver}>
				<b>{words.termsOver}</b>
				{#each b.terms as term (term.id)}
					<a href="?term={term.id}" aria-current={term.id === b.termId ? 'page' : undefined}
						>{term.name}</a
					>
				{/each}
			</nav>
		{/if}
	</main>
</div>

<style>
	.boards {
		line-height: 1.45;
		padding-bottom: 40px;
	}
	h1 {
		font-size: 17px;
	}
	main {
		padding: 14px;
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 26px;
	}
	.follow ul {
		display: grid;
		gap: 12px;
		margin-top: 10px;
	}
	.follow li > :global(form) {
		display: inline;
		margin-inline-start: 10px;
	}
	.follow summary {
		cursor: pointer;
		color: var(--action);
	}
	.follow code {
		overflow-wrap: anywhere;
	}
</style>
