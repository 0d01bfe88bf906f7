<script lang="ts">
	import { Button, Search } from 'carbon-components-svelte';
	import { fold } from '$lib/core/format/fold';
	import type { Choice } from '$lib/server/desk/audience/types';

	/** Picks out of a long list. Searching narrows the list and leaves the picks alone. */
	let {
		choices,
		picked = $bindable(),
		what,
		all = choices.length,
		search = $bindable(''),
		hint = 'Name, school or teacher'
	}: {
		choices: readonly Choice[];
		picked: number[];
		/** "sections, Winter 2026–27", said after "n of N". */
		what: string;
		/** How many the list has before any filter. */
		all?: number;
		search?: string;
		hint?: string;
	} = $props();

	/** As many as are drawn at once; more are drawn on demand, and a search finds any. */
	const batch = 200;
	let drawn = $state(batch);
	let current = $state(0);
	let list = $state<HTMLUListElement>();

	const indexed = $derived(choices.map((c) => ({ choice: c, text: fold(`${c.name} ${c.note}`) })));
	const found = $derived.by(() => {
		const words = fold(search).split(/\s+/).filter(Boolean);
		return indexed.filter((i) => words.every((w) => i.text.includes(w))).map((i) => i.choice);
	});
	const pickedSet = $derived(new Set(picked));
	const allIn = $derived(found.length > 0 && found.every((c) => pickedSet.has(c.id)));
	const mine = $derived(choices.filter((c) => pickedSet.has(c.id)).length);
	const shown = $derived(found.slice(0, drawn));
	/** The one box of the list that Tab stops at; arrows go on from there. */
	const stop = $derived(Math.min(current, Math.max(0, shown.length - 1)));

	$effect(() => {
		void [search, choices];
		drawn = batch;
		current = 0;
	});

	function toggle(id: number) {
		picked = pickedSet.has(id) ? picked.filter((p) => p !== id) : [...picked, id];
	}
	function toggleAll() {
		const ids = new Set(found.map((c) => c.id));
		picked = allIn ? picked.filter((p) => !ids.has(p)) : [...new Set([...picked, ...ids])];
	}
	const boxes = () => [...(list?.querySelectorAll<HTMLInputElement>('input') ?? [])];
	const steps: Record<string, (at: number, last: number) => number> = {
		ArrowDown: (at, last) => Math.min(last, at + 1),
		ArrowUp: (at) => Math.max(0, at - 1),
		PageDown: (at, last) => Math.min(last, at + 10),
		PageUp: (at) => Math.max(0, at - 10),
		Home: () => 0,
		End: (_, last) => last
	};
	function walk(event: KeyboardEvent) {
		const step = steps[event.key];
		if (!step || event.altKey || event.ctrlKey || event.metaKey) return;
		event.preventDefault();
		const all = boxes();
		const at = all.indexOf(document.activeElement as HTMLInputElement);
		current = step(at, all.length - 1);
		all[current]?.focus();
	}
	function intoList(event: KeyboardEvent) {
		if (event.key !== 'ArrowDown') return;
		event.preventDefault();
		boxes()[stop]?.focus();
	}
</script>

<div class="picker">
	<Search
		size="sm"
		labelText="Search this list"
		placeholder={hint}
		bind:value={search}
		on:keydown={intoList}
	/>
	<div class="sum">
		<p class="small quiet" role="status">
			{found.length} of {all}
			{what}; {mine} picked
		</p>
		{#if found.length > 1}
			<Button kind="ghost" size="small" on:click={toggleAll}>
				{allIn ? `Take out these ${found.length}` : `Pick these ${found.length}`}
			</Button>
		{/if}
	</div>
	{#if choices.length === 0}
		<p class="none">There is nothing in this list.</p>
	{:else if found.length === 0}
		<p class="none">Nothing matches “{search}”.</p>
	{:else}
		<!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
		<ul aria-label="Choices" bind:this={list} onkeydown={walk}>
			{#each shown as c, i (c.id)}
				<li>
					<label class:on={pickedSet.has(c.id)}>
						<input
							type="checkbox"
							tabindex={i === stop ? 0 : -1}
							checked={pickedSet.has(c.id)}
							onfocus={() => (current = i)}
							onchange={() => toggle(c.id)}
						/>
						<span class="name" dir="auto">{c.name}</span>
						<span class="n">{c.students}</span>
						{#if c.note}<span class="note small quiet">{c.note}</span>{/if}
					</label>
				</li>
			{/each}
			{#if found.length > drawn}
				<li class="none">
					<Button kind="ghost" size="small" on:click={() => (drawn += batch)}>
						Show more of the {found.length - drawn} left
					</Button>
				</li>
			{/if}
		</ul>
	{/if}
</div>

<style>
	.picker {
		display: grid;
		gap: 6px;
		grid-template-rows: auto auto minmax(0, 1fr);
		min-height: 0;
	}
	.sum {
		display: flex;
		flex-wrap: wrap;
		justify-content: space-between;
		align-items: center;
	}
	.picker :global(.bx--btn) {
		min-height: 26px;
		padding: 2px 6px;
		font-size: 12.5px;
	}
	ul {
		overflow: auto;
		min-height: 150px;
		border: 1px solid var(--line);
		background: var(--sheet);
	}
	label {
		display: grid;
		grid-template-columns: 18px 1fr auto;
		column-gap: 8px;
		align-items: baseline;
		padding: 5px 8px;
		border-bottom: 1px solid var(--wash);
		cursor: pointer;
	}
	label:hover {
		background: var(--row);
	}
	label.on {
		background: var(--wash);
	}
	input {
		accent-color: var(--action);
		margin: 0;
		align-self: center;
	}
	.n {
		color: var(--quiet);
	}
	.note {
		grid-column: 2 / 4;
	}
	.none {
		padding: 10px 8px;
	}
</style>
