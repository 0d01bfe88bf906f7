<script lang="ts">
	import { goto } from '$app/navigation';
	import { Search } from 'carbon-components-svelte';
	import type { JumpTo } from '$lib/server/desk/people/types';
	import { getJson } from './post-json';

	/** Finds people, sections and groups, and where wanted dispatches, pages and what is done on them, by a few letters and by keyboard alone, and goes there. */
	let {
		label,
		placeholder = label,
		among = 'all',
		autofocus = false,
		nobody = 'Nobody and nothing by these letters.',
		typed = $bindable(''),
		ongo = () => {}
	}: {
		label: string;
		placeholder?: string;
		among?: 'all' | 'people';
		autofocus?: boolean;
		/** What is said where nothing is found. */
		nobody?: string;
		typed?: string;
		/** Hears that the reader is taken to what was found. */
		ongo?: () => void;
	} = $props();
	let found = $state.raw<readonly JumpTo[] | null>(null);
	let at = $state(0);
	let trouble = $state('');
	let asked = 0;
	let goFirst = false;
	const kinds = {
		...{ person: 'Person', dispatch: 'Dispatch', section: 'Section', group: 'Group' },
		...{ page: 'Page', deed: 'Do' }
	};

	$effect(() => {
		const search = typed.trim();
		const mine = (asked += 1);
		if (search === '') {
			found = null;
			return;
		}
		const timer = setTimeout(async () => {
			const answer = await getJson<JumpTo[]>(
				`/jump?among=${among}&q=${encodeURIComponent(search)}`
			);
			if (mine !== asked) return;
			trouble = answer.why;
			if (answer.ok) found = answer.body;
			at = 0;
			if (goFirst && found?.[0]) go(found[0]);
			goFirst = false;
		}, 100);
		return () => clearTimeout(timer);
	});
	function keys(event: KeyboardEvent) {
		if (!found || found.length === 0) {
			// Whoever is quicker than the answer is taken to the first as soon as it is there.
			if (event.key === 'Enter') goFirst = true;
			return;
		}
		if (event.key === 'ArrowDown') at = Math.min(found.length - 1, at + 1);
		else if (event.key === 'ArrowUp') at = Math.max(0, at - 1);
		else if (event.key === 'Enter') go(found[at]!);
		else return;
		event.preventDefault();
		event.stopPropagation();
	}
	function go(to: JumpTo) {
		ongo();
		typed = '';
		void goto(to.href);
	}
</script>

<!-- svelte-ignore a11y_no_static_element_interactions -->
<div onkeydown={keys}>
	<Search labelText={label} {placeholder} {autofocus} bind:value={typed} />
	{#if trouble}<p class="fail" role="alert">{trouble}</p>{/if}
	{#if found}
		<p class="spoken" role="status">{found.length} found</p>
		<ul class="found" aria-label="Found">
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
				<li class="quiet">{nobody}</li>
			{/each}
		</ul>
	{/if}
</div>

<style>
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
