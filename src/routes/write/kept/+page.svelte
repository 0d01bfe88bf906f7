<script lang="ts">
	import { Button, InlineNotification, Modal, TextInput } from 'carbon-components-svelte';
	import { enhance } from '$app/forms';
	import { nearTime } from '$lib/ui/parts/clock';
	import { bench } from '$lib/ui/parts/bench.svelte';
	import KeptMark from '$lib/ui/write/who/KeptMark.svelte';
	import { fold } from '$lib/core/format/fold';
	import type { KeptLine } from '$lib/server/desk/audience/types';
	import { Search } from 'carbon-components-svelte';

	let { data, form } = $props();
	const zone = $derived(data.frame!.zone);
	let search = $state('');
	let renaming = $state.raw<KeptLine | null>(null);
	let name = $state('');
	let givingUp = $state.raw<KeptLine | null>(null);
	const shown = $derived(
		data.kept.filter((k) =>
			fold(search)
				.split(/\s+/)
				.every((w) => fold(`${k.name} ${k.words}`).includes(w))
		)
	);
	const rules = $derived(data.kept.filter((k) => k.form === 'rule').length);
	const lists = $derived(data.kept.length - rules);
	const since = (k: KeptLine) =>
		k.usedAt > k.madeAt ? 'since it was last used' : 'since it was kept';
	const people = (n: number) => `${n} ${n === 1 ? 'person' : 'people'}`;
</script>

<svelte:head><title>Kept audiences · Write · Idle Courier</title></svelte:head>

