<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import { dayName } from '$lib/core/time/zone';
	import CodeForm from '$lib/ui/joining/CodeForm.svelte';
	import InviteForm from '$lib/ui/joining/InviteForm.svelte';
	import Joiners from '$lib/ui/joining/Joiners.svelte';

	/** An open group: its code and the ways in, who is in by it, and inviting others. */
	let { data, form } = $props();
	const j = $derived(data.joining);
	const { zone, now } = $derived(data.frame!);
	const correct = $derived(data.mayCorrect);
	const here = $derived(`/people/groups/${j.id}`);
	const whyOf = (about: string) => (form?.about === about ? form.why : '');
	const others = $derived(
		(
			[
				['asked', 'asked and not answered yet'],
				['invited', 'invited'],
				['left', 'left'],
				['removed', 'taken out']
			] as const
		).flatMap(([state, words]) => (j.counts[state] > 0 ? [`${j.counts[state]} ${words}`] : []))
	);
</script>

<svelte:head><title>{j.name} · Joining · Idle Courier</title></svelte:head>

<div class="page">
	<div class="page-head">
		<header>
			<p class="quiet">
				<a href="/people">People</a> · <a href="/people/groups">Groups</a> ·
				<a href={here} dir="auto">{j.name}</a>
			</p>
			<h1><span dir="auto">{j.name}</span>: who joined</h1>
		</header>
		{#if j.counts.in > 0 && j.goneAt === null}
			<Button size="small" href="/write?group={j.id}">Write to them</Button>
		{/if}
	</div>
	{#if form?.said}<p class="good" role="status">{form.said}</p>{/if}
	{#if whyOf('list')}<p class="fail" role="alert">{whyOf('list')}</p>{/if}
	<p class="number">
		<b>{j.counts.in.toLocaleString('en')}</b>
		{j.counts.in === 1 ? 'is' : 'are'} in by the code{#if others.length > 0}<span class="quiet"
				>; {others.join(', ')}</span
			>{/if}
	</p>
	<div class="with-aside" style:--aside="264px">
		<div class="block">
			{#if j.lines.length === 0}
				<p class="quiet">
					{j.ways
						? 'Nobody has asked yet. Hang the sheet up, show the screen, or invite people by mail.'
						: 'The group is not open: nobody can join it by a code. Open it here beside.'}
				</p>
			{:else}<Joiners lines={j.lines} {zone} {correct} />{/if}
		</div>
		<aside class="block">
			{#if j.ways}
				<section>
					<h2>{j.over ? 'The code lets nobody in any more' : 'The ways in'}</h2>
					<p class="code">{j.ways.code}</p>
					<dl class="small">
						{#if j.ways.number !== null}
							<dt>Text the code to</dt>
							<dd>{j.ways.number}</dd>
						{/if}
						<dt>Write to</dt>
						<dd>{j.ways.mail}</dd>
						<dt>Open</dt>
						<dd><a href={j.ways.link}>{j.ways.link}</a></dd>
						{#if j.ways.until}
							<dt>{j.over ? 'It ended' : 'Last day'}</dt>
							<dd>{dayName(Date.parse(j.ways.until), 'UTC', now)}</dd>
						{/if}
					</dl>
					{#if !j.over}
						<p class="small links">
							<a href="{here}/joining/sheet?paper=letter" target="_blank">Sheet, Letter</a>
							<a href="{here}/joining/sheet?paper=a4" target="_blank">Sheet, A4</a>
							<a href="{here}/joining/screen">Full screen</a>
						</p>
					{/if}
				</section>
			{/if}
			{#if correct}
				<details open={!j.ways || j.over || whyOf('open') !== ''}>
					<summary>{j.ways ? 'Another code or day' : 'Open the group'}</summary>
					{#key j.ways?.code}
						<CodeForm
							groupId={j.id}
							code={j.ways?.code ?? ''}
							until={j.ways?.until ?? ''}
							why={whyOf('open')}
						/>
					{/key}
					{#if j.ways}
						<form method="post" action="?/close" use:enhance>
							<Button type="submit" size="small" kind="danger-ghost">Close it to others</Button>
						</form>
					{/if}
				</details>
				{#if j.ways && !j.over}
					<section>
						<h2>Invite by mail</h2>
						<InviteForm
							languages={j.languages}
							language={j.language}
							invited={form?.invited ?? null}
							why={whyOf('invite')}
						/>
					</section>
				{/if}
			{/if}
			{#if j.counts.in > 0}
				<p class="small">
					<a href="{here}/joining/list" download>Whoever is in, as a list (CSV)</a>
				</p>
			{/if}
		</aside>
	</div>
</div>

<style>
	.block,
	section,
	details {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 10px;
	}
	aside :global(form) {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
		gap: 10px;
	}
	aside :global(form .bx--btn) {
		justify-self: start;
	}
	details > :global(*) {
		margin-bottom: 10px;
	}
	.number b {
		font-size: 22px;
	}
	.code {
		font-size: 34px;
		font-weight: 700;
		line-height: 1.1;
		overflow-wrap: anywhere;
	}
	dl {
		display: grid;
		grid-template-columns: minmax(0, 1fr);
	}
	dd {
		margin-bottom: 6px;
	}
	dt {
		color: var(--quiet);
	}
	dd {
		overflow-wrap: anywhere;
	}
	.links {
		display: flex;
		flex-wrap: wrap;
		gap: 4px 14px;
	}
	summary {
		cursor: pointer;
	}
</style>
