<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import { boardPhrases } from '$lib/core/copy/board-phrases';
	import { count } from '$lib/core/copy/count';
	import Board from '$lib/ui/boards/Board.svelte';
	import { nearTime } from '$lib/ui/parts/clock';
	import type { Post } from '$lib/server/desk/boards/types';

	/** A board as its staff see it: what stands there, what will, who reads it, and who may open it. */
	let { data, form } = $props();
	const words = boardPhrases('en');
	const { zone, now } = $derived(data.frame!);
	const when = (at: number) => nearTime(at, now, zone);
	const facts = $derived(new Map(data.posts.map((p) => [p.dispatchId, p])));
	const many = (n: number, one: string, more: string) => `${count(n)} ${n === 1 ? one : more}`;
	const [kind, id] = $derived(data.board.key.split('-') as [string, string?]);
	const back = $derived(
		kind === 'section'
			? { href: `/people/sections/${id}`, text: 'Section' }
			: kind === 'group'
				? { href: `/people/groups/${id}`, text: 'Group' }
				: { href: '/people/boards', text: 'Boards' }
	);
</script>

<svelte:head><title>Board of {data.board.name} · People · Idle Courier</title></svelte:head>

{#snippet deeds(p: Post)}
	{@const f = facts.get(p.dispatchId)}
	{#if f}
		<div class="deeds small">
			<span class="quiet"
				>{f.readers === 0
					? 'nobody has read it here yet'
					: `read here by ${many(f.readers, 'person', 'people')}`}</span
			>
			{#if f.seen}<a href="/reach/{p.dispatchId}">in Reach</a>{/if}
			{#if f.mine}
				<a href="/reach/{p.dispatchId}/board">change what it says here</a>
				<form method="post" action="?/pin" use:enhance>
					<input type="hidden" name="post" value={p.dispatchId} />
					<button
						class="plain"
						name="pinned"
						value={p.pinned ? 'no' : 'yes'}
						aria-label="{p.pinned ? 'Pin no more' : 'Pin'}: {p.subject}"
						>{p.pinned ? 'pin no more' : 'pin'}</button
					>
				</form>
				<form method="post" action="?/off" use:enhance>
					<input type="hidden" name="post" value={p.dispatchId} />
					<button class="plain" aria-label="Take off: {p.subject}">take off</button>
				</form>
			{/if}
		</div>
	{/if}
{/snippet}

<div class="page">
	<div class="page-head">
		<header>
			<p class="quiet">
				<a href="/people">People</a> ·
				<a href={back.href}>{back.text}</a> · Board
			</p>
			<h1 dir="auto">{data.board.name}</h1>
			<p class="quiet">
				{[
					data.board.of,
					`${many(data.readers, 'person', 'people')} can read it`,
					data.followers > 0 ? `${many(data.followers, 'follows', 'follow')} it by an address` : ''
				]
					.filter(Boolean)
					.join(' · ')}
			</p>
		</header>
		{#if data.frame!.mayWrite && (kind === 'section' || kind === 'group')}
			<Button size="small" href="/write?{kind}={id}">Write to them</Button>
		{/if}
	</div>
	{#if form && 'said' in form && form.said}<p class="good" role="status">{form.said}</p>{/if}
	{#if form && 'why' in form && form.why}<p class="fail" role="alert">{form.why}</p>{/if}
	<div class="with-aside">
		<div class="shown">
			<Board
				board={data.board}
				{words}
				{when}
				{deeds}
				level={0}
				file={(file) => `/people/boards/${data.board.key}/file/${file}`}
				whole={(post) => `?post=${post}`}
			/>
			<p class="quiet small">
				Families see it with their own students’ names; here stands what is the same for all.
			</p>
		</div>
		<aside>
			<section>
				<h2>For anybody who has the link</h2>
				{#if !data.open.allowed}
					<p class="quiet">
						This board is for the families of the place alone.
						{#if data.open.maySet}
							<a href="/settings/chapter/boards">Settings · Boards</a> say so.
						{/if}
					</p>
				{:else}
					{#if data.open.path}
						<p><a href={data.open.path}><code>{data.publicUrl}{data.open.path}</code></a></p>
						<p class="quiet small">
							Made by {data.open.madeBy}, {when(data.open.madeAt!)}. No names of people and no
							private files stand there.
						</p>
						<p class="small">
							<a href="{data.open.path}/news.atom">News (Atom)</a> ·
							<a href="{data.open.path}/calendar.ics">Calendar (iCalendar)</a>
						</p>
					{:else}
						<p class="quiet">There is no link yet: only families see this board.</p>
					{/if}
					{#if data.open.mayMake}
						<form method="post" action="?/link" use:enhance class="act">
							{#if data.open.path}
								<Button size="small" kind="tertiary" type="submit" name="open" value="yes"
									>Make another, end this one</Button
								>
								<button class="plain" name="open" value="no">end it</button>
							{:else}
								<Button size="small" kind="tertiary" type="submit" name="open" value="yes"
									>Make a link</Button
								>
							{/if}
						</form>
					{/if}
				{/if}
			</section>
			{#if data.coming.length > 0}
				<section>
					<h2>Will stand here</h2>
					<ul>
						{#each data.coming as c (c.dispatchId)}
							<li>
								{#if !c.seen}<span dir="auto">{c.subject}</span>
								{:else}<a href="/reach/{c.dispatchId}" dir="auto">{c.subject}</a>{/if}
								<span class="quiet small">{when(c.from)}</span>
							</li>
						{/each}
					</ul>
				</section>
			{/if}
		</aside>
	</div>
</div>

<style>
	.shown {
		max-width: 640px;
		display: grid;
		gap: 12px;
	}
	.deeds {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 16px;
		align-items: baseline;
		border-top: 1px dashed var(--dash);
		padding-top: 8px;
	}
	aside {
		display: grid;
		gap: 22px;
		align-content: start;
	}
	section {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 8px;
	}
	code {
		overflow-wrap: anywhere;
	}
	.act {
		display: flex;
		flex-wrap: wrap;
		gap: 8px 14px;
		align-items: center;
	}
	li .small {
		margin-inline-start: 8px;
	}
</style>
