<script lang="ts">
	import { goto } from '$app/navigation';
	import { Search } from 'carbon-components-svelte';
	import { fileStateWords } from '$lib/ui/roster/words';
	import type { FoundPerson } from '$lib/server/desk/people/types';

	/** Find anyone in two keystrokes; what waits to be mended stands beside. */
	let { data } = $props();
	let found = $state.raw<readonly FoundPerson[] | null>(null);
	let at = $state(0);
	let trouble = $state('');
	let timer: ReturnType<typeof setTimeout> | undefined;
	let asked = 0;
	let goFirst = false;
	let typed = $state('');
	// What was typed before the page came alive counts too.
	$effect(() => search(typed));
	const broken = $derived(data.mend.email + data.mend.text);

	function search(text: string) {
		clearTimeout(timer);
		if (text.trim() === '') {
			found = null;
			return;
		}
		timer = setTimeout(async () => {
			const mine = (asked += 1);
			try {
				const response = await fetch(`/people/find?among=seen&q=${encodeURIComponent(text)}`, {
					headers: { accept: 'application/json' }
				});
				if (mine !== asked) return;
				trouble = response.ok ? '' : 'People could not be looked up. Try once more.';
				if (response.ok) found = (await response.json()) as FoundPerson[];
				at = 0;
				if (goFirst && found?.[0]) void goto(`/people/${found[0].personId}`);
				goFirst = false;
			} catch {
				trouble = 'No connection. Try once more.';
			}
		}, 120);
	}
	function keys(event: KeyboardEvent) {
		if (!found || found.length === 0) {
			// Whoever is quicker than the answer is taken to the first name as soon as it is there.
			if (event.key === 'Enter') goFirst = true;
			return;
		}
		if (event.key === 'ArrowDown') at = Math.min(found.length - 1, at + 1);
		else if (event.key === 'ArrowUp') at = Math.max(0, at - 1);
		else if (event.key === 'Enter') void goto(`/people/${found[at]!.personId}`);
		else return;
		event.preventDefault();
	}
</script>

<svelte:head><title>People · Idle Courier</title></svelte:head>

<div class="page">
	<h1>People</h1>
	<div class="two">
		<section>
			<!-- svelte-ignore a11y_no_static_element_interactions -->
			<div onkeydown={keys}>
				<Search
					labelText="Find a person"
					placeholder="Beginnings of names, in any order: “ana am”"
					autofocus
					bind:value={typed}
				/>
			</div>
			{#if trouble}<p class="fail" role="alert">{trouble}</p>{/if}
			{#if found}
				<ul class="found" aria-label="People found">
					{#each found as person, i (person.personId)}
						<li class:on={i === at}>
							<a href="/people/{person.personId}" dir="auto">{person.name}</a>
							<span class="quiet small" dir="auto">{person.note}</span>
						</li>
					{:else}
						<li class="quiet">
							Nobody whose names begin so{data.everyone
								? ''
								: ' among the students you look after and their families'}.
						</li>
					{/each}
				</ul>
			{:else}
				<p class="quiet small">
					Household, addresses, own choices, reading habits, and all that was sent to a person or
					about a student.
				</p>
			{/if}
		</section>
		<aside>
			<h2>Addresses to mend</h2>
			{#if broken === 0}
				<p class="quiet">None. An address that refuses copies is listed here.</p>
			{:else}
				<p>
					<a class="big fail" href="/people/mend">{broken}</a>
					<span class="quiet">{data.mend.email} email, {data.mend.text} text</span>
				</p>
			{/if}
			{#if data.unsaid > 0}
				<h2 class="next">Custody nobody has said</h2>
				<p>
					<a class="big heed" href="/people/custody">{data.unsaid.toLocaleString('en')}</a>
					<span class="quiet"
						>{data.unsaid === 1 ? 'guardian is' : 'guardians are'} left out until somebody says it</span
					>
				</p>
			{/if}
			{#if data.rosters}
				<h2 class="next"><a href="/people/rosters">Rosters</a></h2>
				{#each data.rosters as file (file.id)}
					<p>
						<a href="/people/rosters/{file.id}" dir="auto">{file.name}</a>
						<span class={file.state === 'refused' ? 'fail' : 'heed'}
							>{fileStateWords(file.state)}</span
						>
					</p>
				{:else}
					<p class="quiet">None waits. A file of who is where is brought here.</p>
				{/each}
			{/if}
		</aside>
	</div>
</div>

<style>
	.two {
		display: grid;
		grid-template-columns: minmax(0, 1fr) 300px;
		gap: 32px;
		align-items: start;
	}
	section {
		max-width: 640px;
		display: grid;
		gap: 8px;
	}
	.found li {
		display: flex;
		justify-content: space-between;
		gap: 16px;
		padding: 7px 10px;
		background: var(--sheet);
		border-bottom: 1px solid var(--line);
	}
	.found li.on {
		box-shadow: inset 3px 0 0 var(--action);
	}
	.next {
		margin-top: 18px;
	}
	.big {
		font-size: 34px;
		font-weight: 700;
		line-height: 1;
		margin-inline-end: 8px;
	}
	@media (max-width: 900px) {
		.two {
			grid-template-columns: minmax(0, 1fr);
		}
	}
</style>
