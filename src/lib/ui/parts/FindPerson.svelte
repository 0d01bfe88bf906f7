<script lang="ts">
	import { Search } from 'carbon-components-svelte';
	import { getJson } from './post-json';
	import type { FoundPerson } from '$lib/server/desk/people/types';

	/** Finds a person by the beginnings of their names and hands them over. */
	let {
		label,
		among = 'anyone',
		onfound
	}: {
		/** Says what happens to whoever is found: "Put someone in by hand". */
		label: string;
		among?: 'anyone' | 'staff' | 'students' | 'seen';
		onfound: (person: FoundPerson) => void;
	} = $props();
	let search = $state('');
	let found = $state.raw<FoundPerson[]>([]);
	let none = $state(false);
	let asked = 0;

	$effect(() => {
		const q = search.trim();
		const mine = (asked += 1);
		none = false;
		if (q.length < 2) {
			found = [];
			return;
		}
		const timer = setTimeout(async () => {
			const answer = await getJson<FoundPerson[]>(
				`/people/find?q=${encodeURIComponent(q)}&among=${among}`
			);
			if (mine !== asked || !answer.ok) return;
			found = answer.body;
			none = found.length === 0;
		}, 120);
		return () => clearTimeout(timer);
	});
	function take(person: FoundPerson) {
		onfound(person);
		search = '';
	}
</script>

<div class="find">
	<Search size="sm" labelText={label} placeholder="{label}: name" bind:value={search} />
	{#if found.length > 0}
		<ul aria-label="People found">
			{#each found as p (p.personId)}
				<li>
					<button onclick={() => take(p)}>
						<b dir="auto">{p.name}</b> <span class="quiet" dir="auto">{p.note}</span>
					</button>
				</li>
			{/each}
		</ul>
	{:else if none}
		<p class="small quiet" role="status">Nobody by that name.</p>
	{/if}
</div>

<style>
	.find {
		position: relative;
		min-width: min(100%, 300px);
	}
	ul {
		position: absolute;
		z-index: 5;
		inset-inline: 0;
		background: var(--sheet);
		border: 1px solid var(--line-strong);
		max-height: 260px;
		overflow: auto;
	}
	button {
		font: inherit;
		display: block;
		width: 100%;
		text-align: start;
		border: 0;
		background: none;
		padding: 6px 10px;
		color: inherit;
		cursor: pointer;
	}
	button:hover,
	button:focus-visible {
		background: var(--wash);
	}
</style>
