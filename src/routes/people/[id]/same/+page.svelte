<script lang="ts">
	import { enhance } from '$app/forms';
	import { Button } from 'carbon-components-svelte';
	import type { BesideEachOther } from '$lib/server/desk/hand/types';

	/** Two people side by side: are they one? */
	let { data, form } = $props();
	const [one, other] = $derived(data.people);
	type Line = readonly [what: string, of: (p: BesideEachOther) => readonly string[]];
	const lines: readonly Line[] = [
		['Reads', (p) => [p.language]],
		['Grade', (p) => [p.grade].filter(Boolean)],
		['District number', (p) => [p.identifier].filter(Boolean)],
		['Addresses', (p) => p.addresses],
		['Ties', (p) => p.ties],
		['Lives with', (p) => p.homes],
		['Known from', (p) => p.sources],
		['Dispatches so far', (p) => [String(p.dispatches)]]
	];
	const shared = (line: Line, text: string) =>
		line[1](one).includes(text) && line[1](other).includes(text);
</script>

<svelte:head><title>{one.name}: one or two? · People · Idle Courier</title></svelte:head>

{#snippet cell(line: Line, p: BesideEachOther)}
	<ul>
		{#each line[1](p) as text, i (i)}
			<li class:same={shared(line, text)} dir="auto">{text}</li>
		{:else}<li class="quiet">–</li>{/each}
	</ul>
{/snippet}

<div class="page">
	<p class="quiet">
		<a href="/people">People</a> · <a href="/people/{one.id}" dir="auto">{one.name}</a> · One or two?
	</p>
	<h1>Are they one person?</h1>
	<p>
		What both have stands out. Made one, ties, addresses with their consent, own choices and the log
		go to the one that stays; it can be taken back on their page.
	</p>
	{#if form?.why}<p class="fail" role="alert">{form.why}</p>{/if}
	<table class="plain">
		<thead>
			<tr>
				<td></td>
				{#each [one, other] as p (p.id)}
					<th><a href="/people/{p.id}" dir="auto">{p.name}</a></th>
				{/each}
			</tr>
		</thead>
		<tbody>
			{#each lines as line (line[0])}
				{#if line[1](one).length + line[1](other).length > 0}
					<tr>
						<th scope="row">{line[0]}</th>
						<td>{@render cell(line, one)}</td>
						<td>{@render cell(line, other)}</td>
					</tr>
				{/if}
			{/each}
			<tr>
				<td></td>
				{#each [[one, other] as const, [other, one] as const] as [keep, gone] (keep.id)}
					<td>
						<form method="post" use:enhance>
							<input type="hidden" name="keepId" value={keep.id} />
							<input type="hidden" name="otherId" value={gone.id} />
							<Button type="submit" size="small" kind="tertiary">One person: this one stays</Button>
						</form>
					</td>
				{/each}
			</tr>
		</tbody>
	</table>
	<p class="small"><a href="/people/{one.id}">They are two: leave it as it is</a></p>
</div>

<style>
	table {
		max-width: 900px;
	}
	th[scope='row'] {
		text-align: start;
		font-weight: 400;
		color: var(--quiet);
	}
	td,
	th {
		vertical-align: top;
	}
	.same {
		font-weight: 650;
	}
</style>