<div class="page">
	<p class="quiet"><a href="/write">Write</a> · Kept audiences</p>
	<h1>
		{rules}
		{rules === 1 ? 'rule' : 'rules'} and {lists} fixed {lists === 1 ? 'list' : 'lists'} kept
	</h1>
	{#if form?.why}
		<InlineNotification kind="error" lowContrast hideCloseButton title={form.why} />
	{:else if form?.done}
		<InlineNotification kind="success" lowContrast hideCloseButton title={form.done} />
	{/if}
	{#if data.kept.length === 0}
		<p>
			Nothing is kept yet. Put an audience together in <a href="/write">Write</a> and choose “keep”: as
			a rule that is worked out again each time, or as a fixed list of people.
		</p>
	{:else}
		<div class="filter">
			<Search
				size="sm"
				labelText="Search kept audiences"
				placeholder="Name or words"
				bind:value={search}
			/>
		</div>
		{#if shown.length === 0}<p>None of them fits “{search}”.</p>{/if}
		<ul>
			{#each shown as k (k.id)}
				<li>
					<div class="name">
						<h2 dir="auto">{k.name}</h2>
						<KeptMark form={k.form} />
					</div>
					<div class="what">
						<p dir="auto">{k.form === 'list' ? 'Kept from: ' : ''}{k.words}</p>
						{#if k.missing > 0}
							<p class="heed">
								{k.missing}
								{k.missing === 1 ? 'thing it names is' : 'things it names are'} no longer there. Use it
								and take {k.missing === 1 ? 'it' : 'them'} out, then keep it anew.
							</p>
						{/if}
						<p class="small quiet">
							By {k.madeBy}, {nearTime(k.madeAt, bench.now, zone)}{k.usedAt > k.madeAt
								? `; last used ${nearTime(k.usedAt, bench.now, zone)}`
								: '; not used yet'}
						</p>
						{#if data.open === k.id && data.change}
							<div class="change">
								{#if data.change.cameIn.length > 0}
									<p><b>Came in:</b> <span dir="auto">{data.change.cameIn.join(', ')}</span></p>
								{/if}
								{#if data.change.droppedOut.length > 0}
									<p>
										<b>Dropped out:</b> <span dir="auto">{data.change.droppedOut.join(', ')}</span>
									</p>
								{/if}
							</div>
						{/if}
					</div>
					<div class="today">
						<p><b class="n">{k.people}</b> {k.people === 1 ? 'person' : 'people'} today</p>
						<p class="quiet">for {k.students} {k.students === 1 ? 'student' : 'students'}</p>
						{#if k.cameIn + k.droppedOut > 0}
							<p class="small">
								<a href="/write/kept?change={k.id}" data-sveltekit-noscroll>
									{[
										k.cameIn > 0 ? `${k.cameIn} came in` : '',
										k.droppedOut > 0
											? k.form === 'list'
												? `${people(k.droppedOut)} on it not written to now`
												: `${k.droppedOut} dropped out`
											: ''
									]
										.filter(Boolean)
										.join(', ')}<span class="spoken"> in {k.name}</span></a
								>
								{k.form === 'rule' ? since(k) : ''}
							</p>
						{:else}
							<p class="small quiet">
								{k.form === 'rule' ? `nobody came or went ${since(k)}` : 'all of them written to'}
							</p>
						{/if}
					</div>
					<div class="do">
						<Button size="small" kind="tertiary" href="/write?use={k.id}">Use in Write</Button>
						<Button
							size="small"
							kind="ghost"
							on:click={() => {
								renaming = k;
								name = k.name;
							}}>Rename</Button
						>
						<Button size="small" kind="ghost" on:click={() => (givingUp = k)}>Delete</Button>
					</div>
				</li>
			{/each}
		</ul>
	{/if}
</div>

<Modal
	size="xs"
	open={renaming !== null}
	modalHeading="Rename “{renaming?.name}”"
	primaryButtonText="Rename"
	secondaryButtonText="Leave it"
	primaryButtonDisabled={name.trim() === ''}
	hasForm
	formId="rename"
	on:close={() => (renaming = null)}
	on:click:button--secondary={() => (renaming = null)}
	on:submit={() => (document.getElementById('rename') as HTMLFormElement).requestSubmit()}
>
	<form
		id="rename"
		method="post"
		action="?/rename"
		use:enhance={() =>
			({ update }) => {
				renaming = null;
				return update();
			}}
	>
		<input type="hidden" name="id" value={renaming?.id} />
		<TextInput labelText="Name" name="name" bind:value={name} autocomplete="off" dir="auto" />
	</form>
</Modal>
<Modal
	size="xs"
	danger
	open={givingUp !== null}
	modalHeading="Delete “{givingUp?.name}”?"
	primaryButtonText="Delete it"
	secondaryButtonText="Keep it"
	on:close={() => (givingUp = null)}
	on:click:button--secondary={() => (givingUp = null)}
	on:submit={() => (document.getElementById('give-up') as HTMLFormElement).requestSubmit()}
>
	<p>It can no longer be used. Dispatches that used it keep what they were.</p>
	<form
		id="give-up"
		method="post"
		action="?/giveUp"
		use:enhance={() =>
			({ update }) => {
				givingUp = null;
				return update();
			}}
	>
		<input type="hidden" name="id" value={givingUp?.id} />
	</form>
</Modal>

<style>
	h1 {
		font-size: 24px;
	}
	.filter {
		max-width: 320px;
	}
	ul {
		border-bottom: 1px solid var(--line);
	}
	li {
		display: grid;
		grid-template-columns: 210px minmax(0, 1fr) 240px auto;
		gap: 6px 20px;
		border-top: 1px solid var(--line);
		padding: 12px 0;
		align-items: start;
	}
	h2 {
		overflow-wrap: anywhere;
	}
	.name {
		display: grid;
		gap: 4px;
		justify-items: start;
	}
	.what {
		display: grid;
		gap: 4px;
		overflow-wrap: anywhere;
	}
	.n {
		font-size: 18px;
	}
	.change {
		border-inline-start: 2px solid var(--line-strong);
		padding-inline-start: 10px;
		display: grid;
		gap: 4px;
	}
	.do {
		display: flex;
		flex-wrap: wrap;
	}
	@media (max-width: 1000px) {
		li {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
