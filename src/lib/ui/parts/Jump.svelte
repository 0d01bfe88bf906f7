<script lang="ts">
	import { goto } from '$app/navigation';
	import { Modal, Search } from 'carbon-components-svelte';
	import type { JumpTo } from '$lib/server/desk/people/types';
	import { getJson } from './post-json';

	/** Search-and-jump: people, dispatches and sections by a few letters, by keyboard alone. */
	let { open = $bindable(false) }: { open?: boolean } = $props();
	let typed = $state('');
	let found = $state.raw<readonly JumpTo[] | null>(null);
	let at = $state(0);
	let trouble = $state('');
	let asked = 0;
	let timer: ReturnType<typeof setTimeout> | undefined;
	const kinds = { person: 'Person', dispatch: 'Dispatch', section: 'Section' } as const;

	$effect(() => {
		const search = typed.trim();
		clearTimeout(timer);
		if (search === '') {
			found = null;
			return;
		}
		timer = setTimeout(async () => {
			const mine = (asked += 1);
			const answer = await getJson<JumpTo[]>(`/jump?q=${encodeURIComponent(search)}`);
			if (mine !== asked) return;
			trouble = answer.why;
			if (answer.ok) found = answer.body;
			at = 0;
		}, 100);
	});
	function keys(event: KeyboardEvent) {
		if (!found || found.length === 0) return;
		if (event.key === 'ArrowDown') at = Math.min(found.length - 1, at + 1);
		else if (event.key === 'ArrowUp') at = Math.max(0, at - 1);
		else if (event.key === 'Enter') go(found[at]!);
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
	function go(to: JumpTo) {
		open = false;
		typed = '';
		void goto(to.href);
	}
</script>

<Modal
	passiveModal
	bind:open
	modalLabel="Jump to"
	modalHeading="By a few letters"
	size="sm"
	selectorPrimaryFocus=".jump input"
	on:close={() => (typed = '')}
>
	<!-- svelte-ignore a11y_no_static_element_interactions -->
	<div class="jump" onkeydown={keys}>
		<Search
			labelText="A person, dispatch or section"
			placeholder="A person, dispatch or section"
			bind:value={typed}
		/>
		{#if trouble}<p class="fail" role="alert">{trouble}</p>{/if}
		{#if found}
			<p class="spoken" role="status">{found.length} found</p>
			<ul>
				{#each found as to, i (to.key)}
					<li class:on={i === at}>
						<a
							href={to.href}
							onclick={(e) => {
								e.preventDefault();
								go(to);
							}}
						>
							<span class="quiet kind">{kinds[to.kind]}</span>
							<b dir="auto">{to.name}</b>
							<span class="quiet small" dir="auto">{to.note}</span>
						</a>
					</li>
				{:else}
					<li class="quiet">Nobody and nothing by these letters.</li>
				{/each}
			</ul>
		{/if}
	</div>
</Modal>

<style>
	.jump {
		min-height: 300px;
	}
	ul {
		list-style: none;
		padding: 0;
		margin: 8px 0 0;
	}
	li a {
		display: flex;
		flex-wrap: wrap;
		gap: 0 10px;
		align-items: baseline;
		padding: 5px 8px;
		min-height: 24px;
		color: inherit;
		text-decoration: none;
	}
	li.on a,
	li a:hover {
		background: var(--wash);
	}
	.kind {
		font-size: 12px;
		min-width: 60px;
	}
</style>
