<script lang="ts">
	import { goto } from '$app/navigation';
	import Choose from '$lib/ui/parts/Choose.svelte';
	import Pages from '$lib/ui/parts/Pages.svelte';
	import { filterQuery } from '$lib/ui/parts/filter-query';
	import LogLines from '$lib/ui/settings/LogLines.svelte';

	/** What was done here: by whom, when and from which session. */
	let { data } = $props();
	const perPage = 50;
	const plain = { by: '', kind: '', from: '', until: '', page: 1 } as const;
	const show = (change: Partial<typeof data.filter>) =>
		goto(filterQuery({ ...data.filter, page: 1, ...change }, plain), {
			keepFocus: true,
			noScroll: true
		});
	const people = $derived([
		{ value: '', text: 'everybody' },
		{ value: '0', text: 'by itself' },
		...data.log.people.map((p) => ({ value: String(p.id), text: p.name }))
	]);
	const kinds = $derived([{ value: '' as const, text: 'everything' }, ...data.kinds]);
	const filtered = $derived(
		data.filter.by !== '' ||
			data.filter.kind !== '' ||
			data.filter.from !== '' ||
			data.filter.until !== ''
	);
</script>

<svelte:head><title>What was done · Idle Courier</title></svelte:head>

<h1>What was done</h1>
<p class="quiet about">
	Every change that somebody made and every decision made by itself, the newest first. Lines are
	only added: each is bound to the one before it, and <span class="mono">npm run check-log</span> shows
	where one was changed or is missing. No words of letters stand here.
</p>
<div class="filter-bar">
	<Choose
		inline
		label="By"
		options={people}
		value={String(data.filter.by)}
		onchoose={(by) => show({ by: by === '' ? '' : Number(by) })}
	/>
	<Choose
		inline
		label="What"
		options={kinds}
		value={data.filter.kind}
		onchoose={(kind) => show({ kind })}
	/>
	<label class="small"
		>From <input
			type="date"
			value={data.filter.from}
			onchange={(e) => show({ from: e.currentTarget.value })}
		/></label
	>
	<label class="small"
		>until <input
			type="date"
			value={data.filter.until}
			onchange={(e) => show({ until: e.currentTarget.value })}
		/></label
	>
	{#if filtered}<a class="small" href="/settings/log">Show everything</a>{/if}
</div>
<p role="status">
	{data.log.found.toLocaleString('en')}
	{data.log.found === 1 ? 'line' : 'lines'}
</p>
{#if data.log.lines.length === 0}
	<p class="quiet">
		{filtered ? 'Nothing of this kind was done then.' : 'Nothing has been done yet.'}
	</p>
{:else}
	<LogLines lines={data.log.lines} zone={data.frame!.zone} />
	<Pages
		all={data.log.found}
		{perPage}
		page={data.log.page}
		what="Lines"
		onturn={(page) => show({ page })}
	/>
{/if}

<style>
	.about {
		max-width: 76ch;
	}
	.filter-bar {
		display: flex;
		flex-wrap: wrap;
		gap: 10px 18px;
		align-items: center;
		margin: 14px 0 8px;
	}
	input {
		font: inherit;
		padding: 4px 8px;
		border: 1px solid var(--line-strong);
		border-radius: var(--corner);
		background: var(--sheet);
		color: var(--ink);
	}
</style>
